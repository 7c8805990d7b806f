package lanternshed.server.shell;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.ConnectException;
import java.sql.SQLException;
import java.sql.SQLTransientConnectionException;
import org.junit.jupiter.api.Test;
import org.springframework.transaction.CannotCreateTransactionException;

/** A pool that is in use is no database that is away. */
class DatabaseTest {
  private static Exception pool(String figures, Exception cause) {
    String text = "HikariPool-1 - Connection is not available, request timed out after 5000ms (";
    return new CannotCreateTransactionException(
        "Could not open", new SQLTransientConnectionException(text + figures + ")", null, cause));
  }

  @Test
  void allConnectionsInUseIsBusy() {
    Exception e = pool("total=12, active=12, idle=0, waiting=188", null);
    assertThat(Database.isBusy(e)).isTrue();
    assertThat(Database.isAway(e)).isFalse();
  }

  @Test
  void noConnectionToBeMadeIsAway() {
    SQLException refused = new SQLException("refused", "08001", new ConnectException("refused"));
    for (Exception e :
        new Exception[] {
          pool("total=12, active=12, idle=0, waiting=3", refused),
          pool("total=0, active=0, idle=0, waiting=3", null)
        }) {
      assertThat(Database.isBusy(e)).isFalse();
      assertThat(Database.isAway(e)).isTrue();
    }
  }
}
