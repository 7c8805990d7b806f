package lanternshed.server.jobs;

import java.util.Map;
import java.util.Set;
import lanternshed.server.logbook.LoggedJobs;
import org.springframework.stereotype.Component;

/** A job as its logbook is headed. */
@Component
class JobLogs implements LoggedJobs {
  private final JobService jobs;

  JobLogs(JobService jobs) {
    this.jobs = jobs;
  }

  @Override
  public Logged of(long job) {
    JobEntity j = jobs.get(job);
    return new Logged(j.id(), j.machine(), j.fault());
  }

  @Override
  public Map<Long, String> machines(Set<Long> ids) {
    return jobs.machines(ids);
  }
}
