package lanternshed.core.fault;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import lanternshed.core.fault.Hypotheses.H;
import lanternshed.core.fault.Reasoning.Cause;
import lanternshed.core.fault.Reasoning.Contradiction;
import lanternshed.core.fault.Reasoning.Explanation;
import lanternshed.core.fault.Reasoning.PartState;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;

/**
 * From parts and tests to the smallest explanations, what cleared each other part, the next test
 * and the verdict (D-2, D-3). Considered are single parts, pairs of parts, a part with a whole
 * group, and any two of these independently.
 */
public final class Reasoner {
  public static final int MOST_SHOWN = 12;

  private Reasoner() {}

  public static Reasoning reason(World world) {
    Hypotheses all = new Hypotheses(world);
    if (all.failing.isEmpty()) return nothingFails(all);
    List<H> minimal = all.minimal();
    if (minimal.isEmpty()) return contradicting(all);
    double total = minimal.stream().mapToDouble(H::weight).sum();
    List<Explanation> shown =
        minimal.stream().limit(MOST_SHOWN).map(h -> explanation(all, h, total)).toList();
    double listed = minimal.stream().limit(MOST_SHOWN).mapToDouble(H::weight).sum();
    List<Reasoning.Advice> next = Advisor.advise(all);
    String note =
        !next.isEmpty()
            ? ""
            : minimal.size() == 1
                ? "Nothing is left to split: one explanation remains."
                : "No test with these parts splits what is left. Name a spare, or a part that could be"
                    + " tested elsewhere.";
    return new Reasoning(
        shown,
        minimal.size() - shown.size(),
        thousandths((total - listed) / total),
        states(all, minimal),
        Optional.empty(),
        next,
        note,
        Verdicts.of(all, minimal, total));
  }

  private static Reasoning nothingFails(Hypotheses all) {
    return new Reasoning(
        List.of(),
        0,
        0,
        states(all, List.of()),
        Optional.empty(),
        Advisor.advise(all),
        "",
        Verdicts.open(
            "No test fails yet. Enter the one that shows the fault, with all parts in it."));
  }

  private static Reasoning contradicting(Hypotheses all) {
    List<Trial> core = new ArrayList<>(all.world.trials());
    // Leave out what can be left out: what stays contradicts itself, and nothing less does.
    for (Trial t : List.copyOf(all.world.trials())) {
      List<Trial> without = new ArrayList<>(core);
      without.remove(t);
      World smaller = new World(all.world.parts(), without, all.world.symptoms());
      if (!new Hypotheses(smaller).possible()) core = without;
    }
    List<Integer> numbers = core.stream().map(Trial::number).sorted().toList();
    long fails = core.stream().filter(t -> t.outcome().fails()).count();
    String list = numbers.stream().map(String::valueOf).collect(Collectors.joining(", "));
    String sentence =
        (fails == 1
                ? "Tests " + list + " contradict each other: what fails in one works in the others."
                : "Tests "
                    + list
                    + " contradict each other as long as at most two things are wrong.")
            + " Repeat one of them; a fault that comes and goes looks like this too.";
    return new Reasoning(
        List.of(),
        0,
        0,
        states(all, List.of()),
        Optional.of(new Contradiction(numbers, sentence)),
        List.of(),
        "Settle the contradiction first.",
        Verdicts.open(sentence));
  }

  private static Explanation explanation(Hypotheses all, H h, double total) {
    List<Element> es = new ArrayList<>(List.of(all.elements.get(h.a())));
    if (h.b() >= 0) es.add(all.elements.get(h.b()));
    List<Integer> explains = all.failing.stream().map(Trial::number).sorted().toList();
    List<Integer> agrees =
        all.world.trials().stream()
            .filter(t -> !t.outcome().fails())
            .filter(t -> es.stream().anyMatch(e -> touches(all, e, t)))
            .map(Trial::number)
            .sorted()
            .toList();
    return new Explanation(
        all.name(h),
        es.stream().map(e -> cause(all, e)).toList(),
        thousandths(h.weight() / total),
        explains,
        agrees,
        sum(all, h, total));
  }

