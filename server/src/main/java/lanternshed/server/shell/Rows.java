package lanternshed.server.shell;

import jakarta.persistence.EntityManager;
import jakarta.persistence.EntityNotFoundException;
import jakarta.persistence.LockModeType;
import java.util.function.Consumer;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * Changes a row under its lock, from what it says then: of two who change one row at once neither
 * undoes what the other wrote.
 */
@Component
public class Rows {
  private final EntityManager entities;

  Rows(EntityManager entities) {
    this.entities = entities;
  }

  /**
   * @param missing what is said where there is no such row
   * @param how changes it; what it throws changes nothing
   */
  @Transactional
  public <T> T change(Class<T> kind, Object id, String missing, Consumer<? super T> how) {
    T row = entities.find(kind, id);
    if (row == null) throw new EntityNotFoundException(missing);
    // What the transaction itself has changed of it counts; whatever else is known may be old.
    entities.flush();
    entities.refresh(row, LockModeType.PESSIMISTIC_WRITE);
    how.accept(row);
    entities.flush();
    return row;
  }
}
