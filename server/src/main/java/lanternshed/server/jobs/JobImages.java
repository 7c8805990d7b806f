package lanternshed.server.jobs;

import java.util.List;
import java.util.Set;
import java.util.stream.Stream;
import lanternshed.server.images.ImageEntity;
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

  @Override
  public Set<Long> kept() {
    return jobs.imagesOfJobs();
  }

  @Override
  public Set<String> keptContents() {
    return jobs.contentsOfRecipes();
  }

  /** A recipe builds again what it names, long after the job is closed. */
  @Override
  public List<String> keeping(ImageEntity image) {
    return Stream.concat(
            jobs.onImage(image.id()).stream(), jobs.withContent(image.sha256()).stream())
        .map(j -> "the job " + j.machine())
        .distinct()
        .toList();
  }
}
