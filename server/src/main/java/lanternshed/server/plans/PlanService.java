package lanternshed.server.plans;

import java.io.IOException;
import java.io.InputStream;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Stream;
import lanternshed.core.boot.Around;
import lanternshed.core.boot.Rehearsal;
import lanternshed.core.family.Families;
import lanternshed.core.machine.Profile;
import lanternshed.core.machine.Setup;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.plan.Plan;
import lanternshed.core.plan.PlanRequest;
import lanternshed.core.plan.Planner;
import lanternshed.core.survey.Survey;
import lanternshed.core.work.ImageBuilder;
import lanternshed.core.work.Recipe;
import lanternshed.core.work.RecipeText;
import lanternshed.server.drawer.ChainService;
import lanternshed.server.files.BroughtService;
import lanternshed.server.images.ImageEntity;
import lanternshed.server.images.ImageService;
import lanternshed.server.jobs.JobEntity;
import lanternshed.server.jobs.JobService;
import lanternshed.server.jobs.StartsFrom;
import lanternshed.server.machines.MachineService;
import lanternshed.server.media.MediaService;
import lanternshed.server.media.MediumEntity;
import lanternshed.server.roms.RomService;
import lanternshed.server.shell.Json;
import lanternshed.server.stations.Station;
import org.springframework.stereotype.Service;

/** Plans by the core's planner, and keeps the one that was settled. */
@Service
public class PlanService {
  private static final Survey NOTHING =
      new Survey(0, Optional.empty(), List.of(), List.of(), List.of());
  private final JobService jobs;
  private final MediaService media;
  private final ImageService images;
  private final MachineService machines;
  private final BroughtService files;
  private final StartTrials trials;
  private final ChainService chains;
  private final RomService roms;
  private final ReadRate measured;
  private final DriverFiles drivers;

  PlanService(
      JobService jobs,
      MediaService media,
      ImageService images,
      MachineService machines,
      BroughtService files,
      StartTrials trials,
      ChainService chains,
      RomService roms,
      ReadRate measured,
      DriverFiles drivers) {
    this.drivers = drivers;
    this.measured = measured;
    this.roms = roms;
    this.chains = chains;
    this.trials = trials;
    this.files = files;
    this.machines = machines;
    this.jobs = jobs;
    this.media = media;
    this.images = images;
  }

  /** A choice with the plan that follows from it. */
  public record Answer(PlanChoice choice, Plan plan, boolean settled) {}

  /** The settled plan of a job, or a proposal. */
  public Answer of(JobEntity job) {
    boolean settled = !job.planChoice().isEmpty();
    PlanChoice choice = settled ? Json.read(job.planChoice(), PlanChoice.class) : proposal(job);
    return new Answer(choice, plan(job, choice), settled);
  }

  /** What the start of a job's image meets on its machine, as the plan has it. */
  public Around around(JobEntity job) {
    Plan plan = of(job).plan();
    return StartTrials.around(plan, setup(job, plan));
  }

  /** The machine as its chain to the card lets it be. */
  private Profile profile(JobEntity job) {
    return chains.bounded(machines.get(job.profile()), job);
  }

  private Setup setup(JobEntity job, Plan plan) {
    return Setup.of(profile(job), plan.firmware(), plan.system());
  }

  /**
   * How a choice would start with one boot code.
   *
   * @param kept whether it is the old one; else our own
   * @param chosen whether it is the choice's own
   * @param ending how its run ended; empty where none could be made, and the sentence says why not
   */
  public record StartView(
      boolean kept,
      boolean chosen,
      Optional<Rehearsal.Ending> ending,
      String sentence,
      List<String> screen) {}

  /** Both boot codes, each tried on what would be built; none where nothing is tried (B-9). */
  public List<StartView> starts(JobEntity job, PlanChoice choice) {
    Optional<ImageEntity> source = source(job);
    if (source.isEmpty() || Families.of(machines.get(job.profile())).carries()) return List.of();
    boolean clone = choice.strategy() == PlanRequest.Strategy.CLONE;
    List<StartView> out =
        Stream.of(true, false)
            .filter(kept -> kept || !clone)
            .map(kept -> start(job, choice, kept, source.get()))
            .toList();
    return out.stream().anyMatch(s -> s.ending().isPresent()) ? out : List.of();
  }

