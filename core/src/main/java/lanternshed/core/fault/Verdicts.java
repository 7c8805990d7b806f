package lanternshed.core.fault;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import lanternshed.core.fault.Hypotheses.H;
import lanternshed.core.fault.Reasoning.Conclusion;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;

/** What is left, read as an answer to one question: is storage the fault? */
final class Verdicts {
  /** Of what is left, this much must say the same before it is a verdict. */
  private static final double ENOUGH = 0.9;

  private Verdicts() {}

  static Conclusion open(String sentence) {
    return new Conclusion(
        "open", sentence, List.of(), List.of(), Sum.of("D-2", "Verdict").note("", sentence).done());
  }

  static Conclusion of(Hypotheses all, List<H> minimal, double total) {
    double[] mass = new double[4];
    for (H h : minimal) mass[kind(all, h)] += h.weight() / total;
    String[] kinds = {"storage", "other", "pair", "both"};
    int top = 0;
    for (int i = 1; i < 4; i++) if (mass[i] > mass[top]) top = i;
    Sum.Builder sum =
        Sum.of("D-2", "Is storage the fault?")
            .line("", "storage alone", thousandths(mass[0]), of1000(mass[0]))
            .line("", "something else", thousandths(mass[1]), of1000(mass[1]))
            .line("", "storage together with another part", thousandths(mass[2]), of1000(mass[2]))
            .line("", "both, independently", thousandths(mass[3]), of1000(mass[3]))
            .line("≤", "needed for a verdict", thousandths(ENOUGH), of1000(ENOUGH))
            .because(
                "Storage parts are those whose place a card and its adapter take. The shares are those of"
                    + " the explanations that are left.");
    if (mass[top] < ENOUGH) {
      return new Conclusion(
          "open",
          "Not decided: "
              + Say.plural(minimal.size(), "explanation is", "explanations are")
              + " left, and they do not agree whether storage is the fault.",
          List.of(),
          List.of(),
          sum.done());
    }
    int best = top;
    H first = minimal.stream().filter(h -> kind(all, h) == best).findFirst().orElseThrow();
    Set<String> suspects = new LinkedHashSet<>();
    Set<String> others = new LinkedHashSet<>();
    for (Element e : elements(all, first)) {
      for (Part p : all.partsOf(e.one() | e.other())) {
        suspects.add(p.id());
        if (!PartKinds.get(p.kind()).storage()) others.add(p.name());
      }
    }
    String name = all.name(first);
    String sentence =
        switch (kinds[top]) {
          case "storage" -> "Storage is the fault: " + name + ".";
          case "other" -> "Storage is not the fault: " + name + ".";
          case "pair" ->
              "Storage is one of two: "
                  + name
                  + " do not work together, though each may be good. Change one of them.";
          default -> "Storage is a fault and so is another part: " + name + ".";
        };
    if (minimal.size() > 1) {
      sentence += " It is the likeliest of " + Say.count(minimal.size()) + " that are left.";
    }
    return new Conclusion(
        kinds[top], sentence, evidence(all, first), List.copyOf(suspects), sum.done());
  }

  private static List<String> evidence(Hypotheses all, H h) {
    List<String> out = new ArrayList<>();
    out.add("explains " + tests(all.failing));
    List<Trial> passing =
        all.world.trials().stream()
            .filter(t -> !t.outcome().fails())
            .filter(
                t ->
                    elements(all, h).stream()
                        .anyMatch(e -> (all.bits(t.parts()) & (e.one() | e.other())) != 0))
            .toList();
    if (!passing.isEmpty()) out.add("agrees with " + tests(passing));
    return out;
  }

  private static String tests(List<Trial> trials) {
    return (trials.size() == 1 ? "test " : "tests ")
        + trials.stream()
            .map(t -> t.number() + " (" + t.title() + ")")
            .collect(Collectors.joining(", "));
  }

  private static List<Element> elements(Hypotheses all, H h) {
    return h.b() < 0
        ? List.of(all.elements.get(h.a()))
        : List.of(all.elements.get(h.a()), all.elements.get(h.b()));
  }

  /** 0 storage, 1 something else, 2 a pair across, 3 one of each. */
  private static int kind(Hypotheses all, H h) {
    boolean across = false;
    boolean storage = false;
    boolean other = false;
    for (Element e : elements(all, h)) {
      List<Part> parts = all.partsOf(e.one() | e.other());
      boolean s = parts.stream().anyMatch(p -> PartKinds.get(p.kind()).storage());
      boolean o = parts.stream().anyMatch(p -> !PartKinds.get(p.kind()).storage());
      if (s && o) across = true;
      else if (s) storage = true;
      else other = true;
    }
    if (across) return 2;
    if (storage && other) return 3;
    return storage ? 0 : 1;
  }

  private static int thousandths(double share) {
    return Reasoner.thousandths(share);
  }

  private static String of1000(double share) {
    return Say.count(thousandths(share)) + " of 1" + Say.THIN + "000";
  }
}
