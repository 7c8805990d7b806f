package lanternshed.core.fault;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;

/**
 * How likely everything that can be wrong is after the tests (D-13), by exact enumeration. A
 * <i>hypothesis</i> is nothing at all, one {@link Element}, or two of them that both meet something
 * which failed; each element is steady or comes and goes.
 *
 * <p>A steady fault fails every test that meets it in an operation in which it shows; one that
 * comes and goes fails a stated share of them. In which operations a fault shows is not known: each
 * operation has it with probability {@link Evidence#SHOWS}, and the sum over all choices is taken.
 * People misjudge a stated share of outcomes, so that nothing is ever excluded for good. Tests
 * before something was done to one of their parts count half.
 *
 * <p>There may be millions of hypotheses: they are walked and never kept. {@link Explanations} adds
 * them up, {@link Head} keeps the likeliest.
 */
final class Posterior {
  /** That nothing is wrong and all failures were misread. */
  static final double NOTHING_WRONG = 0.02;

  /** How much of the quarrels come and go, of 1000. */
  static final int PAIR_WANDERS = 150;

  /** No moded element. */
  static final int NONE = -1;

  final World world;
  final List<Element> elements;
  final Evidence evidence;
  private final Map<String, Integer> indexes;
  private final double[] prior;
  private final double[] modedPrior;
  private final String[] names;

  /** Takes every hypothesis once. */
  interface Walk {
    /**
     * One element, or none.
     *
     * @param a moded element, or {@link #NONE}
     * @param weight how likely, against the others
     */
    void one(int a, double weight);

    /**
     * Two elements in their four modes, in the order of {@link Evidence#fits}. The arrays are used
     * again for the next.
     */
    void two(int e, int f, double[] weights, double[] fits);
  }

  /**
   * One hypothesis.
   *
   * @param a moded element; {@link #NONE} for nothing at all
   * @param b a second one; {@link #NONE} for no second
   * @param fit how likely the outcomes are under it, against nothing wrong
   * @param share posterior, all of them sum to 1
   */
  record H(int a, int b, double fit, double share) {}

  Posterior(World world) {
    this.world = world;
    this.indexes = world.indexes();
    this.elements = Element.all(world);
    this.evidence = new Evidence(world, elements);
    this.prior = elements.stream().mapToDouble(this::priorOf).toArray();
    this.names = new String[prior.length];
    this.modedPrior = new double[prior.length * 2];
    for (int x = 0; x < modedPrior.length; x++) modedPrior[x] = prior[x / 2] * mode(x);
  }

  /** Walks all hypotheses: nothing, each alone, then each two. */
  void walk(Walk walk) {
    walk.one(NONE, NOTHING_WRONG);
    for (int a = 0; a < modedPrior.length; a++) walk.one(a, modedPrior[a] * evidence.fit(a));
    int[] suspects = IntStream.range(0, elements.size()).filter(evidence::meetsFailure).toArray();
    boolean[] single = new boolean[suspects.length];
    long[] parts = new long[suspects.length];
    for (int i = 0; i < parts.length; i++) {
      Element e = elements.get(suspects[i]);
      single[i] = e.single();
      parts[i] = e.one() | e.other();
    }
    double[] weights = new double[Evidence.MODES];
    double[] fits = new double[Evidence.MODES];
    Evidence.Room room = evidence.room();
    for (int i = 0; i < suspects.length; i++) {
      for (int k = i + 1; k < suspects.length; k++) {
        int e = Math.min(suspects[i], suspects[k]);
        int f = Math.max(suspects[i], suspects[k]);
        // A part, and a pair with it: the part alone says as much.
        if (single[i] != single[k] && (parts[i] & parts[k]) != 0) continue;
        evidence.fits(e, f, fits, room);
        for (int mode = 0; mode < Evidence.MODES; mode++) {
          weights[mode] =
              modedPrior[e * 2 + (mode >> 1)] * modedPrior[f * 2 + (mode & 1)] * fits[mode];
        }
        walk.two(e, f, weights, fits);
      }
    }
  }

  private double mode(int x) {
    Element e = elements.get(x / 2);
    int of1000 =
        e.single() ? PartKinds.get(partsOf(e.one()).get(0).kind()).wanders() : PAIR_WANDERS;
    return (Evidence.wanders(x) ? of1000 : 1000 - of1000) / 1000.0;
  }

  /** How often an element is the fault before any test. */
  double prior(int element) {
    return prior[element];
  }

