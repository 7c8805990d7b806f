package lanternshed.server.jobs;

import java.util.List;
import lanternshed.server.images.ImageUse;
import org.springframework.stereotype.Component;

/** A job needs the image that it rescued and the one that it built, closed or not. */
@Component
class JobImages implements ImageUse {
  private final JobRepository jobs;

  JobImages(JobRepository jobs) {
    this.jobs = jobs;
  }

  @Override
  public List<String> needing(long image) {
    return jobs.onImage(image).stream().map(JobEntity::machine).toList();
  }
}
