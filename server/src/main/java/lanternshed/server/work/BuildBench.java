package lanternshed.server.work;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import lanternshed.core.boot.Around;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.Settling;
import lanternshed.core.work.Digests;
import lanternshed.core.work.ImageBuilder;
import lanternshed.core.work.Progress;
import lanternshed.core.work.Proof;
import lanternshed.core.work.Recipe;
import lanternshed.server.images.ImageEntity;
import lanternshed.server.images.ImageService;
import lanternshed.server.jobs.JobEntity;
import lanternshed.server.jobs.JobService;
import lanternshed.server.jobs.Lamp;
import lanternshed.server.plans.PlanService;
import lanternshed.server.shell.Json;
import lanternshed.server.shell.Shelf;
import lanternshed.server.stations.Station;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** Makes the image of a job's recipe and proves it; what is not proved is not kept. */
@Component
class BuildBench extends StationBench {
  private final ImageService images;
  private final PlanService plans;
  private final Shelf shelf;
  private final Storing storing;
  private final ShelfStock stock;
  private final TransactionTemplate steps;

  BuildBench(
      JobService jobs,
      ImageService images,
      PlanService plans,
      Shelf shelf,
      Storing storing,
      ShelfStock stock,
      TransactionTemplate steps) {
    super(jobs, WorkEntity.Kind.BUILD, Station.BUILD);
    this.images = images;
    this.plans = plans;
    this.shelf = shelf;
    this.storing = storing;
    this.stock = stock;
    this.steps = steps;
  }

  @Override
  public void run(WorkEntity w, Progress progress) {
    Finished f = storing.finished(w).orElseGet(() -> built(w, progress));
    ImageEntity image = storing.store(w, f);
    steps.executeWithoutResult(
        t -> {
          jobs.change(
              w.jobId(),
              j -> {
                j.setBuilt(image.id());
                j.setProof(f.proof());
                j.redoAfter(Station.BUILD);
              });
          jobs.set(w.jobId(), Station.BUILD, Lamp.MOSS, f.sentence());
        });
    storing.done(w);
  }

  private Finished built(WorkEntity w, Progress progress) {
    JobEntity job = jobs.get(w.jobId());
    Recipe recipe = Recipe.parse(job.recipe());
    Optional<ImageEntity> source = job.rescuedId().map(images::get);
    Around around = plans.around(job);
    ImageBuilder.examine(recipe, source.map(ImageEntity::sha256).orElse(""));
    Path half = shelf.half(w.id());
    // The same recipe gives the same bytes, so a build that was cut off begins anew.
    shelf.remove(half);
    shelf.needRoom(recipe.volumes().stream().mapToLong(BuildBench::room).sum());
    Proof proof;
    Digests digests;
    try (Medium from = source.map(images::open).orElse(null);
        Medium to = FileMedium.create(half, recipe.sectors())) {
      Optional<Medium> content = Optional.ofNullable(from);
      try (Settling safe = ImageBuilder.build(recipe, content, stock, to, progress)) {
        proof = Proof.of(recipe, content, to, around, progress);
        digests = Digests.of(to, progress, "digesting the image");
      }
    }
    ProofView view = ProofView.of(proof);
    if (!proof.proved()) {
      shelf.remove(half);
      jobs.change(job.id(), j -> j.setProof(Json.write(view)));
      String shelfs = stock.spoiled(recipe, progress).map(s -> " " + s).orElse("");
      throw new ShedException("Not proved: " + view.why() + shelfs + " Nothing was kept.");
    }
    return storing.finish(
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

  /** Files take what they have; of a volume that comes over a quarter is a fair guess. */
  private static long room(Recipe.Part p) {
    long files = p.files().stream().mapToLong(Recipe.FileFrom::bytes).sum();
    return p.from() >= 0 ? p.length() * 512 / 4 : files;
  }
}
