package lanternshed.server.work;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Say;
import lanternshed.core.medium.Medium;
import lanternshed.core.work.Digests;
import lanternshed.core.work.Progress;
import lanternshed.core.work.Rescue;
import lanternshed.core.work.SinceWritten;
import lanternshed.server.images.ImageEntity;
import lanternshed.server.images.ImageService;
import lanternshed.server.images.Surveyed;
import lanternshed.server.jobs.JobEntity;
import lanternshed.server.jobs.JobService;
import lanternshed.server.jobs.Lamp;
import lanternshed.server.media.MediaService;
import lanternshed.server.media.MediumEntity;
import lanternshed.server.shell.Json;
import lanternshed.server.shell.Shelf;
import lanternshed.server.stations.Station;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Z-1 and Z-4: the finished card becomes an image, is held against what was written to it where
 * that is known, and is the golden copy from then on.
 */
@Component
class ReadBackBench extends StationBench {
  private final MediaService media;
  private final ImageService images;
  private final Shelf shelf;
  private final Storing storing;
  private final TransactionTemplate steps;

  ReadBackBench(
      JobService jobs,
      MediaService media,
      ImageService images,
      Shelf shelf,
      Storing storing,
      TransactionTemplate steps) {
    super(jobs, WorkEntity.Kind.READ_BACK, Station.CLOSE);
    this.media = media;
    this.images = images;
    this.shelf = shelf;
    this.storing = storing;
    this.steps = steps;
  }

  @Override
  public void run(WorkEntity w, Progress progress) {
    Finished f = storing.finished(w).orElseGet(() -> read(w, progress));
    ImageEntity image = storing.store(w, f);
    boolean whole = f.lost() == 0;
    JobEntity then = jobs.get(w.jobId());
    Optional<SinceWritten> since = whole ? against(then, image, progress) : Optional.empty();
    String sentence = whole ? f.sentence() + " " + told(then, image, since) : f.sentence();
    steps.executeWithoutResult(
        t -> {
          // What has holes is no golden copy; it lies on the shelf with what came.
          if (whole) {
            jobs.change(
                w.jobId(),
                j -> {
                  j.setGolden(image.id());
                  j.setSinceWritten(since.map(Json::write).orElse(""));
                });
          }
          JobEntity job = jobs.get(w.jobId());
          // The lamp comes to Close when it is its turn; what was read back is said there already.
          boolean early = job.inHand() && job.station(Station.CLOSE).state() == Lamp.DARK;
          Lamp lamp = !whole ? Lamp.BRICK : early ? Lamp.DARK : Lamp.LIT;
          jobs.set(w.jobId(), Station.CLOSE, lamp, sentence);
        });
    storing.done(w);
    shelf.remove(shelf.halfMap(w.id()));
  }

  private Finished read(WorkEntity w, Progress progress) {
    JobEntity job = jobs.get(w.jobId());
    MediumEntity m = media.get(w.mediumId().orElseThrow());
    Path half = shelf.half(w.id());
    Rescue.Report r;
    try (Medium source = media.open(m)) {
      Rescue.Settings settings =
          new Rescue.Settings(() -> Rescue.Wish.USUAL, true, System::nanoTime, RescueBench.STALL);
      r = Rescue.run(source, half, shelf.halfMap(w.id()), settings, progress);
    }
    Digests digests = r.digests();
    String lost =
        r.lost() == 0
            ? "Read back whole, " + Say.sectors(r.sectors()) + "."
            : Say.sectors(r.lost())
                + " of the card did not read, so it is no golden copy: take another card.";
    return storing.finish(
        w,
        new Finished(
            job.machine() + ", golden copy",
            digests,
            r.sectors(),
            m.name(),
            r.lost(),
            List.of(),
            lost,
            ""));
  }

  /** What changed since the image was written, file by file; empty where nothing was written. */
  private Optional<SinceWritten> against(JobEntity job, ImageEntity now, Progress progress) {
    Optional<ImageEntity> built = job.builtId().flatMap(images::known);
    if (built.isEmpty() || built.get().sha256().equals(now.sha256())) return Optional.empty();
    try (Medium a = images.open(built.get());
        Medium b = images.open(now)) {
      return Optional.of(SinceWritten.of(a, b, progress));
    }
  }

  private String told(JobEntity job, ImageEntity now, Optional<SinceWritten> since) {
    boolean same =
        job.builtId()
            .flatMap(images::known)
            .filter(i -> i.sha256().equals(now.sha256()))
            .isPresent();
    if (same) return "Every sector is as it was written.";
    return since.map(SinceWritten::sentence).orElseGet(() -> Surveyed.sentence(images.survey(now)));
  }
}
