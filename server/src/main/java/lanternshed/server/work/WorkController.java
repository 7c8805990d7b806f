package lanternshed.server.work;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import lanternshed.core.boot.Around;
import lanternshed.core.boot.BootChain;
import lanternshed.core.boot.BootPath;
import lanternshed.core.boot.Start;
import lanternshed.core.family.CarrierCheck;
import lanternshed.core.family.Families;
import lanternshed.core.family.Family;
import lanternshed.core.machine.Profile;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.measure.Sum;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.Pace;
import lanternshed.core.plan.Plan;
import lanternshed.core.survey.Holes;
import lanternshed.core.survey.Survey;
import lanternshed.core.survey.Volumes;
import lanternshed.core.survey.Whereabouts;
import lanternshed.core.work.Recipe;
import lanternshed.core.work.Rescue;
import lanternshed.core.work.RescueMap;
import lanternshed.core.work.SinceWritten;
import lanternshed.server.images.ImageEntity;
import lanternshed.server.images.ImageService;
import lanternshed.server.jobs.JobEntity;
import lanternshed.server.jobs.JobService;
import lanternshed.server.machines.MachineService;
import lanternshed.server.media.MediaService;
import lanternshed.server.media.MediumEntity;
import lanternshed.server.plans.PlanService;
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
  private final PlanService plans;
  private final Shelf shelf;
  private final WriteGuard guard;
  private final MachineService machines;

  WorkController(
      WorkService work,
      JobService jobs,
      MediaService media,
      ImageService images,
      PlanService plans,
      Shelf shelf,
      WriteGuard guard,
      MachineService machines) {
    this.machines = machines;
    this.work = work;
    this.jobs = jobs;
    this.media = media;
    this.images = images;
    this.plans = plans;
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

  /**
   * @param shown what the plan foretells of the machine's own screen (V-5)
   */
  record Prediction(
      boolean written,
      String readFrom,
      List<BootChain.Link> boot,
      Start start,
      String geometry,
      List<VolumePrediction> volumes,
      List<DrivePrediction> drives,
      List<Finding> findings,
      Optional<Plan.Verdict> shown) {}

  /** A drive as the emulator will show it, by a file of the carrier. */
  record DrivePrediction(int id, String file, String size) {}

  record VolumePrediction(
      String letter, String label, long files, long freeBytes, String free, Sum because) {}

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
    String proof = jobs.get(id).proof();
    return proof.isEmpty() ? ProofView.NONE : Json.read(proof, ProofView.class);
  }

  /** V-1: what the machine will show, from the bytes on the card where it is written. */
  @GetMapping("/api/jobs/{id}/prediction")
  Prediction prediction(@PathVariable long id) {
    JobEntity job = jobs.get(id);
    if (JobService.madeElsewhere(job)) return elsewhere(job);
    ImageEntity image = images.get(job.builtId().orElse(null));
    // An image that goes on the card as it is has no recipe, and nothing of it was promised.
    if (job.recipe().isEmpty()) return asItIs(job, image);
    Recipe recipe = Recipe.parse(job.recipe());
    Family family = Families.named(recipe.family());
    boolean written = job.cardId().isPresent();
    boolean meant = proof(id).start().kind() != Start.Kind.NOT_MEANT;
    BootChain chain;
    Start start = Start.elsewhere(family.startsFrom());
    try (Medium m = shown(job, image)) {
      Around around = plans.around(job);
      Optional<BootPath> boot = family.boot();
      chain = boot.map(b -> b.walk(m, recipe.geometry(), around.reach())).orElse(BootChain.NONE);
      if (boot.isPresent()) {
        // The bytes are those of the image that was proved: what lies where is known of it.
        Whereabouts places = images.whereabouts(image);
        start =
            Start.of(
                chain,
                meant,
                meant && chain.holds()
                    ? boot.get().rehearse(m, around, places::at)
                    : Optional.empty());
      }
    }
    return new Prediction(
        written,
        readFrom(job),
        chain.links(),
        start,
        // Without heads the machine shows no cylinders either.
        recipe.geometry().heads() > 1 ? recipe.geometry().toString() : "",
        predicted(images.survey(image), family),
        family.carries() ? drives(job, image) : List.of(),
        family.carries() ? against(job, image) : List.of(),
        plans.shown(job));
  }

  /** Of what the machine's own tool makes only the plan can say what will be shown. */
  private Prediction elsewhere(JobEntity job) {
    Family family = Families.of(machines.get(job.profile()));
    return new Prediction(
        false,
        "the plan",
        List.of(),
        Start.elsewhere(family.startsFrom()),
        "",
        List.of(),
        List.of(),
        List.of(),
        plans.shown(job));
  }

  private Prediction asItIs(JobEntity job, ImageEntity image) {
    Start nothing = Start.of(BootChain.NONE, false);
    Family family = Families.named("pc");
    return new Prediction(
        job.cardId().isPresent(),
        readFrom(job),
        List.of(),
        nothing,
        "",
        predicted(images.survey(image), family),
        List.of(),
        List.of(),
        Optional.empty());
  }

  private List<DrivePrediction> drives(JobEntity job, ImageEntity image) {
    Profile.Carrier carrier = machines.get(job.profile()).carrier();
    try (Medium m = shown(job, image)) {
      return CarrierCheck.drives(carrier, Volumes.find(m, 0).volume()).stream()
          .map(d -> new DrivePrediction(d.id(), d.file().path(), Say.mib(d.file().bytes())))
          .toList();
    }
  }

  private List<Finding> against(JobEntity job, ImageEntity image) {
    Profile.Carrier carrier = machines.get(job.profile()).carrier();
    try (Medium m = shown(job, image)) {
      return CarrierCheck.of(carrier, Volumes.find(m, 0).volume());
    }
  }

  private Medium shown(JobEntity job, ImageEntity image) {
    return job.cardId()
        .map(c -> media.open(media.get(c), Pace.counted()))
        .orElseGet(() -> images.open(image));
  }

  private String readFrom(JobEntity job) {
    return job.cardId().map(c -> media.get(c).name()).orElse("the built image");
  }

  private static List<VolumePrediction> predicted(Survey s, Family family) {
    List<VolumePrediction> out = new ArrayList<>();
    for (Survey.Found v : s.volumes()) {
      out.add(
          new VolumePrediction(
              family.letter(out.size()),
              v.label(),
              v.files(),
              v.use().freeBytes(),
              Say.bytes(v.use().freeBytes()),
              Sum.of("V-1", "Free space as the machine counts")
                  .line("", "free clusters or blocks", v.use().free())
                  .bytes("×", "one of them", v.use().clusterBytes())
                  .bytes("=", "bytes free", v.use().freeBytes())
                  .because("The machine counts what its own map says is free, one by one.")
                  .done()));
    }
    return out;
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
