package lanternshed.core.fault;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.stream.IntStream;
import lanternshed.core.fault.Posterior.H;

/**
 * What is likely, told simply (D-14): hypotheses that name the same elements are one explanation,
 * steady or not; and a second element that explains next to nothing beside the first is left out of
 * it. All of them are added up by what is asked later; by itself an explanation is kept where it
 * holds one in a thousand.
 */
final class Explanations implements Posterior.Walk {
  /** Two things are told of only where together they fit so many times better than either alone. */
  static final double BETTER = 4;

  /** What holds less is in the sums alone. */
  static final double TOLD = 0.001;

  /** What an explanation says of storage. */
  enum Blame {
    STORAGE,
    OTHER,
    /** A pair of which one is storage and the other is not. */
    PAIR,
    /** Storage, and something else beside it. */
    BOTH
  }

  /**
   * One explanation.
   *
   * @param elements one or two, by index; none where nothing is wrong
   * @param share of 1
   * @param wanders the part of the share in which it comes and goes
   * @param best the likeliest hypothesis in it
   */
  record One(List<Integer> elements, double share, double wanders, H best) {
    private One of(double total) {
      H h = new H(best.a(), best.b(), best.fit(), best.share() / total);
      return new One(elements, share / total, wanders / total, h);
    }
  }

  private final Posterior posterior;
  private final Blame[] blameOf;
  private final double[] single;
  private final double[] singleWanders;
  private final H[] bestOfSingle;
  private final double[] bestWeight;
  private final double[] fitAlone;

  /** By element: all parts in it. */
  private final long[] parts;

  private final List<One> pairs = new ArrayList<>();
  private final Head head = new Head();

  /** By blame and element: the weight of the pairs that name it. */
  private final double[][] inPairs;

  /** By blame and part: the weight of pairs whose elements both have it, counted once too often. */
  private final double[][] twice;

  private final double[] blamed = new double[Blame.values().length];
  private double nothing;
  private double total;
  private final List<One> told;
  private final List<H> likeliest;

  private Explanations(Posterior p) {
    this.posterior = p;
    int n = p.elements.size();
    this.blameOf =
        p.elements.stream().map(e -> blame(p.partsOf(e.one() | e.other()))).toArray(Blame[]::new);
    this.single = new double[n];
    this.singleWanders = new double[n];
    this.bestOfSingle = new H[n];
    this.bestWeight = new double[n];
    this.fitAlone = IntStream.range(0, n * 2).mapToDouble(p.evidence::fit).toArray();
    this.parts = p.elements.stream().mapToLong(e -> e.one() | e.other()).toArray();
    this.inPairs = new double[blamed.length][n];
    this.twice = new double[blamed.length][p.world.parts().size()];
    p.walk(this);
    List<One> all = new ArrayList<>(pairs);
    all.add(new One(List.of(), nothing, 0, new H(Posterior.NONE, Posterior.NONE, 1, nothing)));
    for (int e = 0; e < n; e++) {
      blamed[blameOf[e].ordinal()] += single[e];
      all.add(new One(List.of(e), single[e], singleWanders[e], bestOfSingle[e]));
    }
    all.sort(Comparator.comparingDouble(One::share).reversed());
    double least = Math.min(TOLD * total, all.get(0).share());
    lead(all);
    this.told = all.stream().filter(o -> o.share() >= least).map(o -> o.of(total)).toList();
    this.likeliest = head.hypotheses(total);
  }

  /**
   * Nothing that took part in a test which works leads over what did not (D-16), unless it holds
   * more than all the rest: then something comes and goes.
   */
  private void lead(List<One> all) {
    if (all.get(0).share() >= total / 2 || !worked(all.get(0))) return;
    for (int i = 1; i < all.size() && all.get(i).share() >= Reasoner.CLEARED * total; i++) {
      if (all.get(i).elements().isEmpty() || worked(all.get(i))) continue;
      all.add(0, all.remove(i));
      return;
    }
  }

  private boolean worked(One o) {
    return o.elements().stream().anyMatch(posterior.evidence::meetsPass);
  }

  static Explanations of(Posterior p) {
    return new Explanations(p);
  }

  @Override
  public void one(int a, double weight) {
    total += weight;
    double fit = a == Posterior.NONE ? 1 : fitAlone[a];
    head.take(a, Posterior.NONE, fit, weight);
    if (a == Posterior.NONE) nothing = weight;
    else addSingle(a / 2, a, Posterior.NONE, fit, weight);
  }

