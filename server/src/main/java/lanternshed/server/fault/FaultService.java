package lanternshed.server.fault;

import jakarta.persistence.EntityNotFoundException;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import lanternshed.core.fault.Cost;
import lanternshed.core.fault.Part;
import lanternshed.core.fault.PartKind;
import lanternshed.core.fault.PartKinds;
import lanternshed.core.fault.Reasoner;
import lanternshed.core.fault.Reasoning;
import lanternshed.core.fault.Suspicion;
import lanternshed.core.fault.Trial;
import lanternshed.core.fault.World;
import lanternshed.core.machine.Profile;
import lanternshed.core.measure.ShedException;
import lanternshed.core.plan.PlanRequest;
import lanternshed.server.jobs.FaultVerdict;
import lanternshed.server.jobs.JobEntity;
import lanternshed.server.jobs.JobService;
import lanternshed.server.jobs.Lamp;
import lanternshed.server.logbook.LogService;
import lanternshed.server.machines.MachineService;
import lanternshed.server.shell.ConflictException;
import lanternshed.server.shell.Events;
import lanternshed.server.stations.Station;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.util.ConcurrentLruCache;

/** Keeps a job's board and lets the core reason about it. */
@Service
public class FaultService {
  private final PartRepository parts;
  private final TrialRepository trials;
  private final IdeaRepository ideas;
  private final JobService jobs;
  private final MachineService machines;
  private final LogService log;
  private final Events events;
  private final Clock clock;

  /** By what is on a board: one that was not changed is not reasoned about again. */
  private final ConcurrentLruCache<World, Reasoning> reasoned =
      new ConcurrentLruCache<>(32, Reasoner::reason);

  FaultService(
      PartRepository parts,
      TrialRepository trials,
      IdeaRepository ideas,
      JobService jobs,
      MachineService machines,
      LogService log,
      Events events,
      Clock clock) {
    this.parts = parts;
    this.trials = trials;
    this.ideas = ideas;
    this.jobs = jobs;
    this.machines = machines;
    this.log = log;
    this.events = events;
    this.clock = clock;
  }

  /** A part as it is typed. */
  public record PartText(
      @NotBlank @Size(max = 60) String name,
      @NotBlank @Size(max = 40) String kind,
      @NotNull @Size(max = 40) String group,
      boolean fitted,
      @Min(0) @Max(10_000) int minutes,
      @Min(0) @Max(100_000) int money,
      @Min(0) @Max(3) int risk,
      @NotNull Suspicion suspicion,
      @Min(0) @Max(2100) int year,
      @Min(0) @Max(2_000_000) int megabytes,
      @Min(0) @Max(50) int tenthsOfVolt) {}

  /** A test as it is typed. */
  public record TrialText(
      @NotBlank @Size(max = 120) String title,
      @NotNull @Size(min = 1, max = 40) List<Long> parts,
      @NotBlank @Size(max = 60) String operation,
      @NotNull Trial.Outcome outcome,
      @NotNull @Size(max = 400) String words,
      @Min(0) @Max(Trial.MOST_TIMES) int worked,
      @Min(0) @Max(Trial.MOST_TIMES) int of) {}

  record PartView(long id, long version, PartText text, Reasoning.PartState state) {}

  record TrialView(long id, long version, int number, TrialText text, String author, Instant at) {}

  public record IdeaView(long id, String text, String reason, String author, Instant at) {}

  /**
   * @param operations those of the profile and those that were used
   */
  record Board(
      List<PartView> parts,
      List<TrialView> trials,
      List<IdeaView> ideas,
      List<String> operations,
      List<PartKind> kinds,
      Reasoning reasoning) {}

  Board board(long jobId) {
    JobEntity job = jobs.get(jobId);
    List<PartEntity> on = on(jobId);
    List<TrialEntity> done = done(jobId);
    Reasoning r = reasoned.get(world(job, on, done));
    List<PartView> partViews = new ArrayList<>();
    for (int i = 0; i < on.size(); i++) {
      PartEntity e = on.get(i);
      var p = e.part();
      PartText text =
          new PartText(
              p.name(),
              p.kind(),
              p.group(),
              p.fitted(),
              p.swap().minutes(),
              p.swap().money(),
              p.swap().risk(),
              p.suspicion(),
              p.traits().year(),
              p.traits().megabytes(),
              p.traits().tenthsOfVolt());
      partViews.add(new PartView(e.id(), e.version(), text, r.parts().get(i)));
    }
    Set<String> operations = new LinkedHashSet<>(machines.get(job.profile()).operations());
    done.forEach(t -> operations.add(t.trial().operation()));
    operations.remove(Trial.READING);
    return new Board(
        partViews,
        done.stream().map(FaultService::view).toList(),
        ideas.findByJobIdOrderById(jobId).stream().map(IdeaEntity::view).toList(),
        List.copyOf(operations),
        PartKinds.all(),
        r);
  }

