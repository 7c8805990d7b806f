package lanternshed.core.fault;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import lanternshed.core.fault.Posterior.H;
import lanternshed.core.fault.Reasoning.Advice;
import lanternshed.core.fault.Reasoning.OutcomeLeaves;
import lanternshed.core.measure.Sum;

/**
 * The next test (D-3): among those possible with the parts at hand, the one whose outcome is
 * expected to tell most about what is left, for its minutes, money and risk. What it tells is the
 * mutual information between outcome and hypothesis, in bits (Shannon 1948).
 */
final class Advisor {
  private static final int MOST_HYPOTHESES = 1500;
  private static final int MOST_BASES = 14;
  private static final double NOTHING_TOLD = 0.004;

  /** Within this of the best, a control goes first (D-4). */
  private static final double TIE = 0.95;

  /**
   * A test that could be done.
   *
   * @param provided kinds that something known good stands in for
   */
  record Candidate(
      String title,
      long parts,
      String operation,
      Cost cost,
      boolean control,
      Set<String> provided) {
    Candidate(String title, long parts, String operation, Cost cost, boolean control) {
      this(title, parts, operation, cost, control, Set.of());
    }
  }

  private record Scored(Candidate c, double bits) {
    double score() {
      return bits / c.cost().weight();
    }
  }

  private Advisor() {}

  static List<Advice> advise(Posterior all) {
    List<Candidate> candidates = candidates(all);
    List<H> left = left(all);
    // Without a failure there is nothing to split yet: the first test is to see one.
    if (all.failing.isEmpty()) {
      return candidates.stream().map(c -> advice(all, left, new Scored(c, 0), candidates)).toList();
    }
    return rank(all, left, weights(left), candidates).stream()
        .limit(3)
        .map(s -> advice(all, left, s, candidates))
        .toList();
  }

  /** The best of these tests by information alone, as {@code -1} when none tells anything. */
  static int best(Posterior all, List<Candidate> candidates) {
    List<H> left = left(all);
    List<Scored> ranked = rank(all, left, weights(left), candidates);
    return ranked.isEmpty() ? -1 : candidates.indexOf(ranked.get(0).c());
  }

  /** What a test should tell apart: the likeliest hypotheses, which hold nearly all there is. */
  private static List<H> left(Posterior all) {
    return all.hypotheses().stream().limit(MOST_HYPOTHESES).toList();
  }

  private static double[] weights(List<H> left) {
    double total = left.stream().mapToDouble(H::share).sum();
    return left.stream().mapToDouble(h -> h.share() / total).toArray();
  }

  private static List<Scored> rank(
      Posterior all, List<H> left, double[] weight, List<Candidate> candidates) {
    List<Scored> out = new ArrayList<>();
    for (Candidate c : candidates) {
      double bits = bits(all, left, weight, c);
      if (bits > NOTHING_TOLD) out.add(new Scored(c, bits));
    }
    out.sort(Comparator.comparingDouble(Scored::score).reversed());
    for (int i = 1; i < out.size() && out.get(i).score() >= TIE * out.get(0).score(); i++) {
      if (!out.get(i).c().control() || out.get(0).c().control()) continue;
      out.add(0, out.remove(i));
      break;
    }
    return out;
  }

  private static double bits(Posterior all, List<H> left, double[] weight, Candidate c) {
    double fails = 0;
    double inside = 0;
    for (int i = 0; i < weight.length; i++) {
      double p = all.reportedToFail(left.get(i), c.parts(), c.operation());
      fails += weight[i] * p;
      inside += weight[i] * entropy(p);
    }
    return entropy(fails) - inside;
  }

  private static double entropy(double p) {
    if (p <= 1e-12 || p >= 1 - 1e-12) return 0;
    return -(p * Math.log(p) + (1 - p) * Math.log(1 - p)) / Math.log(2);
  }

  private static Advice advice(Posterior all, List<H> left, Scored s, List<Candidate> candidates) {
    Candidate c = s.c();
    Sum sum =
        Sum.of("D-3", c.title())
            .line("", "told, thousandths of a bit", Math.round(s.bits() * 1000))
            .line("", "minutes", c.cost().minutes())
            .line("+", "money, 2 minutes each", 2L * c.cost().money())
            .line("+", "risk, 20 minutes a step", 20L * c.cost().risk())
            .line("+", "for setting up", 5)
            .line("=", "told per hour", Math.round(s.score() * 60_000))
            .because(
                "The outcome that nobody can foresee tells most. A test that replaces one part with a known"
                    + " good one goes first where two are as good.")
            .done();
    return new Advice(
        c.title(),
        all.partsOf(c.parts()).stream().map(Part::id).toList(),
        c.operation(),
        c.cost(),
        c.control(),
        (int) Math.round(s.bits() * 1000),
        leaves(all, left, c, false, candidates),
        leaves(all, left, c, true, candidates),
        sum);
  }

  private static OutcomeLeaves leaves(
      Posterior all, List<H> left, Candidate c, boolean fails, List<Candidate> candidates) {
    double[] weight = weights(left);
    double share = 0;
    for (int i = 0; i < weight.length; i++) {
      double p = all.reportedToFail(left.get(i), c.parts(), c.operation());
      weight[i] *= fails ? p : 1 - p;
      share += weight[i];
    }
    if (share <= 0) return new OutcomeLeaves(0, List.of(), "");
    if (!fails && all.failing.isEmpty()) {
      return new OutcomeLeaves(
          Reasoner.thousandths(share),
          List.of("nothing: the fault did not show; note what was different"),
          "");
    }
    for (int i = 0; i < weight.length; i++) weight[i] /= share;
    Map<String, Double> byName = new LinkedHashMap<>();
    for (int i = 0; i < weight.length; i++) {
      byName.merge(name(all, left.get(i)), weight[i], Double::sum);
    }
    List<String> names =
        byName.entrySet().stream()
            .filter(e -> e.getValue() > 0.02)
            .sorted(Map.Entry.<String, Double>comparingByValue().reversed())
            .limit(3)
            .map(
                e ->
                    e.getKey()
                        + " ("
                        + String.format(Locale.ROOT, "%.2f", Math.min(0.99, e.getValue()))
                        + ")")
            .toList();
    List<Candidate> rest = candidates.stream().filter(x -> !x.equals(c)).toList();
    List<Scored> then = rank(all, left, weight, rest);
    return new OutcomeLeaves(
        Reasoner.thousandths(share), names, then.isEmpty() ? "" : then.get(0).c().title());
  }

  private static String name(Posterior all, H h) {
    if (h.a() < 0) return "nothing: it was misjudged";
    String a = all.name(all.elements.get(h.a() / 2));
    return h.b() < 0 ? a : a + ", and " + all.name(all.elements.get(h.b() / 2));
  }

  /** Every test that the parts at hand allow and that was not done yet. */
  static List<Candidate> candidates(Posterior all) {
    Candidates c = new Candidates(all);
    return c.all();
  }
}
