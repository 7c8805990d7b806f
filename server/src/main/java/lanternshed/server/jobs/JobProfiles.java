package lanternshed.server.jobs;

import lanternshed.server.machines.ProfileUse;
import org.springframework.stereotype.Component;

/** A job needs its profile as long as it exists. */
@Component
class JobProfiles implements ProfileUse {
  private final JobRepository jobs;

  JobProfiles(JobRepository jobs) {
    this.jobs = jobs;
  }

  @Override
  public boolean uses(String key) {
    return jobs.existsByProfile(key);
  }
}
