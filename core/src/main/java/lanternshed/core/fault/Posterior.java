package lanternshed.core.fault;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.stream.IntStream;

/**
 * How likely everything that can be wrong is after the tests (D-13), by exact enumeration. A
 * <i>hypothesis</i> is nothing at all, one {@link Element}, or two of them that both meet something
 * which failed; each element is steady or comes and goes.
 *
 * <p>A steady fault fails every test that meets it in an operation in which it shows; one that
 * comes and goes fails a stated share of them. In which operations a fault shows is not known: each
 * operation has it with probability {@link #SHOWS}, and the sum over all choices is taken. People
 * misjudge a stated share of outcomes, so that nothing is ever excluded for good. Tests before
 * something was done to one of their parts count half.
 */
final class Posterior {
  /** A fault shows in an operation this often; one in four concerns other operations only. */
  static final double SHOWS = 0.75;

  /** A reading finds a steady fault of its part this often. */
  static final double READING_FINDS = 0.95;

  /** That nothing is wrong and all failures were misread. */
  static final double NOTHING_WRONG = 0.02;

  /**
   * Before something was done to a part: so much of what a test of it tells is about a state gone.
   */
  static final double GONE = 0.5;

  /** How much of the quarrels come and go, of 1000. */
  static final int PAIR_WANDERS = 150;

  /** With more elements than this, two at once are looked for among the likeliest. */
  private static final int MOST_IN_TWOS = 900;

  final World world;
  final List<Element> elements;
  final List<Trial> failing;
  final List<String> operations;
  private final java.util.Map<String, Integer> indexes;
  private final List<Trial> trials;
  private final int[] operationOf;
  private final boolean[] gone;

  /** By moded element (twice the element, and one more where it comes and goes) and trial. */
  private final double[][] ratio;

  private final long[][] met;
  private final double[][] alone;
  private final long[][] operationMask;
  private final double[] logPrior;
  private final double[] logAlone;

  private final List<H> hypotheses;

  /**
   * One hypothesis.
   *
   * @param a moded element; −1 for nothing at all
   * @param b a second one; −1 for none
   * @param fit logarithm of how likely the outcomes are under it
   * @param share posterior, all of them sum to 1
   */
  record H(int a, int b, double fit, double share) {}

  Posterior(World world) {
    this.world = world;
    this.indexes = world.indexes();
    this.elements = Element.all(world);
    for (Trial t : world.trials()) World.bits(indexes, t.parts());
    this.trials = world.trials().stream().filter(Trial::tells).toList();
    this.failing = trials.stream().filter(t -> t.bad() > 0).toList();
    this.operations = trials.stream().map(Trial::operation).distinct().toList();
    this.operationOf = trials.stream().mapToInt(t -> operations.indexOf(t.operation())).toArray();
    this.gone = new boolean[trials.size()];
    for (int t = 0; t < gone.length; t++) gone[t] = touchedAfter(trials.get(t));
    int m = elements.size() * 2;
    this.ratio = new double[m][trials.size()];
    this.met = new long[m][2];
    this.alone = new double[m][operations.size()];
    this.operationMask = new long[operations.size()][2];
    this.logPrior = new double[m];
    this.logAlone = new double[m];
    for (int t = 0; t < trials.size(); t++) set(operationMask[operationOf[t]], t);
    for (int x = 0; x < m; x++) weigh(x);
    this.hypotheses = enumerate();
  }

  private boolean touchedAfter(Trial trial) {
    return world.trials().stream()
        .filter(c -> c.outcome() == Trial.Outcome.CHANGED && c.number() > trial.number())
        .anyMatch(c -> c.parts().stream().anyMatch(trial.parts()::contains));
  }

  private void weigh(int x) {
    Element e = elements.get(x / 2);
    Arrays.fill(alone[x], 1);
    for (int t = 0; t < trials.size(); t++) {
      ratio[x][t] = 1;
      if (!meets(e, bits(trials.get(t).parts()), trials.get(t).isReading())) continue;
      set(met[x], t);
      ratio[x][t] = likelihood(t, fails(x, trials.get(t).isReading())) / likelihood(t, 0);
      alone[x][operationOf[t]] *= ratio[x][t];
    }
    logPrior[x] = Math.log(prior(e) * mode(x));
    for (int o = 0; o < operations.size(); o++) logAlone[x] += Math.log(single(o, alone[x][o]));
  }

