package lanternshed.server.logbook;

/** Whose logbook it is; the jobs say so. */
public interface LoggedJobs {

  /** A job as its logbook is headed. */
  record Logged(long id, String machine, String fault) {}

  /**
   * @throws jakarta.persistence.EntityNotFoundException where there is no such job
   */
  Logged of(long job);
}
