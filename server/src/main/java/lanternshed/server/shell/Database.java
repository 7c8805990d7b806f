package lanternshed.server.shell;

import jakarta.persistence.PersistenceException;
import java.sql.SQLException;
import org.springframework.dao.DataAccessException;
import org.springframework.transaction.TransactionException;

/** Tells a database that does not answer from a statement that it refused. */
public final class Database {
  /** In words, wherever it is met. */
  public static final String AWAY =
      "The database does not answer. All that was saved is kept; try again when it is back.";

  private Database() {}

  /**
   * Whether a failure says that the database cannot be reached. SQLSTATE 08 is a broken connection,
   * 57P an ending server (PostgreSQL, appendix A).
   */
  public static boolean isAway(Throwable failure) {
    boolean asked = false;
    for (Throwable t = failure; t != null; t = t.getCause()) {
      asked |=
          t instanceof DataAccessException
              || t instanceof TransactionException
              || t instanceof PersistenceException
              || t instanceof SQLException;
      if (t instanceof java.sql.SQLTransientConnectionException) return true;
      if (t instanceof SQLException s && isBroken(s)) return true;
      if (asked && t instanceof java.io.IOException) return true;
    }
    return false;
  }

  private static boolean isBroken(SQLException e) {
    String state = e.getSQLState();
    if (state != null) return state.startsWith("08") || state.startsWith("57P");
    // The pool's own word for a connection that broke under it comes without a state.
    return String.valueOf(e.getMessage()).contains("closed");
  }
}