  /** How likely a trial went as it did when each try of it fails with this probability. */
  private double likelihood(int t, double fails) {
    Trial trial = trials.get(t);
    double bad = reported(fails, trial.outcome().misread());
    if (gone[t]) bad = (1 - GONE) * bad + GONE * 0.5;
    return Math.pow(bad, trial.bad()) * Math.pow(1 - bad, trial.good());
  }

  static double reported(double fails, double misread) {
    return fails * (1 - misread) + (1 - fails) * misread;
  }

  /** Readings are taken on single parts: a pair that quarrels reads well. */
  static boolean meets(Element e, long parts, boolean reading) {
    return (!reading || e.single()) && e.in(parts);
  }

  /** How often a test that meets it fails, where it shows. */
  double fails(int x, boolean reading) {
    double steady = reading ? READING_FINDS : 1;
    return wanders(x) ? shows(elements.get(x / 2)) * steady : steady;
  }

  static boolean wanders(int x) {
    return x % 2 == 1;
  }

  private double mode(int x) {
    Element e = elements.get(x / 2);
    int of1000 =
        e.single() ? PartKinds.get(partsOf(e.one()).get(0).kind()).wanders() : PAIR_WANDERS;
    return (wanders(x) ? of1000 : 1000 - of1000) / 1000.0;
  }

  private double shows(Element e) {
    return partsOf(e.one() | e.other()).stream()
            .mapToInt(p -> PartKinds.get(p.kind()).shows())
            .average()
            .orElse(500)
        / 1000;
  }

