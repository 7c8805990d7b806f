package lanternshed.server.shell;

import jakarta.persistence.PersistenceException;
import java.sql.SQLException;
import java.sql.SQLTransientConnectionException;
import org.springframework.dao.DataAccessException;
import org.springframework.transaction.TransactionException;

/** Tells a database that does not answer from a statement that it refused. */
public final class Database {
  /** In words, wherever it is met. */
  public static final String AWAY =
      "The database does not answer. All that was saved is kept; try again when it is back.";

  /** In words, where it answers and others have all its turns. */
  public static final String BUSY =
      "So many ask at once that there was no turn left for this. Nothing was changed; ask again in two"
          + " seconds.";

  private Database() {}

  /**
   * Whether a failure says that all connections were in use for as long as one waits. Where none
   * can be made the pool gives the reason along, or has none at all.
   */
  public static boolean isBusy(Throwable failure) {
    for (Throwable t = failure; t != null; t = t.getCause()) {
      if (!(t instanceof SQLTransientConnectionException)) continue;
      return t.getCause() == null && !String.valueOf(t.getMessage()).contains("total=0");
    }
    return false;
  }

  /**
   * Whether a failure says that the database cannot be reached. SQLSTATE 08 is a broken connection,
   * 57P an ending server (PostgreSQL, appendix A).
   */
  public static boolean isAway(Throwable failure) {
    if (isBusy(failure)) return false;
    boolean asked = false;
    for (Throwable t = failure; t != null; t = t.getCause()) {
      asked |=
          t instanceof DataAccessException
              || t instanceof TransactionException
              || t instanceof PersistenceException
              || t instanceof SQLException;
      if (t instanceof SQLTransientConnectionException) return true;
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