  private void addSingle(int element, int a, int b, double fit, double weight) {
    single[element] += weight;
    if (wanders(a, b)) singleWanders[element] += weight;
    if (weight <= bestWeight[element]) return;
    bestWeight[element] = weight;
    bestOfSingle[element] = new H(a, b, fit, weight);
  }

  private static boolean wanders(int a, int b) {
    return Evidence.wanders(a) || b != Posterior.NONE && Evidence.wanders(b);
  }

  @Override
  public void two(int e, int f, double[] weights, double[] fits) {
    double[] alone = fitAlone;
    double stays = 0;
    double comesAndGoes = 0;
    int best = -1;
    total += weights[0] + weights[1] + weights[2] + weights[3];
    for (int mode = 0; mode < Evidence.MODES; mode++) {
      int a = e * 2 + (mode >> 1);
      int b = f * 2 + (mode & 1);
      double weight = weights[mode];
      if (weight > head.least()) head.take(a, b, fits[mode], weight);
      double enough = fits[mode] / BETTER;
      if (alone[a] > enough || alone[b] > enough) {
        addSingle(alone[a] >= alone[b] ? e : f, a, b, fits[mode], weight);
        continue;
      }
      stays += weight;
      if (mode > 0) comesAndGoes += weight;
      if (best < 0 || weight > weights[best]) best = mode;
    }
    if (best < 0) return;
    int blame = together(blameOf[e], blameOf[f]).ordinal();
    blamed[blame] += stays;
    inPairs[blame][e] += stays;
    inPairs[blame][f] += stays;
    for (long left = parts[e] & parts[f]; left != 0; left &= left - 1) {
      twice[blame][Long.numberOfTrailingZeros(left)] += stays;
    }
    // The total only grows: what is too little by now is too little at the end.
    if (stays < TOLD * total) return;
    H h = new H(e * 2 + (best >> 1), f * 2 + (best & 1), fits[best], weights[best]);
    pairs.add(new One(List.of(e, f), stays, comesAndGoes, h));
  }

  private static Blame blame(List<Part> parts) {
    boolean storage = parts.stream().anyMatch(q -> PartKinds.get(q.kind()).storage());
    boolean rest = parts.stream().anyMatch(q -> !PartKinds.get(q.kind()).storage());
    if (storage && rest) return Blame.PAIR;
    return storage ? Blame.STORAGE : Blame.OTHER;
  }

  private static Blame together(Blame a, Blame b) {
    if (a == Blame.PAIR || b == Blame.PAIR) return Blame.PAIR;
    return a == b ? a : Blame.BOTH;
  }

  /** Those that hold one in a thousand, and the likeliest in any case; the likeliest first. */
  List<One> told() {
    return told;
  }

  One first() {
    return told.get(0);
  }

  /** The likeliest hypotheses, at most {@link Head#MOST}. */
  List<H> likeliest() {
    return likeliest;
  }

  /** The share of all explanations that say this of storage. */
  double blamed(Blame b) {
    return blamed[b.ordinal()] / total;
  }

  /** By part: the share of the explanations that name it by itself. */
  double[] alone() {
    return byPart(true);
  }

  /** By part: the share of the explanations that name it in a pair of parts or with a group. */
  double[] together() {
    return byPart(false);
  }

  private double[] byPart(boolean single) {
    double[] out = new double[posterior.world.parts().size()];
    for (int e = 0; e < posterior.elements.size(); e++) {
      if (posterior.elements.get(e).single() != single) continue;
      double share = this.single[e];
      for (double[] x : inPairs) share += x[e];
      add(out, e, share / total);
    }
    return out;
  }

  /** By part: the share of the explanations of this blame that name it. */
  double[] named(Blame b) {
    double[] out = new double[posterior.world.parts().size()];
    for (int e = 0; e < posterior.elements.size(); e++) {
      double share = inPairs[b.ordinal()][e] + (blameOf[e] == b ? single[e] : 0);
      add(out, e, share / total);
    }
    for (int i = 0; i < out.length; i++) out[i] -= twice[b.ordinal()][i] / total;
    return out;
  }

  /** By part: the share of all explanations that name it, by itself or with others. */
  double[] naming() {
    double[] out = new double[posterior.world.parts().size()];
    for (Blame b : Blame.values()) {
      double[] named = named(b);
      for (int i = 0; i < out.length; i++) out[i] += named[i];
    }
    return out;
  }

  private void add(double[] byPart, int element, double share) {
    for (long left = parts[element]; left != 0; left &= left - 1) {
      byPart[Long.numberOfTrailingZeros(left)] += share;
    }
  }
}
