package lanternshed.core.fault;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import lanternshed.core.fault.Posterior.H;
import lanternshed.core.fault.Reasoning.Advice;
import lanternshed.core.fault.Reasoning.OutcomeLeaves;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;

/**
 * The next test (D-3): among those possible with the parts at hand, the one whose outcome is
 * expected to tell most about what is left, for its minutes, money and risk. What it tells is the
 * mutual information between outcome and hypothesis, in bits (Shannon 1948).
 */
final class Advisor {
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

  /**
   * @param index of the candidate
   */
  private record Scored(int index, Candidate c, double bits) {
    double score() {
      return bits / c.cost().weight();
    }
  }

  private final Posterior posterior;
  private final List<H> left;

  /** The shares of what is left, of 1 together. */
  private final double[] weights;

  /** What all that is left holds of everything that can be wrong. */
  private final double held;

  private final Forecast forecast;
  private final List<Candidate> candidates;

  /**
   * @param candidates the tests to choose from
   */
  Advisor(Posterior posterior, Explanations explanations, List<Candidate> candidates) {
    this.posterior = posterior;
    this.left = explanations.likeliest();
    this.held = left.stream().mapToDouble(H::share).sum();
    this.weights = left.stream().mapToDouble(h -> h.share() / held).toArray();
    this.forecast = new Forecast(posterior, left, candidates);
    this.candidates = candidates;
  }

  /**
   * @param hinge the test that carries the verdict alone: doing it again goes before all others
   */
  static List<Advice> advise(
      Posterior posterior, Explanations explanations, Optional<Trial> hinge) {
    List<Candidate> candidates = new Candidates(posterior, hinge).all();
    return new Advisor(posterior, explanations, candidates).advise(hinge.isPresent());
  }

  /**
   * @param first whether the first candidate goes before all others
   */
  private List<Advice> advise(boolean first) {
    // Without a failure there is nothing to split yet: the first test is to see one.
    if (posterior.failing().isEmpty()) {
      return IntStream.range(0, candidates.size())
          .mapToObj(i -> advice(new Scored(i, candidates.get(i), 0)))
          .toList();
    }
    List<Scored> ranked = rank(weights);
    if (first) {
      ranked.removeIf(s -> s.index() == 0);
      ranked.add(0, new Scored(0, candidates.get(0), forecast.bits(weights)[0]));
    }
    return ranked.stream().limit(3).map(this::advice).toList();
  }

  private List<Scored> rank(double[] weight) {
    double[] bits = forecast.bits(weight);
    List<Scored> out = new ArrayList<>();
    for (int i = 0; i < bits.length; i++) {
      if (bits[i] > NOTHING_TOLD) out.add(new Scored(i, candidates.get(i), bits[i]));
    }
    out.sort(Comparator.comparingDouble(Scored::score).reversed());
    for (int i = 1; i < out.size() && out.get(i).score() >= TIE * out.get(0).score(); i++) {
      if (!out.get(i).c().control() || out.get(0).c().control()) continue;
      out.add(0, out.remove(i));
      break;
    }
    return out;
  }

  private Advice advice(Scored s) {
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
                    + " good one goes first where two are as good."
                    + weighed())
            .done();
    return new Advice(
        c.title(),
        posterior.partsOf(c.parts()).stream().map(Part::id).toList(),
        c.operation(),
        c.cost(),
        c.control(),
        (int) Math.round(s.bits() * 1000),
        leaves(s.index(), false),
        leaves(s.index(), true),
        sum);
  }

  /** What is not weighed is told. */
  private String weighed() {
    if (left.size() < Head.MOST) return "";
    return " Weighed are the likeliest "
        + Say.count(Head.MOST)
        + " things that can be wrong, which hold "
        + Say.count(Reasoner.thousandths(held))
        + " of 1"
        + Say.THIN
        + "000.";
  }

  private OutcomeLeaves leaves(int candidate, boolean fails) {
    double[] weight = weights.clone();
    double[] p = forecast.reportedToFail(candidate);
    double share = 0;
    for (int i = 0; i < weight.length; i++) {
      weight[i] *= fails ? p[i] : 1 - p[i];
      share += weight[i];
    }
    if (share <= 0) return new OutcomeLeaves(0, List.of(), "");
    if (!fails && posterior.failing().isEmpty()) {
      return new OutcomeLeaves(
          Reasoner.thousandths(share),
          List.of("nothing: the fault did not show; note what was different"),
          "");
    }
    for (int i = 0; i < weight.length; i++) weight[i] /= share;
    double[] byName = forecast.byElements(weight);
    List<String> names =
        IntStream.range(0, byName.length)
            .filter(row -> byName[row] > 0.02)
            .boxed()
            .sorted(Comparator.comparingDouble(row -> -byName[row]))
            .limit(3)
            .map(row -> name(forecast.first(row)) + odds(byName[row]))
            .toList();
    String then =
        rank(weight).stream()
            .filter(x -> x.index() != candidate)
            .findFirst()
            .map(x -> x.c().title())
            .orElse("");
    return new OutcomeLeaves(Reasoner.thousandths(share), names, then);
  }

  private String name(H h) {
    if (h.a() == Posterior.NONE) return "nothing: it was misjudged";
    String a = posterior.name(h.a() / 2);
    return h.b() == Posterior.NONE ? a : a + ", and " + posterior.name(h.b() / 2);
  }

  private static String odds(double share) {
    return " (" + String.format(Locale.ROOT, "%.2f", Math.min(0.99, share)) + ")";
  }
}