  private double priorOf(Element e) {
    List<Part> one = partsOf(e.one());
    if (e.single()) {
      Part p = one.get(0);
      return PartKinds.get(p.kind()).prior()
          / 1000.0
          * p.suspicion().factor()
          * Symptom.factor(world.symptoms(), p.kind());
    }
    double quarrel =
        partsOf(e.other()).stream()
            .mapToDouble(p -> PartKinds.quarrel(one.get(0).kind(), p.kind()))
            .average()
            .orElse(PartKinds.RARE_QUARREL);
    return quarrel / 1000 * (e.offered() ? Element.OFFERED : 1);
  }

  /** The four things that a hypothesis foretells of an operation, by what a test meets. */
  static final int NEITHER = 0;

  static final int FIRST = 1;
  static final int SECOND = 2;
  static final int CASES = 4;

  /**
   * How likely a test is reported to fail if the hypothesis is true, by what the tests say of where
   * it shows.
   *
   * @param operation one that was tested, or a new one
   * @param into by what the test meets: {@link #NEITHER}, {@link #FIRST}, {@link #SECOND}, or both
   *     added together
   */
  void reportedToFail(H h, String operation, double[] into) {
    boolean reading = operation.equals(Trial.READING);
    double a = h.a() == NONE ? 0 : evidence.fails(h.a(), reading);
    double b = h.b() == NONE ? 0 : evidence.fails(h.b(), reading);
    double onlyA = 0;
    double onlyB = 0;
    double both = 1;
    if (!reading) {
      final double shows = Evidence.SHOWS;
      int o = evidence.operations.indexOf(operation);
      onlyA = (1 - shows) * shows * (o < 0 || h.a() == NONE ? 1 : evidence.shown(h.a(), o));
      onlyB = (1 - shows) * shows * (o < 0 || h.b() == NONE ? 1 : evidence.shown(h.b(), o));
      both = shows * shows * jointly(h, o);
      double all = onlyA + onlyB + both + (1 - shows) * (1 - shows);
      onlyA /= all;
      onlyB /= all;
      both /= all;
    }
    for (int met = 0; met < CASES; met++) {
      double failsA = (met & FIRST) != 0 ? a : 0;
      double failsB = (met & SECOND) != 0 ? b : 0;
      double fails = onlyA * failsA + onlyB * failsB + both * (1 - (1 - failsA) * (1 - failsB));
      into[met] = Evidence.reported(fails, Trial.Outcome.FAILS.misread());
    }
  }

  /** What the tests of an operation make of both where both show in it; one that is none does. */
  private double jointly(H h, int o) {
    if (o < 0 || h.a() == NONE) return 1;
    return h.b() == NONE ? evidence.shown(h.a(), o) : evidence.shown(h.a(), h.b(), o);
  }

  private boolean meets(int x, long parts, boolean reading) {
    return x != NONE && Evidence.meets(elements.get(x / 2), parts, reading);
  }

  /** Which of a hypothesis' elements a test meets, as {@link #reportedToFail} counts them. */
  int met(H h, long parts, boolean reading) {
    int first = meets(h.a(), parts, reading) ? FIRST : NEITHER;
    return meets(h.b(), parts, reading) ? first | SECOND : first;
  }

  /** The tests whose outcome is a surprise under a hypothesis, wherever it shows. */
  List<Trial> surprises(H h) {
    List<Trial> out = new ArrayList<>();
    double[] p = new double[CASES];
    for (Trial trial : evidence.trials) {
      reportedToFail(h, trial.operation(), p);
      double bad = p[met(h, bits(trial.parts()), trial.isReading())];
      if ((trial.bad() > 0 ? bad : 1 - bad) < 0.1) out.add(trial);
    }
    return out;
  }

  List<Part> partsOf(long bits) {
    return world.partsOf(bits);
  }

  long bits(Iterable<String> ids) {
    return World.bits(indexes, ids);
  }

  List<Trial> trials() {
    return evidence.trials;
  }

  List<Trial> failing() {
    return evidence.failing;
  }

  /** What an element is called. */
  String name(int element) {
    if (names[element] == null) names[element] = nameOf(elements.get(element));
    return names[element];
  }

  private String nameOf(Element e) {
    String one = partsOf(e.one()).get(0).name();
    if (e.single()) return one;
    return one + " × " + (e.group().isEmpty() ? partsOf(e.other()).get(0).name() : e.group());
  }
}