  private static TrialView view(TrialEntity t) {
    Trial x = t.trial();
    List<Long> ids = t.partIds().stream().map(Long::valueOf).toList();
    TrialText text =
        new TrialText(x.title(), ids, x.operation(), x.outcome(), x.words(), x.worked(), x.of());
    return new TrialView(t.id(), t.version(), t.number(), text, t.author(), t.at());
  }

  private World world(JobEntity job, List<PartEntity> on, List<TrialEntity> done) {
    return new World(
        on.stream().map(PartEntity::part).toList(),
        done.stream().map(TrialEntity::trial).toList(),
        jobs.symptoms(job));
  }

  private List<PartEntity> on(long jobId) {
    return parts.findByJobIdOrderById(jobId).stream().filter(p -> !p.removed()).toList();
  }

  private List<TrialEntity> done(long jobId) {
    return trials.findByJobIdOrderById(jobId).stream().filter(t -> !t.removed()).toList();
  }

  /** Puts the parts of the profile on the board of a job that has none. */
  @Transactional
  public void lay(long jobId) {
    if (!parts.findByJobIdOrderById(jobId).isEmpty()) return;
    for (Profile.PartPlace p : machines.get(jobs.get(jobId).profile()).parts()) {
      Cost cost = PartKinds.get(p.kind()).borrow();
      parts.save(
          new PartEntity(
              jobId,
              new PartText(
                  p.name(),
                  p.kind(),
                  p.group(),
                  true,
                  cost.minutes(),
                  0,
                  cost.risk(),
                  Suspicion.USUAL,
                  0,
                  0,
                  0)));
    }
  }

  /** The parts on the board. */
  public List<Part> parts(long jobId) {
    return on(jobId).stream().map(PartEntity::part).toList();
  }

  /** The tests on the board, as they were typed. */
  public List<TrialText> tests(long jobId) {
    return done(jobId).stream().map(t -> view(t).text()).toList();
  }

  /** The parts on the board by name. */
  public Map<String, Long> names(long jobId) {
    return on(jobId).stream().collect(Collectors.toMap(PartEntity::name, PartEntity::id));
  }

  @Transactional
  public long addPart(long jobId, PartText text) {
    jobs.get(jobId);
    PartKinds.get(text.kind());
    if (on(jobId).size() >= World.MOST_PARTS) {
      throw new ShedException(
          "The board holds " + World.MOST_PARTS + " parts; take one off first.");
    }
    if (on(jobId).stream().anyMatch(p -> p.name().equalsIgnoreCase(text.name().strip()))) {
      throw new ShedException(
          "\"" + text.name().strip() + "\" is on the board already; give this one another name.");
    }
    long id = parts.save(new PartEntity(jobId, text)).id();
    tell(jobId);
    return id;
  }

  @Transactional
  public void changePart(long jobId, long id, long version, PartText text) {
    PartEntity p = part(jobId, id);
    PartKinds.get(text.kind());
    fresh(p.version(), version);
    p.write(text);
    parts.saveAndFlush(p);
    tell(jobId);
  }

  /** Takes a part off the board, or puts it back; one that a test names stays. */
  @Transactional
  public void removePart(long jobId, long id, boolean removed) {
    PartEntity p = part(jobId, id);
    List<Integer> used =
        done(jobId).stream()
            .filter(t -> t.partIds().contains(String.valueOf(id)))
            .map(TrialEntity::number)
            .toList();
    if (removed && !used.isEmpty()) {
      throw new ShedException(
          p.name()
              + " takes part in "
              + (used.size() == 1 ? "test " : "tests ")
              + used.stream().map(String::valueOf).collect(Collectors.joining(", "))
              + "; take it out there first.");
    }
    p.setRemoved(removed);
    tell(jobId);
  }

  @Transactional
  public long addTrial(long jobId, TrialText text, String author) {
    jobs.get(jobId);
    known(jobId, text);
    List<TrialEntity> all = trials.findByJobIdOrderById(jobId);
    int number = all.stream().mapToInt(TrialEntity::number).max().orElse(0) + 1;
    TrialEntity t = new TrialEntity(jobId, number, text, author, clock.instant());
    new World(
        on(jobId).stream().map(PartEntity::part).toList(),
        java.util.stream.Stream.concat(done(jobId).stream(), java.util.stream.Stream.of(t))
            .map(TrialEntity::trial)
            .toList(),
        List.of());
    long id = trials.saveAndFlush(t).id();
    String words = text.words().isBlank() ? "" : ": " + text.words().strip();
    log.write(
        jobId,
        Station.FAULT.number(),
        author,
        "Test " + number + ", " + text.title().strip() + ", " + said(text) + words);
    tell(jobId);
    return id;
  }

