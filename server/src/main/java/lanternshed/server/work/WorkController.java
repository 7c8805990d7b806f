package lanternshed.server.work;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.ShedException;
import lanternshed.core.survey.Holes;
import lanternshed.core.work.Recipe;
import lanternshed.core.work.Rescue;
import lanternshed.core.work.RescueMap;
import lanternshed.core.work.SinceWritten;
import lanternshed.server.images.ImageEntity;
import lanternshed.server.images.ImageService;
import lanternshed.server.jobs.JobEntity;
import lanternshed.server.jobs.JobService;
import lanternshed.server.media.MediaService;
import lanternshed.server.media.MediumEntity;
import lanternshed.server.shell.Json;
import lanternshed.server.shell.Shelf;
import lanternshed.server.stations.Station;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Starts long work at a job's station, shows it, pauses it, lets it go on. */
@RestController
class WorkController {
  private final WorkService work;
  private final JobService jobs;
  private final MediaService media;
  private final ImageService images;
  private final Shelf shelf;
  private final WriteGuard guard;

  WorkController(
      WorkService work,
      JobService jobs,
      MediaService media,
      ImageService images,
      Shelf shelf,
      WriteGuard guard) {
    this.work = work;
    this.jobs = jobs;
    this.media = media;
    this.images = images;
    this.shelf = shelf;
    this.guard = guard;
  }

  /**
   * @param onlyChanges whether what the card holds already is left as it is (W-7); no where absent
   */
  record WriteOrder(long mediumId, @NotNull String confirm, Boolean onlyChanges) {}

  record CardChoice(long mediumId) {}

  record RangeView(long start, long length, String state) {}

  /**
   * A rescue's map.
   *
   * @param slowest nanoseconds a sector of the slowest read in each of 512 parts; 0 where none
   * @param another what one more round of retries may bring, in a sentence
   */
  record MapView(List<RangeView> ranges, long[] slowest, String another) {
    static final MapView NONE = new MapView(List.of(), new long[0], "");

    static MapView of(RescueMap m) {
      return new MapView(
          m.ranges().stream()
              .map(r -> new RangeView(r.start(), r.length(), r.state().name()))
              .toList(),
          m.slowest(),
          m.another());
    }
  }

  /** What is not said is as usual. */
  record RescueWish(@Min(0) @Max(20) Integer retries, Boolean filesFirst, Boolean skipFree) {
    Rescue.Wish wish() {
      boolean files = filesFirst != null && filesFirst;
      return new Rescue.Wish(
          retries == null ? Rescue.Wish.USUAL.retries() : retries,
          files,
          files && skipFree != null && skipFree);
    }
  }

  @PostMapping("/api/jobs/{id}/rescue")
  @ResponseStatus(HttpStatus.ACCEPTED)
  WorkView rescue(@PathVariable long id, @RequestBody(required = false) @Valid RescueWish wish) {
    JobEntity job = jobs.get(id);
    long mediumId =
        job.mediumId()
            .orElseThrow(() -> new ShedException("Choose the old medium of this job first."));
    MediumEntity m = media.get(mediumId);
    // Its image would be replaced by what it was overwritten with.
    if (job.rescuedId().isPresent()) media.needContent(m);
    shelf.needRoom(m.sectors() * 512);
    String kept = wish == null ? "" : Json.write(wish.wish());
    return work.view(
        work.begin(id, WorkEntity.Kind.RESCUE, Optional.of(mediumId), m.sectors() * 512, kept)
            .id());
  }

  @PostMapping("/api/jobs/{id}/build")
  @ResponseStatus(HttpStatus.ACCEPTED)
  WorkView build(@PathVariable long id) {
    JobEntity job = jobs.get(id);
    if (JobService.madeElsewhere(job)) {
      throw new ShedException(job.station(Station.BUILD).sentence() + " Nothing is built here.");
    }
    if (job.recipe().isEmpty())
      throw new ShedException("Settle the plan first; the recipe follows from it.");
    Recipe recipe = Recipe.parse(job.recipe());
    return work.view(
        work.begin(id, WorkEntity.Kind.BUILD, Optional.empty(), recipe.sectors() * 512).id());
  }

  @GetMapping("/api/jobs/{id}/write-check")
  WriteGuard.WriteCheck check(@PathVariable long id, @RequestParam long mediumId) {
    JobEntity job = jobs.get(id);
    MediumEntity m = media.get(mediumId);
    return guard.check(images.get(job.builtId().orElse(null)), m, origin(job, m));
  }

