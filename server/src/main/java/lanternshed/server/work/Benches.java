package lanternshed.server.work;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.survey.Holes;
import lanternshed.core.survey.Survey;
import lanternshed.core.work.CardWriter;
import lanternshed.core.work.Digests;
import lanternshed.core.work.ImageBuilder;
import lanternshed.core.work.Progress;
import lanternshed.core.work.Recipe;
import lanternshed.core.work.Rescue;
import lanternshed.server.images.ImageEntity;
import lanternshed.server.images.ImageService;
import lanternshed.server.jobs.JobEntity;
import lanternshed.server.jobs.JobService;
import lanternshed.server.jobs.Lamp;
import lanternshed.server.jobs.Stations;
import lanternshed.server.logbook.LogService;
import lanternshed.server.media.MediaService;
import lanternshed.server.media.MediumEntity;
import lanternshed.server.plans.PlanService;
import lanternshed.server.shell.Json;
import lanternshed.server.shell.Shelf;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** Does each kind of work with the core's own tools and settles its station. */
@Component
public class Benches {
  private final JobService jobs;
  private final MediaService media;
  private final ImageService images;
  private final PlanService plans;
  private final Shelf shelf;
  private final Wishes wishes;
  private final LogService log;
  private final TransactionTemplate steps;
  private final ObjectProvider<WorkService> work;

  /** A read that takes longer is given up; a drive that retries by itself needs some seconds. */
  private static final Duration STALL = Duration.ofSeconds(60);

  Benches(
      JobService jobs,
      MediaService media,
      ImageService images,
      PlanService plans,
      Shelf shelf,
      Wishes wishes,
      LogService log,
      TransactionTemplate steps,
      ObjectProvider<WorkService> work) {
    this.wishes = wishes;
    this.log = log;
    this.steps = steps;
    this.work = work;
    this.jobs = jobs;
    this.media = media;
    this.images = images;
    this.plans = plans;
    this.shelf = shelf;
  }

  void run(WorkEntity w, Progress progress) {
    switch (w.kind()) {
      case RESCUE -> rescue(w, progress);
      case BUILD -> build(w, progress);
      case WRITE -> write(w, progress);
    }
  }

  private static int station(WorkEntity w) {
    return switch (w.kind()) {
      case RESCUE -> Stations.RESCUE;
      case BUILD -> Stations.BUILD;
      case WRITE -> Stations.WRITE;
    };
  }

  void failed(WorkEntity w, String sentence) {
    jobs.set(w.jobId(), station(w), Lamp.BRICK, sentence);
  }

  void cancelled(WorkEntity w) {
    jobs.set(w.jobId(), station(w), Lamp.LIT, "");
  }

  // ---- rescue -----------------------------------------------------------------------------------

