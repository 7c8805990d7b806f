package lanternshed.core.cli;

import java.lang.management.ManagementFactory;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.function.Function;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.chain.ChainFinder;
import lanternshed.core.chain.Drawer;
import lanternshed.core.chain.HostSide;
import lanternshed.core.family.Families;
import lanternshed.core.fault.Cost;
import lanternshed.core.fault.Part;
import lanternshed.core.fault.PartKind;
import lanternshed.core.fault.PartKinds;
import lanternshed.core.fault.Reasoner;
import lanternshed.core.fault.Suspicion;
import lanternshed.core.fault.Trial;
import lanternshed.core.fault.World;
import lanternshed.core.machine.Card;
import lanternshed.core.machine.Profile;
import lanternshed.core.machine.Profiles;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.plan.PlanRequest;
import lanternshed.core.plan.PlanRequest.Strategy;
import lanternshed.core.plan.Planner;
import lanternshed.core.survey.Survey;
import lanternshed.core.survey.Volumes;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Maker;

/**
 * The rows of the bench that need no tool beside them and no disk. A test runs them too and holds
 * what docs/performance.md says against them, so that the page cannot go stale.
 */
enum QuickBench {
  FAULT("fault", QuickBench::fault),
  CHAIN("chain", QuickBench::chain),
  PLAN("plan", QuickBench::plan),
  PROCESSOR(
      "processor",
      e ->
          List.of(
              new Figure(
                  "instructions of the rehearsal, one core",
                  ProcessorBench.millionsASecond(e.rounds()),
                  "million a second")));

  /**
   * One row.
   *
   * @param what as the page names it
   */
  record Figure(String what, double value, String unit) {
    String text() {
      return String.format(Locale.ROOT, "%-52s %9.1f %s", what, value, unit);
    }
  }

  /**
   * How long it is measured.
   *
   * @param warmNanos for how long the same runs before
   * @param rounds of which the median counts
   */
  record Effort(long warmNanos, int rounds) {
    /** For the page. */
    static final Effort FULL = new Effort(2_000_000_000L, 21);

    /** To see whether the page is far off; longer where it seems so. */
    static Effort brief(int again) {
      return new Effort(300_000_000L << 2 * again, 3);
    }
  }

  private final String key;
  private final Function<Effort, List<Figure>> rows;

  QuickBench(String key, Function<Effort, List<Figure>> rows) {
    this.key = key;
    this.rows = rows;
  }

  /** What {@code --only} calls it. */
  String key() {
    return key;
  }

  List<Figure> measure(Effort effort) {
    return rows.apply(effort);
  }

  /** The first time in this process, and the median of some once the same ran for two seconds. */
  private static double[] firstAndWarm(Effort effort, Runnable what) {
    double[] out = {milliseconds(what), 0};
    long until = now() + effort.warmNanos();
    while (now() < until) what.run();
    double[] ms = new double[effort.rounds()];
    for (int i = 0; i < ms.length; i++) ms[i] = milliseconds(what);
    Arrays.sort(ms);
    out[1] = ms[ms.length / 2];
    return out;
  }

  private static double milliseconds(Runnable what) {
    long t = now();
    what.run();
    return (now() - t) / 1e6;
  }

  /** This thread's own time: on a quiet computer the clock's, beside other work less than that. */
  static long now() {
    return ManagementFactory.getThreadMXBean().getCurrentThreadCpuTime();
  }

  private static List<Figure> fault(Effort effort) {
    List<Figure> out = new ArrayList<>();
    int[][] boards = {{20, 60}, {11, 8}, {40, 120}};
    for (int[] b : boards) {
      World world = board(b[0], b[1]);
      double[] ms = firstAndWarm(effort, () -> Reasoner.reason(world));
      String what = "fault board of " + b[0] + " parts and " + b[1] + " tests";
      out.add(new Figure(what, ms[1], "ms"));
      if (b == boards[0]) out.add(new Figure(what + ", the first time", ms[0], "ms"));
    }
    return out;
  }