  private static boolean origin(JobEntity job, MediumEntity m) {
    return job.mediumId().filter(o -> o.equals(m.id())).isPresent();
  }

  @PostMapping("/api/jobs/{id}/write")
  @ResponseStatus(HttpStatus.ACCEPTED)
  WorkView write(@PathVariable long id, @RequestBody @Valid WriteOrder order) {
    JobEntity job = jobs.get(id);
    ImageEntity image = images.get(job.builtId().orElse(null));
    MediumEntity m = media.get(order.mediumId());
    guard.pass(image, m, origin(job, m), order.confirm());
    return work.view(
        work.begin(
                id,
                WorkEntity.Kind.WRITE,
                Optional.of(m.id()),
                image.sectors() * 512,
                WriteGuard.held(m, order.onlyChanges()))
            .id());
  }

  /** Z-1, Z-4: the finished card becomes the golden copy. */
  @PostMapping("/api/jobs/{id}/read-back")
  @ResponseStatus(HttpStatus.ACCEPTED)
  WorkView readBack(@PathVariable long id, @RequestBody @Valid CardChoice c) {
    if (jobs.get(id).closed()) {
      throw new ShedException("This job is closed; open it again, then read the card back.");
    }
    MediumEntity m = media.get(c.mediumId());
    shelf.needRoom(m.sectors() * 512);
    return work.view(
        work.begin(id, WorkEntity.Kind.READ_BACK, Optional.of(m.id()), m.sectors() * 512).id());
  }

  /** Z-1: what the machine did to the card since it was written; nothing where nobody looked. */
  @GetMapping("/api/jobs/{id}/since-written")
  SinceWritten since(@PathVariable long id) {
    String since = jobs.get(id).sinceWritten();
    return since.isEmpty() ? SinceWritten.NONE : Json.read(since, SinceWritten.class);
  }

  @GetMapping("/api/jobs/{id}/proof")
  ProofView proof(@PathVariable long id) {
    return ProofView.of(jobs.get(id).proof());
  }

  record Source(long version, long imageId) {}

  /** From now on the job's survey, plan and build are of this image. */
  @PutMapping("/api/jobs/{id}/source")
  void source(@PathVariable long id, @RequestBody @Valid Source s) {
    ImageEntity image = images.get(s.imageId());
    String stop = images.survey(image).stop().map(f -> f.what()).orElse("");
    jobs.goOnFrom(id, s.version(), image.id(), image.name(), stop);
  }

  @GetMapping("/api/runs/{id}")
  WorkView one(@PathVariable long id) {
    return work.view(id);
  }

  @GetMapping("/api/runs/{id}/map")
  MapView map(@PathVariable long id) {
    return work.map(id).map(MapView::of).orElse(MapView.NONE);
  }

  /** The map of a job's finished rescue. */
  @GetMapping("/api/jobs/{id}/map")
  MapView finishedMap(@PathVariable long id) {
    ImageEntity image = images.get(jobs.get(id).rescuedId().orElse(null));
    return java.nio.file.Files.exists(images.map(image))
        ? MapView.of(RescueMap.load(images.map(image)))
        : MapView.NONE;
  }

  @GetMapping("/api/runs/{id}/hits")
  List<Holes.Hit> hits(@PathVariable long id) {
    return work.hits(id);
  }

  @GetMapping("/api/runs/{id}/wish")
  RescueWish wish(@PathVariable long id) {
    Rescue.Wish w = work.wish(id);
    return new RescueWish(w.retries(), w.filesFirst(), w.skipFree());
  }

  @PutMapping("/api/runs/{id}/wish")
  WorkView wish(@PathVariable long id, @RequestBody @Valid RescueWish wish) {
    work.wish(id, wish.wish());
    return work.view(id);
  }

  @PostMapping("/api/runs/{id}/pause")
  WorkView pause(@PathVariable long id) {
    return work.pause(id);
  }

  @PostMapping("/api/runs/{id}/resume")
  WorkView resume(@PathVariable long id) {
    return work.resume(id);
  }

  @PostMapping("/api/runs/{id}/cancel")
  WorkView cancel(@PathVariable long id) {
    return work.cancel(id);
  }
}
