package lanternshed.server.work;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import lanternshed.core.boot.Around;
import lanternshed.core.boot.BootChain;
import lanternshed.core.boot.BootPath;
import lanternshed.core.boot.Keys;
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
import org.springdoc.core.annotations.ParameterObject;
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
   * What is to be otherwise; what is absent stays as it is.
   *
   * @param heads as the firmware would show them
   * @param sectors a track
   * @param firmware key of a variant
   * @param calls whether there are calls that pass an LBA
   * @param active the one entry of the table that is marked; 0 for none
   * @param keys typed meanwhile, a blank between each
   * @param past whether it is followed behind its loader's entry
   * @param second an image on a second drive
   */
  record StartWish(
      @Min(1) @Max(255) Integer heads,
      @Min(1) @Max(63) Integer sectors,
      @Size(max = 40) String firmware,
      Level level,
      Boolean calls,
      @Min(0) @Max(4) Integer active,
      @Size(max = 200) String keys,
      Boolean past,
      Long second) {
    static final StartWish NONE =
        new StartWish(null, null, null, null, null, null, null, null, null);

    static StartWish shown(Geometry g) {
      return new StartWish(g.heads(), g.sectors(), null, null, null, null, null, null, null);
    }

    static StartWish firmware(String key) {
      return new StartWish(null, null, key, null, null, null, null, null, null);
    }

    static StartWish calls(boolean there) {
      return new StartWish(null, null, null, null, there, null, null, null, null);
    }

    static StartWish on(Level level) {
      return new StartWish(null, null, null, level, null, null, null, null, null);
    }

    /** The setup with the firmware that is wished for. */
    Setup of(Setup now) {
      return firmware == null ? now : Setup.of(now.profile(), firmware, now.system().key());
    }

    /** What the machine shows, but for what is wished for. */
    Around of(Around now, long total) {
      Around a = now.typed(Keys.of(keys == null ? "" : keys), Boolean.TRUE.equals(past));
      if (level != null) a = a.on(level);
      if (calls != null) a = a.calls(calls);
      if (heads == null && sectors == null) return a;
      int h = heads == null ? now.shown().heads() : heads;
      int s = sectors == null ? now.shown().sectors() : sectors;
      return a.under(Geometry.called(total, h, s));
    }
  }

  /**
   * The same bytes with one thing changed.
   *
   * @param what is changed, in words
   * @param how it would be
   * @param shown the geometry then
   */
  record WhatIf(
      WhatIfKind kind,
      String what,
      String how,
      StartWish wish,
      Geometry shown,
      Rehearsal.Ending ending,
      String sentence) {}

  /** Where a volume lies, in sectors. */
  record Stretch(long start, long length, String name) {}

  /** A variant of the machine's firmware. */
  record Variant(String key, String name) {}

  /**
   * @param run absent where starts of this family are not run
   * @param links of the chain, walked under the same geometry
   * @param under which firmware and geometry, in words
   * @param shown the geometry that its firmware shows
   * @param parts where the volumes lie
   * @param ifs the usual changes, each run; none where a wish was run
   */
  record RehearsalView(
      Optional<Rehearsal> run,
      List<BootChain.Link> links,
      String under,
      Geometry shown,
      Level level,
      boolean calls,
      List<Variant> firmwares,
      List<Stretch> parts,
      List<WhatIf> ifs) {}

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
      @RequestParam(defaultValue = "false") boolean card,
      @ParameterObject @Valid StartWish wish) {
    JobEntity job = jobs.get(id);
    ImageEntity of = images.get(image);
    boolean old = job.rescuedId().filter(r -> r == image).isPresent();
    // A new image is made for a card, and what the firmware shows follows from that card.
    Optional<PlanChoice> choice = plans.settled(job);
    Optional<Plan> plan = old ? Optional.empty() : choice.map(c -> plans.plan(job, c));
    Setup setup =
        Setup.of(
            machines.get(job.profile()),
            choice.map(PlanChoice::firmware).orElse(""),
            choice.map(PlanChoice::system).orElse(""));
    Card meant = plan.map(Plan::card).orElse(asLong(of));
    Optional<MediumEntity> on = card ? job.cardId().map(media::get) : Optional.empty();
    try (Medium m = on.map(c -> media.open(c, Pace.counted())).orElseGet(() -> images.open(of))) {
      return rehearsal(new Asked(m, of, setup, meant, old), wish);
    }
  }

  @GetMapping("/api/images/{id}/rehearsal")
  RehearsalView rehearsal(
      @PathVariable long id,
      @RequestParam @NotNull @Size(max = 80) String machine,
      @RequestParam(defaultValue = "") @Size(max = 40) String system,
      @ParameterObject @Valid StartWish wish) {
    ImageEntity image = images.get(id);
    Setup setup = Setup.of(machines.get(machine), "", system);
    try (Medium m = images.open(image)) {
      return rehearsal(new Asked(m, image, setup, asLong(image), false), wish);
    }
  }

  /** A card as long as the image. */
  private static Card asLong(ImageEntity image) {
    return new Card("the image", 0, image.sectors());
  }

  /**
   * @param old whether the bytes are those of the old drive
   */
  private record Asked(Medium medium, ImageEntity image, Setup setup, Card card, boolean old) {}

  private RehearsalView rehearsal(Asked asked, StartWish wish) {
    Setup setup = wish.of(asked.setup());
    Family family = Families.of(setup.profile());
    Around card = family.around(setup, asked.card());
    Survey survey = images.survey(asked.image());
    Optional<Geometry> written = written(survey, card.shown());
    Around own = written.map(card::under).orElse(card);
    // An old drive has its own cylinders: no peg is cut down to those of a card.
    Around usual =
        asked.old() ? own.reaching(family.pegs(setup, asked.card()).binding().sectors()) : card;
    Around around = wish.of(usual, survey.sectors());
    Whereabouts places = images.whereabouts(asked.image());
    Optional<BootPath> path = family.boot();
    Medium m = marked(path, asked.medium(), wish);
    Optional<Rehearsal> run;
    try (Medium second = wish.second() == null ? null : images.open(images.get(wish.second()))) {
      Around both = second == null ? around : around.beside(drive(family, setup, second));
      run = path.flatMap(b -> b.rehearse(m, both, places::at));
    }
    List<WhatIf> ifs = new ArrayList<>();
    if (run.isPresent() && wish.equals(StartWish.NONE)) {
      List<Other> others = new ArrayList<>(others(family, setup, around, asked.card()));
      if (written.isPresent()) others.add(0, asked.old() ? ofCard(card) : ofImage(own));
      for (Other o : others) {
        path.get().rehearse(m, o.around(), places::at).ifPresent(r -> ifs.add(o.ended(r)));
      }
    }
    return new RehearsalView(
        run,
        path.map(b -> b.walk(m, around.shown(), around.reach()).links()).orElse(List.of()),
        setup.firmware().name() + ": " + around.shown(),
        around.shown(),
        around.level(),
        around.extended(),
        setup.profile().firmwares().stream().map(f -> new Variant(f.key(), f.name())).toList(),
        survey.volumes().stream()
            .map(
                v -> new Stretch(v.start(), v.length(), v.label().isEmpty() ? v.kind() : v.label()))
            .toList(),
        ifs);
  }

  private static Medium marked(Optional<BootPath> path, Medium m, StartWish wish) {
    return wish.active() == null ? m : path.map(b -> b.marked(m, wish.active())).orElse(m);
  }

  /** A second drive beside the first, as the same firmware shows it. */
  private static Around.Drive drive(Family family, Setup setup, Medium m) {
    Around its = family.around(setup, new Card(m.name(), 0, m.sectors()));
    return new Around.Drive(m, its.shown(), its.reach());
  }

  private static Other ofCard(Around card) {
    String what = "heads and sectors of a card of this size";
    return new Other(
        WhatIfKind.GEOMETRY, what, words(card.shown()), StartWish.shown(card.shown()), card);
  }

  private static Other ofImage(Around own) {
    String what = "heads and sectors as on the image";
    return new Other(
        WhatIfKind.GEOMETRY, what, words(own.shown()), StartWish.shown(own.shown()), own);
  }

  private record Other(WhatIfKind kind, String what, String how, StartWish wish, Around around) {
    WhatIf ended(Rehearsal r) {
      return new WhatIf(kind, what, how, wish, around.shown(), r.ending(), r.sentence());
    }
  }

  private static String words(Geometry g) {
    return g.heads() + " × " + g.sectors();
  }

  /** Other firmware of this machine, an early processor, no later calls. */
  private static List<Other> others(Family family, Setup setup, Around now, Card card) {
    List<Other> out = new ArrayList<>();
    for (Profile.Firmware f : setup.profile().firmwares()) {
      if (f.key().equals(setup.firmware().key())) continue;
      Setup other = new Setup(setup.profile(), f, setup.system());
      out.add(
          new Other(
              WhatIfKind.FIRMWARE,
              "firmware",
              f.name(),
              StartWish.firmware(f.key()),
              family.around(other, card)));
    }
    if (now.extended()) {
      out.add(
          new Other(
              WhatIfKind.CALLS,
              "calls that pass an LBA",
              "none",
              StartWish.calls(false),
              now.calls(false)));
    }
    if (now.level() != Level.I8086) {
      out.add(
          new Other(
              WhatIfKind.PROCESSOR,
              "processor",
              "an 8086",
              StartWish.on(Level.I8086),
              now.on(Level.I8086)));
    }
    return out;
  }

  /** With which heads and sectors an image was written, where that is known and other. */
  private static Optional<Geometry> written(Survey survey, Geometry shown) {
    return survey
        .agreedGeometry()
        .filter(g -> g.heads() != shown.heads() || g.sectors() != shown.sectors())
        .map(g -> Geometry.called(survey.sectors(), g.heads(), g.sectors()));
  }
}