  double prior(Element e) {
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

  private static double single(boolean reading, double product) {
    return reading ? product : SHOWS * product + 1 - SHOWS;
  }

  private double single(int o, double product) {
    return single(isReading(o), product);
  }

  private boolean isReading(int o) {
    return operations.get(o).equals(Trial.READING);
  }

  /** The product of the ratios of both where both show in an operation. */
  private double both(int a, int b, int o) {
    double j = alone[a][o];
    for (int w = 0; w < 2; w++) {
      long todo = met[b][w] & operationMask[o][w];
      while (todo != 0) {
        int t = w * 64 + Long.numberOfTrailingZeros(todo);
        todo &= todo - 1;
        if ((met[a][w] & 1L << t % 64) == 0) {
          j *= ratio[b][t];
          continue;
        }
        boolean reading = trials.get(t).isReading();
        double either = 1 - (1 - fails(a, reading)) * (1 - fails(b, reading));
        j *= likelihood(t, either) / likelihood(t, 0) / ratio[a][t];
      }
    }
    return j;
  }

  /** Logarithm of how likely all outcomes are under two elements, against nothing wrong. */
  private double fit(int a, int b) {
    double out = 0;
    double factor = 1;
    for (int o = 0; o < operations.size(); o++) {
      boolean inA = meetsIn(a, o);
      boolean inB = meetsIn(b, o);
      if (!inA && !inB) continue;
      double f;
      if (!inB) f = single(o, alone[a][o]);
      else if (!inA) f = single(o, alone[b][o]);
      else if (isReading(o)) f = both(a, b, o);
      else {
        f =
            SHOWS * SHOWS * both(a, b, o)
                + SHOWS * (1 - SHOWS) * (alone[a][o] + alone[b][o])
                + (1 - SHOWS) * (1 - SHOWS);
      }
      if (f > 1e-100 && f < 1e100 && factor > 1e-100 && factor < 1e100) factor *= f;
      else {
        out += Math.log(factor);
        factor = f;
      }
    }
    return out + Math.log(factor);
  }

  private boolean meetsIn(int x, int o) {
    return (met[x][0] & operationMask[o][0]) != 0 || (met[x][1] & operationMask[o][1]) != 0;
  }

  private List<H> enumerate() {
    long[] bad = new long[2];
    for (int t = 0; t < trials.size(); t++) if (trials.get(t).bad() > 0) set(bad, t);
    int m = elements.size() * 2;
    List<H> raw = new ArrayList<>();
    List<Double> weights = new ArrayList<>();
    raw.add(new H(-1, -1, 0, 0));
    weights.add(Math.log(NOTHING_WRONG));
    for (int a = 0; a < m; a++) {
      raw.add(new H(a, -1, logAlone[a], 0));
      weights.add(logPrior[a] + logAlone[a]);
    }
    int[] meetBad =
        IntStream.range(0, m)
            .filter(x -> (met[x][0] & bad[0]) != 0 || (met[x][1] & bad[1]) != 0)
            .boxed()
            .sorted(Comparator.comparingDouble((Integer x) -> -logPrior[x] - logAlone[x]))
            .limit(MOST_IN_TWOS)
            .mapToInt(x -> x)
            .toArray();
    for (int i = 0; i < meetBad.length; i++) {
      for (int k = i + 1; k < meetBad.length; k++) {
        int a = Math.min(meetBad[i], meetBad[k]);
        int b = Math.max(meetBad[i], meetBad[k]);
        Element x = elements.get(a / 2);
        Element y = elements.get(b / 2);
        if (x.equals(y) || x.overlaps(y)) continue;
        double f = fit(a, b);
        raw.add(new H(a, b, f, 0));
        weights.add(logPrior[a] + logPrior[b] + f);
      }
    }
    double most = weights.stream().mapToDouble(w -> w).max().orElse(0);
    double total = weights.stream().mapToDouble(w -> Math.exp(w - most)).sum();
    List<H> out = new ArrayList<>(raw.size());
    for (int i = 0; i < raw.size(); i++) {
      H h = raw.get(i);
      out.add(new H(h.a(), h.b(), h.fit(), Math.exp(weights.get(i) - most) / total));
    }
    out.sort(Comparator.comparingDouble(H::share).reversed());
    return out;
  }

  /** All of them, the likeliest first. */
  List<H> hypotheses() {
    return hypotheses;
  }

  /** Logarithm of how likely the outcomes are under one moded element alone. */
  double fitAlone(int x) {
    return logAlone[x];
  }

  /**
   * How likely a test with these parts is reported to fail if the hypothesis is true, by what the
   * tests say of where it shows.
   */
  double reportedToFail(H h, long parts, String operation) {
    boolean reading = operation.equals(Trial.READING);
    double a = 0;
    double b = 0;
    if (h.a() >= 0 && meets(elements.get(h.a() / 2), parts, reading)) a = fails(h.a(), reading);
    if (h.b() >= 0 && meets(elements.get(h.b() / 2), parts, reading)) b = fails(h.b(), reading);
    double fails;
    if (a == 0 && b == 0) fails = 0;
    else if (reading) fails = 1 - (1 - a) * (1 - b);
    else fails = shown(h, operations.indexOf(operation), a, b);
    return reported(fails, Trial.Outcome.FAILS.misread());
  }

  private double shown(H h, int o, double a, double b) {
    double onlyA = SHOWS * (o < 0 || h.a() < 0 ? 1 : alone[h.a()][o]);
    if (h.b() < 0) return a * onlyA / (onlyA + 1 - SHOWS);
    double onlyB = (1 - SHOWS) * SHOWS * (o < 0 ? 1 : alone[h.b()][o]);
    double both = SHOWS * SHOWS * (o < 0 ? 1 : both(h.a(), h.b(), o));
    double none = (1 - SHOWS) * (1 - SHOWS);
    onlyA *= 1 - SHOWS;
    double all = onlyA + onlyB + both + none;
    return (onlyA * a + onlyB * b + both * (1 - (1 - a) * (1 - b))) / all;
  }

  /** The tests whose outcome is a surprise under a hypothesis, wherever it shows. */
  List<Trial> surprises(H h) {
    List<Trial> out = new ArrayList<>();
    for (int t = 0; t < trials.size(); t++) {
      Trial trial = trials.get(t);
      double p = reportedToFail(h, bits(trial.parts()), trial.operation());
      double as = trial.bad() > 0 ? p : 1 - p;
      if (as < 0.1) out.add(trial);
    }
    return out;
  }

  List<Part> partsOf(long bits) {
    List<Part> out = new ArrayList<>();
    for (int i = 0; i < world.parts().size(); i++) {
      if ((bits & 1L << i) != 0) out.add(world.parts().get(i));
    }
    return out;
  }

  long bits(Iterable<String> ids) {
    return World.bits(indexes, ids);
  }

  List<Trial> trials() {
    return trials;
  }

  String name(Element e) {
    String one = partsOf(e.one()).get(0).name();
    if (e.single()) return one;
    return one + " × " + (e.group().isEmpty() ? partsOf(e.other()).get(0).name() : e.group());
  }

  private static void set(long[] bits, int at) {
    bits[at / 64] |= 1L << at % 64;
  }
}