  private StartView start(JobEntity job, PlanChoice choice, boolean kept, ImageEntity source) {
    boolean clone = choice.strategy() == PlanRequest.Strategy.CLONE;
    boolean chosen = clone || choice.keepBootCode() == kept;
    Plan plan = plan(job, choice.kept(kept));
    if (!plan.buildable()) {
      String why = plan.stop().orElse("It cannot be built.");
      return notTried(kept, chosen, why);
    }
    try {
      return trials
          .of(plan, setup(job, plan), survey(job), source)
          .map(r -> new StartView(kept, chosen, Optional.of(r.ending()), r.sentence(), r.screen()))
          .orElseGet(() -> notTried(kept, chosen, plan.start().sentence()));
    } catch (ShedException e) {
      // What does not read stands in the way of this trial, not of the plan.
      return notTried(kept, chosen, e.getMessage());
    }
  }

  private static StartView notTried(boolean kept, boolean chosen, String why) {
    return new StartView(kept, chosen, Optional.empty(), why, List.of());
  }

  private Optional<ImageEntity> source(JobEntity job) {
    boolean image = job.startsFrom() == StartsFrom.MEDIUM || job.startsFrom() == StartsFrom.IMAGE;
    return image ? job.rescuedId().map(images::get) : Optional.empty();
  }

  /** What the machine will show of its cards, as the plan foretells it (V-5). */
  public Optional<Plan.Verdict> shown(JobEntity job) {
    return of(job).plan().verdicts().stream().filter(v -> v.rule().equals("V-5")).findFirst();
  }

  /** The system that a settled plan is for; empty where its machine does not know it any more. */
  public Optional<String> system(JobEntity job) {
    try {
      return settled(job)
          .map(c -> Setup.of(profile(job), c.firmware(), c.system()))
          .map(s -> s.system().title());
    } catch (ShedException e) {
      return Optional.empty();
    }
  }

  /** What was chosen in a settled plan. */
  public Optional<PlanChoice> settled(JobEntity job) {
    return job.planChoice().isEmpty()
        ? Optional.empty()
        : Optional.of(Json.read(job.planChoice(), PlanChoice.class));
  }

  /**
   * For the smallest measured card on which the plan can be built; more would be waste. Those that
   * are free go before those that hold something, after all that the chain does not take, and last
   * what is too small.
   */
  private PlanChoice proposal(JobEntity job) {
    // Whether anything is planned for this machine comes before the question for a card.
    boolean carries = Families.of(machines.get(job.profile())).carries();
    PlanRequest.Bench bench = bench(job);
    // Somebody who has a ROM for the machine plans with it.
    String firmware = bench.roms().isEmpty() ? "" : optionRom(job);
    long old = survey(job).sectors();
    long wanted = old > 0 ? old : job.mediumId().map(id -> media.get(id).sectors()).orElse(0L);
    long needed = carries ? wanted * 2 : wanted;
    Predicate<MediumEntity> goesIn = chains.taking(job);
    List<PlanChoice> choices =
        media.all().stream()
            .filter(m -> m.isCard() && !m.bad())
            .sorted(
                Comparator.comparing((MediumEntity m) -> m.card().planSectors() < needed)
                    .thenComparing(m -> !goesIn.test(m))
                    .thenComparing(m -> m.holdsImage().isPresent() && !own(job, m))
                    .thenComparing(m -> !m.measured())
                    .thenComparing(m -> m.card().planSectors()))
            .flatMap(card -> choices(job, card, carries, firmware))
            .toList();
    if (choices.isEmpty()) {
      throw new ShedException("There is no card to plan for yet; add one under Media.");
    }
    return choices.stream()
        .filter(c -> plan(job, c, bench).buildable())
        .findFirst()
        .map(c -> started(job, c))
        .orElse(choices.get(0));
  }

  private static boolean own(JobEntity job, MediumEntity card) {
    return job.cardId().filter(id -> id == card.id()).isPresent();
  }

  /** The firmware that counts on an option ROM; "" where the machine has none. */
  private String optionRom(JobEntity job) {
    return machines.get(job.profile()).firmwares().stream()
        .filter(Profile.Firmware::optionRom)
        .map(Profile.Firmware::key)
        .findFirst()
        .orElse("");
  }

