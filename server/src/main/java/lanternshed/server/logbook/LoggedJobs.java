package lanternshed.server.logbook;

import java.util.Map;
import java.util.Set;

/** Whose logbook it is; the jobs say so. */
public interface LoggedJobs {

  /** A job as its logbook is headed. */
  record Logged(long id, String machine, String fault) {}

  /**
   * @throws jakarta.persistence.EntityNotFoundException where there is no such job
   */
  Logged of(long job);

  /** Names of the machines of some jobs, by job, in one statement. */
  Map<Long, String> machines(Set<Long> jobs);
}