  /** A board of any size: two of its parts quarrel, and every test takes about half of them. */
  private static World board(int parts, int tests) {
    List<PartKind> kinds = PartKinds.all();
    List<Part> all = new ArrayList<>();
    for (int i = 0; i < parts; i++) {
      all.add(
          new Part(
              "" + i,
              "part " + i,
              kinds.get(i % kinds.size()).key(),
              i % 5 == 0 ? "group" : "",
              i < parts * 3 / 5,
              new Cost(5, 0, 0),
              Suspicion.USUAL));
    }
    Random random = new Random(60);
    List<Trial> trials = new ArrayList<>();
    for (int t = 1; t <= tests; t++) {
      Set<String> in = new HashSet<>();
      for (int p = 0; p < parts; p++) if (random.nextInt(2) == 0) in.add("" + p);
      boolean fails = in.contains("3") && in.contains("7");
      in.add("1");
      Trial.Outcome outcome = fails ? Trial.Outcome.FAILS : Trial.Outcome.WORKS;
      trials.add(new Trial(t, "test " + t, in, "op " + t % 3, outcome, ""));
    }
    return new World(all, trials, List.of());
  }

  private static List<Figure> chain(Effort effort) {
    List<Drawer.Item> items = new ArrayList<>();
    for (int i = 0; items.size() < 300; i++) {
      for (Drawer.Item x : Drawer.empty().items()) {
        if (items.size() < 300) items.add(new Drawer.Item(x.piece(), i % 3, "box " + i));
      }
    }
    HostSide host = HostSide.of(Profiles.get("controller-pc"));
    double[] ms =
        firstAndWarm(
            effort, () -> new ChainFinder(host, new Drawer(items), 1, Optional.empty()).find());
    return List.of(new Figure("chains over 300 kinds of part", ms[1], "ms"));
  }

  private static List<Figure> plan(Effort effort) {
    double slowest = 0;
    for (Profile p : Profiles.all()) {
      if (p.planned()) slowest = Math.max(slowest, plan(p));
    }
    MemoryMedium m = new MemoryMedium(200_000);
    Maker maker = Catalogue.maker("FAT16");
    FileSet files = new FileSet();
    files.folder("MANY", 0, 0);
    for (int i = 0; i < 10_000; i++) {
      String name = String.format("MANY/A long name, number %05d.txt", i);
      files.file(name, 10, 0, 0, s -> s.take(new byte[10], 0, 10));
    }
    Maker.Wish wish =
        new Maker.Wish(
            Optional.of("FAT16"), 200_000, 0, 0, 0, new Geometry(200, 16, 63), "", 0, true, 0);
    maker.write(maker.layout(wish), files, m, new byte[0], (path, n) -> {});
    double[] listing = firstAndWarm(effort, () -> Volumes.find(m, 0).volume().all());
    return List.of(
        new Figure("slowest plan of all families", slowest, "ms"),
        new Figure("first listing of 10 000 long names", listing[0], "ms"),
        new Figure("warm listing of 10 000 long names", listing[1], "ms"));
  }

  private static double plan(Profile p) {
    PlanRequest r =
        new PlanRequest(
            p.key(),
            "",
            "",
            new Card("card", 0, 60_000_000),
            List.of(),
            Families.of(p).carries() ? Strategy.CARRY : Strategy.REBUILD,
            PlanRequest.School.MACHINE,
            List.of(),
            false,
            List.of());
    Survey nothing = new Survey(0, Optional.empty(), List.of(), List.of(), List.of());
    // Those before the median warm it.
    double[] ms = new double[21];
    for (int i = 0; i < ms.length; i++) ms[i] = milliseconds(() -> Planner.plan(p, r, nothing));
    Arrays.sort(ms);
    return ms[ms.length / 2];
  }
}
