package lanternshed.server.fault;

import jakarta.persistence.MappedSuperclass;
import lanternshed.server.shell.Removable;

/** What lies on a job's board. */
@MappedSuperclass
abstract class OnBoard extends Removable {
  private long jobId;

  protected OnBoard() {}

  OnBoard(long jobId) {
    this.jobId = jobId;
  }

  long jobId() {
    return jobId;
  }
}