  private static String said(TrialText t) {
    return t.outcome() == Trial.Outcome.SOMETIMES
        ? "works " + t.worked() + " times of " + t.of()
        : t.outcome().words();
  }

  @Transactional
  public void changeTrial(long jobId, long id, long version, TrialText text) {
    TrialEntity t = trial(jobId, id);
    known(jobId, text);
    fresh(t.version(), version);
    t.write(text);
    trials.saveAndFlush(t);
    tell(jobId);
  }

  /** Takes a test off the board, or puts it back. */
  @Transactional
  public void removeTrial(long jobId, long id, boolean removed) {
    trial(jobId, id).setRemoved(removed);
    tell(jobId);
  }

  @Transactional
  public void addIdea(long jobId, String text, String reason, String author) {
    jobs.get(jobId);
    ideas.save(new IdeaEntity(jobId, text, reason, author, clock.instant()));
    log.write(
        jobId,
        Station.FAULT.number(),
        author,
        "Idea dropped: " + text + ". Plausible because " + reason);
    tell(jobId);
  }

  /**
   * Writes what the board says now into the job as its verdict.
   *
   * @param early whether to settle on what leads, with its odds written down
   * @throws ShedException while the board has not decided and nobody said that it is early
   */
  @Transactional
  public void settle(long jobId, boolean early) {
    JobEntity job = jobs.get(jobId);
    List<PartEntity> on = on(jobId);
    Reasoning.Conclusion v = reasoned.get(world(job, on, done(jobId))).verdict();
    boolean open = v.kind().equals("open");
    if (v.leads().equals("open") || open && !early) {
      throw new ShedException(
          v.sentence() + " Do the next test, settle early with these odds, or decide by hand.");
    }
    Map<String, String> names =
        on.stream().collect(Collectors.toMap(p -> String.valueOf(p.id()), PartEntity::name));
    List<String> suspects = v.parts().stream().map(names::get).toList();
    List<String> remain = v.remain().stream().map(names::get).toList();
    String sentence =
        open
            ? String.format(
                java.util.Locale.ROOT, "Settled early at %.2f. %s", v.odds() / 1000.0, v.sentence())
            : v.sentence();
    // An exchange that was undone names one of a pair; with what it quarrels is not known by that.
    boolean bothNamed = suspects.size() > 1;
    PlanRequest.Pair pair =
        v.leads().equals("pair")
            ? pair(on, bothNamed ? v.parts() : v.remain(), bothNamed)
            : PlanRequest.Pair.NONE;
    // Where a proof failed the new storage is in the machine already: it is mended beside it.
    boolean proofFailed = job.station(Station.PROVE).state() == Lamp.BRICK;
    String kind = proofFailed && v.leads().equals("other") ? FaultVerdict.BESIDE : v.leads();
    jobs.verdict(jobId, new FaultVerdict(kind, sentence, v.evidence(), suspects, remain, pair));
  }

  /** Both sides of a pair: what a card and its adapter take the place of or are, and the rest. */
  private static PlanRequest.Pair pair(List<PartEntity> on, List<String> ids, boolean named) {
    Map<Boolean, List<PlanRequest.Suspect>> sides =
        on.stream()
            .map(PartEntity::part)
            .filter(p -> ids.contains(p.id()))
            .collect(
                Collectors.partitioningBy(
                    p -> PartKinds.get(p.kind()).storage(),
                    Collectors.mapping(
                        p -> new PlanRequest.Suspect(p.name(), p.kind()), Collectors.toList())));
    return new PlanRequest.Pair(sides.get(false), sides.get(true), named);
  }

  private void known(long jobId, TrialText text) {
    Set<Long> there = on(jobId).stream().map(PartEntity::id).collect(Collectors.toSet());
    if (!there.containsAll(text.parts())) {
      throw new ShedException(
          "This test names a part that is not on the board any more; look at the board again.");
    }
  }

  private PartEntity part(long jobId, long id) {
    return parts
        .findById(id)
        .filter(p -> p.jobId() == jobId)
        .orElseThrow(() -> new EntityNotFoundException("There is no such part on this board."));
  }

  private TrialEntity trial(long jobId, long id) {
    return trials
        .findById(id)
        .filter(t -> t.jobId() == jobId)
        .orElseThrow(() -> new EntityNotFoundException("There is no such test on this board."));
  }

  private static void fresh(long is, long seen) {
    if (is != seen) {
      throw new ConflictException(
          "Somebody else changed this meanwhile. What you typed is kept; look at the board and save once"
              + " more.");
    }
  }

  private void tell(long jobId) {
    events.tell("job", Map.of("id", jobId));
  }
}
