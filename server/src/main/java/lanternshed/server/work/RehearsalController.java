package lanternshed.server.work;

import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import lanternshed.core.boot.Around;
import lanternshed.core.boot.BootPath;
import lanternshed.core.boot.Rehearsal;
import lanternshed.core.cpu.Level;
import lanternshed.core.family.Families;
import lanternshed.core.family.Family;
import lanternshed.core.machine.Card;
import lanternshed.core.machine.Profile;
import lanternshed.core.machine.Setup;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.Pace;
import lanternshed.core.plan.Plan;
import lanternshed.core.survey.Survey;
import lanternshed.core.survey.Whereabouts;
import lanternshed.server.images.ImageEntity;
import lanternshed.server.images.ImageService;
import lanternshed.server.jobs.JobEntity;
import lanternshed.server.jobs.JobService;
import lanternshed.server.machines.MachineService;
import lanternshed.server.media.MediaService;
import lanternshed.server.media.MediumEntity;
import lanternshed.server.plans.PlanChoice;
import lanternshed.server.plans.PlanService;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** The start of an image, run as a machine would run it, and what would be otherwise. */
@RestController
class RehearsalController {
  private final ImageService images;
  private final MachineService machines;
  private final MediaService media;
  private final JobService jobs;
  private final PlanService plans;

  RehearsalController(
      ImageService images,
      MachineService machines,
      MediaService media,
      JobService jobs,
      PlanService plans) {
    this.media = media;
    this.images = images;
    this.machines = machines;
    this.jobs = jobs;
    this.plans = plans;
  }

  /** What is changed in a what-if. */
  enum WhatIfKind {
    GEOMETRY,
    FIRMWARE,
    CALLS,
    PROCESSOR
  }

  /**
   * The same bytes with one thing changed.
   *
   * @param what is changed, in words
   * @param how it would be
   * @param shown the geometry then
   */
  record WhatIf(
      WhatIfKind kind, String what, String how, Geometry shown, boolean starts, String sentence) {}

  /**
   * @param run absent where starts of this family are not run
   * @param under which firmware and geometry, in words
   * @param shown the geometry that its firmware shows
   */
  record RehearsalView(Optional<Rehearsal> run, String under, Geometry shown, List<WhatIf> ifs) {}

  /**
   * An image of a job under what its plan has chosen, the usual where nothing is chosen. What came
   * from the old drive runs under the heads and sectors that it was written with.
   *
   * @param card whether the bytes are those on the job's card, where there is one
   */
  @GetMapping("/api/jobs/{id}/rehearsal")
  RehearsalView ofJob(
      @PathVariable long id,
      @RequestParam long image,
      @RequestParam(defaultValue = "false") boolean card) {
    JobEntity job = jobs.get(id);
    ImageEntity of = images.get(image);
    boolean old = job.rescuedId().filter(r -> r == image).isPresent();
    // A new image is made for a card, and what the firmware shows follows from that card.
    Optional<Plan> plan = old ? Optional.empty() : plans.settled(job).map(c -> plans.plan(job, c));
    Optional<PlanChoice> choice = plans.settled(job);
    Setup setup =
        Setup.of(
            machines.get(job.profile()),
            choice.map(PlanChoice::firmware).orElse(""),
            choice.map(PlanChoice::system).orElse(""));
    Card meant = plan.map(Plan::card).orElse(asLong(of));
    Optional<MediumEntity> on = card ? job.cardId().map(media::get) : Optional.empty();
    try (Medium m = on.map(c -> media.open(c, Pace.counted())).orElseGet(() -> images.open(of))) {
      return rehearsal(m, of, setup, meant, old);
    }
  }

  @GetMapping("/api/images/{id}/rehearsal")
  RehearsalView rehearsal(
      @PathVariable long id,
      @RequestParam @NotNull @Size(max = 80) String machine,
      @RequestParam(defaultValue = "") @Size(max = 40) String firmware,
      @RequestParam(defaultValue = "") @Size(max = 40) String system) {
    ImageEntity image = images.get(id);
    Setup setup = Setup.of(machines.get(machine), firmware, system);
    try (Medium m = images.open(image)) {
      return rehearsal(m, image, setup, asLong(image), false);
    }
  }

  /** A card as long as the image. */
  private static Card asLong(ImageEntity image) {
    return new Card("the image", 0, image.sectors());
  }

  private RehearsalView rehearsal(
      Medium m, ImageEntity image, Setup setup, Card card, boolean old) {
    Family family = Families.of(setup.profile());
    Around shown = family.around(setup, card);
    Optional<Geometry> written = written(images.survey(image), shown.shown());
    Around own = written.map(g -> under(g, shown)).orElse(shown);
    Around around = old ? own : shown;
    Other other =
        old
            ? new Other(
                WhatIfKind.GEOMETRY,
                "heads and sectors of a card of this size",
                words(shown.shown()),
                shown)
            : new Other(
                WhatIfKind.GEOMETRY, "heads and sectors as on the image", words(own.shown()), own);
    Whereabouts places = images.whereabouts(image);
    Optional<Rehearsal> run = family.boot().flatMap(b -> b.rehearse(m, around, places::at));
    String under = setup.firmware().name() + ": " + around.shown();
    if (run.isEmpty()) return new RehearsalView(run, under, around.shown(), List.of());
    BootPath path = family.boot().orElseThrow();
    List<WhatIf> ifs = new ArrayList<>();
    List<Other> others = new ArrayList<>(others(family, setup, around, card));
    if (written.isPresent()) others.add(0, other);
    for (Other o : others) {
      path.rehearse(m, o.around(), places::at)
          .ifPresent(
              r ->
                  ifs.add(
                      new WhatIf(
                          o.kind(),
                          o.what(),
                          o.how(),
                          o.around().shown(),
                          r.starts(),
                          r.sentence())));
    }
    return new RehearsalView(run, under, around.shown(), ifs);
  }

  private record Other(WhatIfKind kind, String what, String how, Around around) {}

  private static String words(Geometry g) {
    return g.heads() + " × " + g.sectors();
  }

  private static Around under(Geometry g, Around now) {
    return new Around(g, now.reach(), now.extended(), now.level());
  }

  /** Other firmware of this machine, an early processor, no later calls. */
  private static List<Other> others(Family family, Setup setup, Around now, Card card) {
    List<Other> out = new ArrayList<>();
    for (Profile.Firmware f : setup.profile().firmwares()) {
      if (f.key().equals(setup.firmware().key())) continue;
      Setup other = new Setup(setup.profile(), f, setup.system());
      out.add(new Other(WhatIfKind.FIRMWARE, "firmware", f.name(), family.around(other, card)));
    }
    if (now.extended()) {
      Around plain = new Around(now.shown(), now.reach(), false, now.level());
      out.add(new Other(WhatIfKind.CALLS, "calls that pass an LBA", "none", plain));
    }
    if (now.level() != Level.I8086) {
      Around early = new Around(now.shown(), now.reach(), now.extended(), Level.I8086);
      out.add(new Other(WhatIfKind.PROCESSOR, "processor", "an 8086", early));
    }
    return out;
  }

  /** With which heads and sectors an image was written, where that is known and other. */
  private static Optional<Geometry> written(Survey survey, Geometry shown) {
    return survey
        .agreedGeometry()
        .filter(g -> g.heads() != shown.heads() || g.sectors() != shown.sectors())
        .map(
            g -> {
              long cylinders = survey.sectors() / ((long) g.heads() * g.sectors());
              int most = (int) Math.max(1, Math.min(1024, cylinders));
              return new Geometry(most, g.heads(), g.sectors());
            });
  }
}
