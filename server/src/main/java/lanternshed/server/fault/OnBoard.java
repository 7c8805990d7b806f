package lanternshed.server.fault;

import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.MappedSuperclass;
import jakarta.persistence.Version;

/** What lies on a job's board; taken off it is only hidden, so that it can come back. */
@MappedSuperclass
abstract class OnBoard {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  private Long id;

  @Version private long version;
  private long jobId;
  private boolean removed;

  protected OnBoard() {}

  OnBoard(long jobId) {
    this.jobId = jobId;
  }

  Long id() {
    return id;
  }

  long version() {
    return version;
  }

  long jobId() {
    return jobId;
  }

  boolean removed() {
    return removed;
  }

  void setRemoved(boolean now) {
    removed = now;
  }
}
