package lanternshed.server.jobs;

import java.util.List;
import lanternshed.server.media.MediumUse;
import org.springframework.stereotype.Component;

/** An open job needs its old medium and its card. */
@Component
class JobMedia implements MediumUse {
  private final JobService jobs;

  JobMedia(JobService jobs) {
    this.jobs = jobs;
  }

  @Override
  public List<String> needing(long medium) {
    return jobs.needing(medium).stream()
        .map(j -> "the open job " + j + "; close that one first")
        .toList();
  }
}
