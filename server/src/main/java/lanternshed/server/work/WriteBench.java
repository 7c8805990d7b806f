package lanternshed.server.work;

import lanternshed.core.work.CardWriter;
import lanternshed.core.work.Progress;
import lanternshed.server.images.ImageEntity;
import lanternshed.server.images.ImageService;
import lanternshed.server.jobs.JobEntity;
import lanternshed.server.jobs.JobService;
import lanternshed.server.jobs.Lamp;
import lanternshed.server.media.MediaService;
import lanternshed.server.media.MediumEntity;
import lanternshed.server.stations.Station;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** Puts the image of a job on a card and reads it back. */
@Component
class WriteBench extends StationBench {
  private final MediaService media;
  private final ImageService images;
  private final CardBench card;
  private final TransactionTemplate steps;

  WriteBench(
      JobService jobs,
      MediaService media,
      ImageService images,
      CardBench card,
      TransactionTemplate steps) {
    super(jobs, WorkEntity.Kind.WRITE, Station.WRITE);
    this.media = media;
    this.images = images;
    this.card = card;
    this.steps = steps;
  }

  @Override
  public void run(WorkEntity w, Progress progress) {
    JobEntity job = jobs.get(w.jobId());
    ImageEntity image = images.get(job.builtId().orElse(null));
    MediumEntity m = media.get(w.mediumId().orElseThrow());
    CardWriter.Report report = card.write(w, image, m, job.machine(), progress);
    steps.executeWithoutResult(
        t -> {
          media.holds(m.id(), report.identical() ? image.id() : null);
          jobs.change(job.id(), j -> j.setCard(m.id()));
          jobs.set(
              job.id(), Station.WRITE, report.identical() ? Lamp.MOSS : Lamp.BRICK, report.sum());
        });
  }
}
