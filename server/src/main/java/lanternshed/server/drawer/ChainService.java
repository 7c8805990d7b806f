package lanternshed.server.drawer;

import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import lanternshed.core.chain.Chain;
import lanternshed.core.chain.ChainFinder;
import lanternshed.core.chain.Drawer;
import lanternshed.core.chain.HostSide;
import lanternshed.core.chain.Joint;
import lanternshed.core.chain.Piece;
import lanternshed.core.machine.Peg;
import lanternshed.core.machine.Profile;
import lanternshed.core.measure.ShedException;
import lanternshed.core.prove.Speeds;
import lanternshed.server.jobs.JobEntity;
import lanternshed.server.jobs.JobService;
import lanternshed.server.logbook.LogService;
import lanternshed.server.machines.MachineService;
import lanternshed.server.media.MediaService;
import lanternshed.server.media.MediumEntity;
import lanternshed.server.shell.Json;
import lanternshed.server.stations.Station;
import org.springframework.stereotype.Service;

/** The chain of a job from the machine's board to its card. */
@Service
public class ChainService {
  private final DrawerService drawer;
  private final JobService jobs;
  private final MachineService machines;
  private final MediaService media;
  private final LogService log;

  ChainService(
      DrawerService drawer,
      JobService jobs,
      MachineService machines,
      MediaService media,
      LogService log) {
    this.media = media;
    this.drawer = drawer;
    this.jobs = jobs;
    this.machines = machines;
    this.log = log;
  }

  /**
   * The chain that a job takes, as it was when it was taken.
   *
   * @param most sectors of a card that it reaches; 0 for no bound of its own
   */
  record Taken(String key, String name, long most, List<Piece.Setting> settings) {}

  ChainFinder.Found find(long job, int many, String card) {
    return finder(jobs.get(job), many, card.isEmpty() ? Optional.empty() : Optional.of(card))
        .find();
  }

  private ChainFinder finder(JobEntity job, int many, Optional<String> card) {
    HostSide host = HostSide.of(machines.get(job.profile()));
    return new ChainFinder(host, drawer.drawer(), many, card);
  }

  /** What is set by hand on the parts of the chain that a job takes. */
  public List<Piece.Setting> settings(JobEntity job) {
    return taken(job).map(Taken::settings).orElse(List.of());
  }

  /** The chain that a job takes, by its parts. */
  public Optional<String> name(JobEntity job) {
    return taken(job).map(Taken::name);
  }

  /**
   * Whether a card goes into the last joint of the chain that a job takes; empty where nobody said
   * what it is made for, or no chain is taken.
   *
   * @param card 0 for the one that was written for the job
   */
  public Optional<Chain.Told> lastJoint(JobEntity job, long card) {
    long id = card != 0 ? card : job.cardId().orElse(0L);
    Optional<MediumEntity> medium = media.all().stream().filter(m -> m.id() == id).findFirst();
    Optional<Joint> end = end(job);
    return medium.flatMap(m -> lastJoint(end, m));
  }

  /** Which cards go into the end of the chain that a job takes, for all that is known of them. */
  public Predicate<MediumEntity> taking(JobEntity job) {
    Optional<Joint> end = end(job);
    return card ->
        lastJoint(end, card).filter(told -> told.verdict() != Chain.Verdict.FITS).isEmpty();
  }

  private static Optional<Chain.Told> lastJoint(Optional<Joint> end, MediumEntity card) {
    Optional<Joint> made = Joint.known(card.joint());
    return end.flatMap(e -> made.map(m -> Chain.lastJoint(e, card.name(), m)));
  }

  private Optional<Joint> end(JobEntity job) {
    return taken(job)
        .map(t -> t.key().substring(t.key().lastIndexOf(' ') + 1))
        .flatMap(
            last ->
                drawer.drawer().items().stream()
                    .map(Drawer.Item::piece)
                    .filter(p -> p.key().equals(last))
                    .findFirst())
        .map(p -> Joint.get(p.host().joint()));
  }

  /** Whether the chain that a job took still fits: a part or the machine may be another since. */
  boolean fits(JobEntity job) {
    return taken(job).flatMap(t -> along(job, t.key())).isPresent();
  }

  private Optional<Chain> along(JobEntity job, String key) {
    return finder(job, 1, Optional.empty()).along(List.of(key.split(" ")));
  }

  /** What the bus carries to the card of a job: its chain's slowest part, or its own best joint. */
  public Optional<Speeds.Limit> limit(JobEntity job) {
    Optional<Chain> chain = taken(job).flatMap(t -> along(job, t.key()));
    if (chain.isPresent()) {
      return chain.map(c -> new Speeds.Limit(c.reach() * 1000, "the chain (" + c.name() + ")"));
    }
    return HostSide.of(machines.get(job.profile())).ways().stream()
        .map(HostSide.Way::joint)
        .max(Comparator.comparingLong(Joint::reach))
        .map(j -> new Speeds.Limit(j.reach() * 1000, "the bus (" + j.name() + ")"));
  }

  static Optional<Taken> taken(JobEntity job) {
    return job.chain().isEmpty()
        ? Optional.empty()
        : Optional.of(Json.read(job.chain(), Taken.class));
  }

  /**
   * @throws ShedException where there is no such chain
   */
  Taken take(long job, long version, String key) {
    List<Piece> known = drawer.drawer().items().stream().map(i -> i.piece()).toList();
    Chain chain =
        along(jobs.get(job), key)
            .orElseThrow(
                () -> new ShedException("This chain does not fit any more; look at them anew."));
    Taken t = new Taken(chain.key(), chain.name(), chain.most(), chain.settings(known));
    jobs.chain(job, version, Json.write(t));
    log.shed(job, Station.PLAN.number(), "Chain to the card: " + chain.name() + ".");
    return t;
  }

  /** The machine with what its chain bounds: that is a peg of the plan like any other. */
  public Profile bounded(Profile p, JobEntity job) {
    return taken(job)
        .filter(t -> t.most() > 0)
        .map(
            t ->
                p.with(
                    new Profile.Limit(
                        "H-12",
                        "Reach of the chain: " + t.name(),
                        t.most(),
                        Peg.Scope.MEDIUM,
                        "A chip in the chain counts the card's sectors in a number of its own.",
                        "another chain, without it or with a wider one")))
        .orElse(p);
  }
}