  /**
   * With the old boot code where it was not seen to fail on the new card, else with our own where
   * that starts.
   */
  private PlanChoice started(JobEntity job, PlanChoice c) {
    List<StartView> starts = c.keepBootCode() ? starts(job, c) : List.of();
    boolean old =
        starts.stream()
            .filter(StartView::kept)
            .anyMatch(s -> s.ending().filter(e -> !e.fails()).isPresent());
    boolean ours =
        starts.stream()
            .filter(s -> !s.kept())
            .anyMatch(s -> s.ending().filter(e -> e == Rehearsal.Ending.ENTERED).isPresent());
    return !old && ours ? c.kept(false) : c;
  }

  /** The old boot code worked: it is kept where it can be (B-9). */
  private Stream<PlanChoice> choices(
      JobEntity job, MediumEntity card, boolean carries, String firmware) {
    if (carries) {
      List<PlanChoice.CarriedImage> drives =
          job.rescuedId().map(i -> new PlanChoice.CarriedImage(i, -1)).stream().toList();
      return Stream.of(proposal(card, firmware, PlanRequest.Strategy.CARRY, false, drives));
    }
    return Stream.of(true, false)
        .map(kept -> proposal(card, firmware, PlanRequest.Strategy.REBUILD, kept, List.of()));
  }

  private static PlanChoice proposal(
      MediumEntity card,
      String firmware,
      PlanRequest.Strategy strategy,
      boolean keepBootCode,
      List<PlanChoice.CarriedImage> drives) {
    return new PlanChoice(
        firmware,
        "",
        card.id(),
        List.of(),
        strategy,
        PlanRequest.School.MACHINE,
        List.of(),
        keepBootCode,
        drives,
        List.of());
  }

  public Plan plan(JobEntity job, PlanChoice c) {
    return plan(job, c, bench(job));
  }

  private Plan plan(JobEntity job, PlanChoice c, PlanRequest.Bench bench) {
    PlanRequest request =
        new PlanRequest(
            job.profile(),
            c.firmware(),
            c.system(),
            media.get(c.cardId()).card(),
            c.drawer().stream().map(id -> media.get(id).card()).toList(),
            c.strategy(),
            c.school(),
            c.volumes(),
            c.keepBootCode(),
            c.carried().stream().map(this::carried).toList(),
            drivers.of(machines.get(job.profile()), c.drivers()),
            bench);
    return Planner.plan(profile(job), request, survey(job));
  }

  /** Takes in the file of a driver, for a plan to choose. */
  DriverFiles.DriverView takeDriver(JobEntity job, String name, InputStream in) throws IOException {
    return drivers.take(machines.get(job.profile()), name, in);
  }

  private PlanRequest.Bench bench(JobEntity job) {
    return new PlanRequest.Bench(
        jobs.has(job),
        JobService.verdict(job).pair(),
        startFiles(job),
        roms.fittedIn(job.id()),
        rate(job));
  }

  private PlanRequest.Rate rate(JobEntity job) {
    return measured
        .measured(job.id())
        .map(r -> new PlanRequest.Rate(r, true))
        .or(() -> chains.limit(job).map(l -> new PlanRequest.Rate(l.bytesPerSecond(), false)))
        .orElse(PlanRequest.Rate.UNKNOWN);
  }

  /** Where the files lie without which the machine's menu does not come up (T-8). */
  private Map<String, Set<Integer>> startFiles(JobEntity job) {
    Profile.Menu menu = machines.get(job.profile()).menu();
    if (menu == null || menu.startFiles().isEmpty()) return Map.of();
    List<String> paths = menu.startFiles().stream().map(Profile.StartFile::path).toList();
    return switch (job.startsFrom()) {
      case FILES -> files.lying(job.id(), paths);
      case NOTHING -> Map.of();
      case MEDIUM, IMAGE ->
          job.rescuedId().map(id -> images.lying(images.get(id), paths)).orElse(Map.of());
    };
  }

  private PlanRequest.Carried carried(PlanChoice.CarriedImage c) {
    ImageEntity i = images.get(c.imageId());
    return new PlanRequest.Carried(i.name(), i.sha256(), i.sectors() * 512, c.id());
  }

