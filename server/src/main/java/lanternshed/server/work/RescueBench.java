package lanternshed.server.work;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.survey.Holes;
import lanternshed.core.survey.Survey;
import lanternshed.core.work.Progress;
import lanternshed.core.work.Rescue;
import lanternshed.server.images.ImageEntity;
import lanternshed.server.images.ImageService;
import lanternshed.server.images.Surveyed;
import lanternshed.server.jobs.JobEntity;
import lanternshed.server.jobs.JobService;
import lanternshed.server.jobs.Lamp;
import lanternshed.server.media.MediaService;
import lanternshed.server.media.MediumEntity;
import lanternshed.server.shell.Shelf;
import lanternshed.server.stations.Station;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** Images the old medium of a job; its survey follows at once. */
@Component
class RescueBench extends StationBench {
  /** A read that takes longer is given up; a drive that retries by itself needs some seconds. */
  static final Duration STALL = Duration.ofSeconds(60);

  private final MediaService media;
  private final ImageService images;
  private final Shelf shelf;
  private final Storing storing;
  private final Wishes wishes;
  private final TransactionTemplate steps;

  RescueBench(
      JobService jobs,
      MediaService media,
      ImageService images,
      Shelf shelf,
      Storing storing,
      Wishes wishes,
      TransactionTemplate steps) {
    super(jobs, WorkEntity.Kind.RESCUE, Station.RESCUE);
    this.media = media;
    this.images = images;
    this.shelf = shelf;
    this.storing = storing;
    this.wishes = wishes;
    this.steps = steps;
  }

  @Override
  public void run(WorkEntity w, Progress progress) {
    Finished f = storing.finished(w).orElseGet(() -> rescued(w, progress));
    Path map = shelf.halfMap(w.id());
    ImageEntity image = storing.store(w, f);
    if (Files.exists(map)) shelf.move(map, images.map(image));
    Survey survey = images.survey(image);
    Optional<Finding> stop = survey.stop();
    steps.executeWithoutResult(
        t -> {
          jobs.change(
              w.jobId(),
              j -> {
                j.setRescued(image.id());
                j.redoAfter(Station.RESCUE);
              });
          jobs.set(w.jobId(), Station.RESCUE, Lamp.MOSS, f.sentence());
          jobs.set(
              w.jobId(),
              Station.SURVEY,
              stop.isPresent() ? Lamp.BRICK : Lamp.MOSS,
              stop.map(Finding::what).orElseGet(() -> Surveyed.sentence(survey)));
        });
    storing.done(w);
  }

  private Finished rescued(WorkEntity w, Progress progress) {
    JobEntity job = jobs.get(w.jobId());
    MediumEntity m = media.get(w.mediumId().orElseThrow());
    Path half = shelf.half(w.id());
    Path map = shelf.halfMap(w.id());
    Rescue.Report r;
    try (Medium source = media.open(m)) {
      Rescue.Settings settings =
          new Rescue.Settings(() -> wishes.of(w), true, System::nanoTime, STALL);
      r = Rescue.run(source, half, map, settings, progress);
    } finally {
      wishes.forget(w.id());
    }
    List<long[]> holes = r.failed().stream().map(x -> new long[] {x.start(), x.length()}).toList();
    List<Holes.Hit> hits;
    try (Medium image = FileMedium.open(half)) {
      hits = Holes.name(image, holes);
    }
    long tail = media.tailBytes(m);
    String cut =
        tail == 0
            ? ""
            : " The image ended " + Say.bytes(tail) + " into a sector; that piece is left out.";
    return storing.finish(
        w,
        new Finished(
            job.machine() + ", as rescued",
            r.digests(),
            r.sectors(),
            m.name(),
            r.lost(),
            hits,
            rescued(r, hits) + cut,
            ""));
  }

  private static String rescued(Rescue.Report r, List<Holes.Hit> hits) {
    String left =
        r.left() == 0 ? "" : " " + Say.sectors(r.left()) + " of free space left out on purpose.";
    String again =
        r.again() == 0
            ? ""
            : " "
                + Say.sectors(r.again())
                + " did not lie on the shelf any more as they came and were read again: look at the"
                + " disk that the shelf lies on.";
    return came(r, hits) + left + again;
  }

  private static String came(Rescue.Report r, List<Holes.Hit> hits) {
    if (r.lost() == 0) {
      return (r.left() == 0 ? "Everything came: " : "Everything in use came: ")
          + Say.sectors(r.sectors() - r.left())
          + (r.late() > 0 ? ", " + Say.count(r.late()) + " on a retry" : "")
          + ".";
    }
    long files = hits.stream().filter(h -> h.kind().equals("file")).count();
    long free =
        hits.stream()
            .filter(h -> h.kind().equals("free space"))
            .mapToLong(Holes.Hit::sectors)
            .sum();
    return Say.sectors(r.lost())
        + " lost: "
        + Say.plural(files, "file", "files")
        + " hit, "
        + Say.count(free)
        + " in free space.";
  }
}