  private static boolean touches(Hypotheses all, Element e, Trial t) {
    return (all.bits(t.parts()) & (e.one() | e.other())) != 0;
  }

  private static Cause cause(Hypotheses all, Element e) {
    List<String> ids = all.partsOf(e.one() | e.other()).stream().map(Part::id).toList();
    return new Cause(all.name(e), ids, e.group());
  }

  private static Sum sum(Hypotheses all, H h, double total) {
    Sum.Builder s = Sum.of("D-2", all.name(h));
    line(all, s, h.a(), "");
    if (h.b() >= 0) line(all, s, h.b(), "×");
    return s.line("=", "weight of a million", Math.round(h.weight() * 1e6))
        .line("÷", "weight of all that is left", Math.round(total * 1e6))
        .line(
            "=",
            "share",
            thousandths(h.weight() / total),
            Say.count(thousandths(h.weight() / total)) + " of 1" + Say.THIN + "000")
        .because(
            "It meets every failing test, and no passing test of the same operation met it. The weights"
                + " are stated estimates of how often a kind of part is the fault; the order follows"
                + " them, what is excluded does not.")
        .lift("mark a part as more or less likely where you know its age or history")
        .done();
  }

  private static void line(Hypotheses all, Sum.Builder s, int e, String op) {
    Element el = all.elements.get(e);
    s.line(
        op,
        el.single() ? "how often " + all.name(el) + " is the fault" : "how often these quarrel",
        Math.round(all.prior(el) * 1e6),
        Say.count(Math.round(all.prior(el) * 1000)) + " of 1" + Say.THIN + "000");
    double ratio = all.weight[e] / all.prior(el);
    if (ratio < 0.99) {
      s.line(
          "×",
          "works for some operations",
          Math.round(ratio * 1e6),
          thousandths(ratio) + " of 1" + Say.THIN + "000");
    }
  }

  private static List<PartState> states(Hypotheses all, List<H> minimal) {
    long alone = 0;
    long together = 0;
    for (H h : minimal) {
      for (int e : h.b() < 0 ? new int[] {h.a()} : new int[] {h.a(), h.b()}) {
        Element el = all.elements.get(e);
        if (el.single()) alone |= el.one();
        else together |= el.one() | el.other();
      }
    }
    long inFailing = 0;
    for (Trial t : all.failing) inFailing |= all.bits(t.parts());
    List<PartState> out = new ArrayList<>();
    for (int i = 0; i < all.world.parts().size(); i++) {
      long bit = 1L << i;
      Part p = all.world.parts().get(i);
      List<Integer> by =
          all.world.trials().stream()
              .filter(t -> !t.outcome().fails() && t.parts().contains(p.id()))
              .filter(t -> Hypotheses.isReading(t.operation()) || failsIn(all, p, t.operation()))
              .map(Trial::number)
              .sorted()
              .toList();
      String tests = by.stream().map(String::valueOf).collect(Collectors.joining(", "));
      String state =
          (alone & bit) != 0
              ? "left"
              : (together & bit) != 0 ? "pair" : (inFailing & bit) != 0 ? "cleared" : "aside";
      String because =
          switch (state) {
            case "left" ->
                by.isEmpty()
                    ? p.name() + " took part in what fails, and no passing test cleared it."
                    : p.name() + " works in " + tests + ", yet a second fault leaves it possible.";
            case "pair" ->
                by.isEmpty()
                    ? p.name() + " is suspected only together with another part."
                    : p.name()
                        + " works in "
                        + tests
                        + "; only together with another part it may not.";
            case "cleared" ->
                by.isEmpty()
                    ? p.name() + " is not in every test that fails."
                    : p.name()
                        + " is cleared by "
                        + (by.size() == 1 ? "test " : "tests ")
                        + tests
                        + ".";
            default -> p.name() + " took part in no test that fails.";
          };
      out.add(new PartState(p.id(), state, by, because));
    }
    return out;
  }

  private static boolean failsIn(Hypotheses all, Part p, String operation) {
    return all.failing.stream()
        .anyMatch(f -> f.operation().equals(operation) && !f.parts().isEmpty());
  }

  static int thousandths(double share) {
    return (int) Math.round(share * 1000);
  }
}