  private void rescue(WorkEntity w, Progress progress) {
    Finished f = finished(w).orElseGet(() -> rescued(w, progress));
    Path map = shelf.halfMap(w.id());
    ImageEntity image = store(w, f);
    if (Files.exists(map)) shelf.move(map, images.map(image));
    Survey survey = images.survey(image);
    Optional<Finding> stop = survey.stop();
    steps.executeWithoutResult(
        t -> {
          jobs.change(
              w.jobId(),
              j -> {
                j.setRescued(image.id());
                j.redoAfter(Stations.RESCUE);
              });
          jobs.set(w.jobId(), Stations.RESCUE, Lamp.MOSS, f.sentence());
          jobs.set(
              w.jobId(),
              Stations.SURVEY,
              stop.isPresent() ? Lamp.BRICK : Lamp.MOSS,
              stop.map(Finding::what).orElseGet(() -> surveyed(survey)));
        });
    shelf.remove(shelf.finished(w.id()));
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
    return finish(
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

  // ---- storing: in an order that can be gone on with after a kill at any step
  // --------------------

  private Optional<Finished> finished(WorkEntity w) {
    return shelf.note(shelf.finished(w.id())).map(t -> Json.read(t, Finished.class));
  }

  private Finished finish(WorkEntity w, Finished f) {
    shelf.note(shelf.finished(w.id()), Json.write(f));
    return f;
  }

  private ImageEntity store(WorkEntity w, Finished f) {
    return images.keep(
        shelf.half(w.id()), f.name(), f.digests(), f.sectors(), f.origin(), f.lost(), f.hits());
  }

  private static String rescued(Rescue.Report r, List<Holes.Hit> hits) {
    String left =
        r.left() == 0 ? "" : " " + Say.sectors(r.left()) + " of free space left out on purpose.";
    return came(r, hits) + left;
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

  private static String surveyed(Survey s) {
    Optional<Survey.Found> v = s.volumes().stream().filter(Survey.Found::readable).findFirst();
    long findings = s.allFindings().stream().filter(f -> f.weight() != Finding.Weight.NOTE).count();
    return v.map(
                f ->
                    f.kind()
                        + " "
                        + f.label()
                        + ", "
                        + Say.plural(f.files(), "file", "files")
                        + ", "
                        + Say.mib(f.bytes()))
            .orElse("No volume that can be read as files")
        + (findings == 0 ? "." : "; " + Say.plural(findings, "finding.", "findings."));
  }

  // ---- build ------------------------------------------------------------------------------------

  private void build(WorkEntity w, Progress progress) {
    Finished f = finished(w).orElseGet(() -> built(w, progress));
    ImageEntity image = store(w, f);
    steps.executeWithoutResult(
        t -> {
          jobs.change(
              w.jobId(),
              j -> {
                j.setBuilt(image.id());
                j.setProof(f.proof());
                j.redoAfter(Stations.BUILD);
              });
          jobs.set(w.jobId(), Stations.BUILD, Lamp.MOSS, f.sentence());
        });
    shelf.remove(shelf.finished(w.id()));
  }

  private Finished built(WorkEntity w, Progress progress) {
    JobEntity job = jobs.get(w.jobId());
    Recipe recipe = Recipe.parse(job.recipe());
    ImageEntity source = images.get(job.rescuedId().orElse(null));
    long reach = plans.of(job).plan().reach();
    ImageBuilder.examine(recipe, source.sha256());
    Path half = shelf.half(w.id());
    // The same recipe gives the same bytes, so a build that was cut off begins anew.
    shelf.remove(half);
    shelf.needRoom(recipe.volumes().stream().mapToLong(v -> v.length() * 512).sum() / 4);
    ImageBuilder.Proof proof;
    Digests digests;
    try (Medium from = images.open(source);
        Medium to = FileMedium.create(half, recipe.sectors())) {
      ImageBuilder.build(recipe, Optional.of(from), to, progress);
      proof = ImageBuilder.prove(recipe, Optional.of(from), to, reach, progress);
      digests = Digests.of(to, progress, "digesting the image");
    }
    ProofView view = ProofView.of(proof);
    if (!proof.proved()) {
      shelf.remove(half);
      jobs.change(job.id(), j -> j.setProof(Json.write(view)));
      throw new ShedException("Not proved: " + view.why() + " Nothing was kept.");
    }
    return finish(
        w,
        new Finished(
            job.machine() + ", built",
            digests,
            recipe.sectors(),
            "recipe",
            0,
            List.of(),
            "Proved: " + view.sentence(),
            Json.write(view)));
  }

  // ---- write ------------------------------------------------------------------------------------

  private void write(WorkEntity w, Progress progress) {
    JobEntity job = jobs.get(w.jobId());
    ImageEntity image = images.get(job.builtId().orElse(null));
    MediumEntity m = media.get(w.mediumId().orElseThrow());
    overwritten(job, m);
    CardWriter.Report report;
    try (Medium from = images.open(image);
        Medium card = media.openCard(m, media.pace())) {
      CardWriter.write(from, card, w.place(), s -> work.getObject().place(w.id(), s), progress);
      report = CardWriter.readBack(from, card, progress);
    }
    steps.executeWithoutResult(
        t -> {
          media.holds(m.id(), report.identical() ? image.id() : null);
          jobs.change(job.id(), j -> j.setCard(m.id()));
          jobs.set(
              job.id(), Stations.WRITE, report.identical() ? Lamp.MOSS : Lamp.BRICK, report.sum());
        });
  }

  /**
   * Before the first byte: what the card held is gone, and every job that counted on it hears so.
   */
  private void overwritten(JobEntity job, MediumEntity m) {
    steps.executeWithoutResult(
        t -> {
          media.holds(m.id(), null);
          for (JobEntity other : jobs.onCard(m.id())) {
            if (other.id().equals(job.id())) continue;
            jobs.change(
                other.id(),
                j -> {
                  j.setCard(null);
                  j.redoAfter(Stations.WRITE);
                });
            jobs.set(
                other.id(),
                Stations.WRITE,
                Lamp.LIT,
                m.name() + " was written over for " + job.machine() + "; write this image again.");
            log.shed(
                job.id(),
                Stations.WRITE,
                m.name() + " held the image of " + other.machine() + "; it is written over.");
          }
        });
  }
}
