package lanternshed.core.fault;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.IntStream;
import lanternshed.core.fault.Hypotheses.H;
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

  /** A test that could be done. */
  record Candidate(String title, long parts, String operation, Cost cost, boolean control) {}

  private record Scored(Candidate c, double bits) {
    double score() {
      return bits / c.cost().weight();
    }
  }

  private Advisor() {}

  static List<Advice> advise(Hypotheses all) {
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
  static int best(Hypotheses all, List<Candidate> candidates) {
    List<H> left = left(all);
    List<Scored> ranked = rank(all, left, weights(left), candidates);
    return ranked.isEmpty() ? -1 : candidates.indexOf(ranked.get(0).c());
  }

  /**
   * What a test should tell apart: the minimal explanations. That something else is broken as well,
   * with nothing to explain yet, is asked only when one of them is left.
   */
  private static List<H> left(Hypotheses all) {
    List<H> minimal = all.minimal();
    return (minimal.size() > 1 ? minimal : all.consistent())
        .stream().limit(MOST_HYPOTHESES).toList();
  }

  private static double[] weights(List<H> left) {
    double total = left.stream().mapToDouble(H::weight).sum();
    return left.stream().mapToDouble(h -> h.weight() / total).toArray();
  }

  private static List<Scored> rank(
      Hypotheses all, List<H> left, double[] weight, List<Candidate> candidates) {
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

  private static double bits(Hypotheses all, List<H> left, double[] weight, Candidate c) {
    double fails = 0;
    double inside = 0;
    for (int i = 0; i < weight.length; i++) {
      double p = all.fails(left.get(i), c.parts(), c.operation());
      fails += weight[i] * p;
      inside += weight[i] * entropy(p);
    }
    return entropy(fails) - inside;
  }

  private static double entropy(double p) {
    if (p <= 1e-12 || p >= 1 - 1e-12) return 0;
    return -(p * Math.log(p) + (1 - p) * Math.log(1 - p)) / Math.log(2);
  }

  private static Advice advice(Hypotheses all, List<H> left, Scored s, List<Candidate> candidates) {
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
      Hypotheses all, List<H> left, Candidate c, boolean fails, List<Candidate> candidates) {
    double[] weight = weights(left);
    double share = 0;
    for (int i = 0; i < weight.length; i++) {
      double p = all.fails(left.get(i), c.parts(), c.operation());
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
    List<Integer> order =
        IntStream.range(0, weight.length)
            .filter(i -> weight[i] > 0.02)
            .boxed()
            .sorted(Comparator.comparingDouble((Integer i) -> weight[i]).reversed())
            .limit(3)
            .toList();
    List<String> names =
        order.stream()
            .map(
                i ->
                    all.name(left.get(i))
                        + " (0."
                        + String.format("%02d", Math.min(99, Math.round(weight[i] * 100)))
                        + ")")
            .toList();
    List<Candidate> rest = candidates.stream().filter(x -> !x.equals(c)).toList();
    List<Scored> then = rank(all, left, weight, rest);
    return new OutcomeLeaves(
        Reasoner.thousandths(share), names, then.isEmpty() ? "" : then.get(0).c().title());
  }

  /** Every test that the parts at hand allow and that was not done yet. */
  static List<Candidate> candidates(Hypotheses all) {
    World w = all.world;
    Map<String, Candidate> out = new LinkedHashMap<>();
    Set<String> done = new HashSet<>();
    for (Trial t : w.trials()) done.add(all.bits(t.parts()) + " " + t.operation());
    if (all.failing.isEmpty()) {
      long fitted = all.bits(w.parts().stream().filter(Part::fitted).map(Part::id).toList());
      if (fitted != 0) {
        add(
            out,
            done,
            new Candidate(
                "Show the fault once, with everything as it came",
                fitted,
                "starts",
                new Cost(5, 0, 0),
                false));
      }
      return List.copyOf(out.values());
    }
    List<String> failingOperations =
        all.failing.stream()
            .map(Trial::operation)
            .filter(o -> !Hypotheses.isReading(o))
            .distinct()
            .toList();
    for (Trial base : bases(all)) {
      long parts = all.bits(base.parts());
      for (String operation :
          base.outcome().fails() ? List.of(base.operation()) : failingOperations) {
        for (Part p : all.partsOf(parts)) swaps(all, out, done, base, parts, operation, p);
      }
    }
    for (Part p : w.parts()) {
      PartKind.Alone alone = PartKinds.get(p.kind()).alone();
      if (alone.text().isEmpty()) continue;
      long bit = all.bits(List.of(p.id()));
      String title =
          p.name()
              + ": "
              + Character.toLowerCase(alone.text().charAt(0))
              + alone.text().substring(1);
      if (alone.reading()) {
        add(out, done, new Candidate(title, bit, Trial.READING, alone.cost(), false));
      } else {
        for (String o : failingOperations)
          add(out, done, new Candidate(title, bit, o, alone.cost(), true));
      }
    }
    together(all, out, done, failingOperations);
    return List.copyOf(out.values());
  }

  private static List<Trial> bases(Hypotheses all) {
    Set<Long> seen = new HashSet<>();
    List<Trial> out = new ArrayList<>();
    List<Trial> order = new ArrayList<>(all.failing);
    all.world.trials().stream().filter(t -> !t.outcome().fails()).forEach(order::add);
    for (Trial t : order) {
      if (Hypotheses.isReading(t.operation())) continue;
      if (seen.add(all.bits(t.parts())) && out.size() < MOST_BASES) out.add(t);
    }
    return out;
  }

  private static void swaps(
      Hypotheses all,
      Map<String, Candidate> out,
      Set<String> done,
      Trial base,
      long parts,
      String operation,
      Part p) {
    long bit = all.bits(List.of(p.id()));
    String again = "Test " + base.number() + " again, ";
    for (Part q : all.world.parts()) {
      long other = all.bits(List.of(q.id()));
      if ((parts & other) != 0 || !q.kind().equals(p.kind())) continue;
      Cost cost = q.swap().plus(new Cost(5, 0, 0));
      add(
          out,
          done,
          new Candidate(
              again + q.name() + " in place of " + p.name(),
              parts & ~bit | other,
              operation,
              cost,
              false));
    }
    if (!base.outcome().fails() || Long.bitCount(parts) < 2) return;
    PartKind kind = PartKinds.get(p.kind());
    if (!kind.spare()) return;
    add(
        out,
        done,
        new Candidate(
            again + "a known good " + kind.name() + " in place of " + p.name(),
            parts & ~bit,
            operation,
            kind.borrow(),
            true));
  }

  /** An adapter with the card in it, read in another machine. */
  private static void together(
      Hypotheses all, Map<String, Candidate> out, Set<String> done, List<String> operations) {
    for (Part a : all.world.parts()) {
      if (!a.kind().equals("adapter")) continue;
      for (Part c : all.world.parts()) {
        if (!c.kind().equals("card")) continue;
        long parts = all.bits(List.of(a.id(), c.id()));
        String title = c.name() + " in " + a.name() + ": read whole in another machine";
        for (String o : operations)
          add(out, done, new Candidate(title, parts, o, new Cost(15, 0, 0), true));
      }
    }
  }

  private static void add(Map<String, Candidate> out, Set<String> done, Candidate c) {
    String key = c.parts() + " " + c.operation();
    if (!done.contains(key)) out.putIfAbsent(key, c);
  }
}
