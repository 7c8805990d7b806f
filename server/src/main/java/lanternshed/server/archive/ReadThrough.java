package lanternshed.server.archive;

import java.util.Optional;
import java.util.stream.Stream;
import lanternshed.server.fault.FaultService;
import lanternshed.server.images.ImageService;
import lanternshed.server.jobs.JobEntity;
import lanternshed.server.jobs.JobService;
import lanternshed.server.logbook.LogService;
import lanternshed.server.pictures.PictureService;
import lanternshed.server.plans.PlanChoice;
import lanternshed.server.proving.TimingService;
import lanternshed.server.shell.Json;
import org.springframework.stereotype.Component;

/** Reads a job that came in as every screen will, before anything of it is kept. */
@Component
class ReadThrough {
  private final JobService jobs;
  private final ImageService images;
  private final LogService log;
  private final FaultService fault;
  private final PictureService pictures;
  private final TimingService timing;

  ReadThrough(
      JobService jobs,
      ImageService images,
      LogService log,
      FaultService fault,
      PictureService pictures,
      TimingService timing) {
    this.jobs = jobs;
    this.images = images;
    this.log = log;
    this.fault = fault;
    this.pictures = pictures;
    this.timing = timing;
  }

  void through(long id) {
    JobEntity job = jobs.get(id);
    jobs.view(job);
    // What was foretold is reckoned from its images, where they came.
    boolean whole =
        Stream.of(job.rescuedId(), job.builtId(), job.goldenId())
            .flatMap(Optional::stream)
            .allMatch(i -> images.known(i).isPresent());
    if (whole) jobs.shown(id);
    log.whole(id);
    fault.parts(id);
    fault.tests(id);
    pictures.of(id);
    timing.speeds(id);
    if (!job.planChoice().isEmpty()) Json.read(job.planChoice(), PlanChoice.class);
  }
}