  private Survey survey(JobEntity job) {
    return switch (job.startsFrom()) {
      case FILES -> files.survey(job.id());
      case NOTHING -> NOTHING;
      case MEDIUM, IMAGE ->
          job.rescuedId().map(id -> images.survey(images.get(id))).orElse(NOTHING);
    };
  }

  /**
   * Settles a plan; its recipe follows from it.
   *
   * @param version of the job that the person saw; two who settle at once do not both
   * @param allTheSame whether to go on although the survey stopped
   */
  public Answer settle(long jobId, long version, PlanChoice choice, boolean allTheSame) {
    JobEntity job = jobs.get(jobId);
    Plan plan = plan(job, choice);
    if (!plan.buildable()) {
      throw new ShedException("This plan cannot be built. " + plan.stop().orElse(""));
    }
    // What is to be rescued first is waited for; what starts from files or nothing has no image.
    boolean fromImage =
        job.startsFrom() == StartsFrom.MEDIUM || job.startsFrom() == StartsFrom.IMAGE;
    String source = fromImage ? images.get(job.rescuedId().orElse(null)).sha256() : "";
    Survey survey = survey(job);
    if (survey.stop().isPresent() && !allTheSame) {
      throw new ShedException(
          "The survey stopped: "
              + survey.stop().get().what()
              + " Say that you go on all the same, or look at the image first.");
    }
    Recipe recipe =
        Recipe.of(
            plan,
            survey,
            source,
            job.startsFrom() == StartsFrom.FILES ? files.forRecipe(jobId) : List.of());
    // What the builder would refuse is refused here, where it can still be changed.
    ImageBuilder.examine(recipe, source);
    jobs.settle(
        jobId,
        version,
        j -> {
          choice.carried().forEach(d -> images.hold(d.imageId()));
          j.setPlan(Json.write(choice), plan.madeBy().isEmpty() ? recipe.toJson() : "");
          j.redoAfter(Station.PLAN);
          if (!plan.madeBy().isEmpty()) jobs.madeElsewhere(j, plan.madeBy());
        },
        Station.PLAN,
        plan.strategy().title()
            + ": "
            + Say.mib(plan.reach() * 512)
            + " reachable, "
            + Say.plural(plan.volumes().size(), "volume", "volumes")
            + " laid out.");
    return of(jobs.get(jobId));
  }

  /**
   * A recipe that a person wrote, for the job whose plan it changes.
   *
   * @throws ShedException with what stands against it
   */
  Recipe drafted(JobEntity job, String text) {
    Recipe now = Recipe.parse(job.recipe());
    Recipe r = RecipeText.read(text);
    if (!r.family().equals(now.family()) || r.strategy() != now.strategy()) {
      throw new ShedException("Family and strategy come from the plan; change them there.");
    }
    if (r.volumes().stream().anyMatch(p -> !p.folder().isEmpty())) {
      throw new ShedException("Folders of a computer go in on the command line only, not here.");
    }
    long card = plan(job, Json.read(job.planChoice(), PlanChoice.class)).card().planSectors();
    if (r.sectors() > Math.max(card, now.sectors())) {
      throw new ShedException(
          "The image would have "
              + Say.sectors(r.sectors())
              + "; the plan's card has "
              + Say.count(card)
              + ".");
    }
    ImageBuilder.examine(r, now.sourceSha256());
    if (!r.sourceSha256().equals(now.sourceSha256())) {
      throw new ShedException("The source is the job's own image; its digest stays as it is.");
    }
    return r;
  }

  /** Takes a recipe that was changed by hand; what was built before is to be built anew. */
  List<RecipeText.RecipeChange> change(long jobId, long version, String before, String text) {
    JobEntity job = jobs.get(jobId);
    Recipe r = drafted(job, text);
    List<RecipeText.RecipeChange> changes = RecipeText.compare(before, r.toJson());
    if (changes.isEmpty()) throw new ShedException("Nothing of it is changed.");
    String choice = job.planChoice();
    jobs.settle(
        jobId,
        version,
        j -> {
          j.setPlan(choice, r.toJson());
          j.redoAfter(Station.PLAN);
        },
        Station.PLAN,
        "The recipe was changed by hand at "
            + Say.plural(changes.size(), "place", "places")
            + ", the first is "
            + changes.get(0).place()
            + ".");
    return changes;
  }
}
