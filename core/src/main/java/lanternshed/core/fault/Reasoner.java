package lanternshed.core.fault;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import lanternshed.core.fault.Explanations.One;
import lanternshed.core.fault.Posterior.H;
import lanternshed.core.fault.Reasoning.Cause;
import lanternshed.core.fault.Reasoning.Doubt;
import lanternshed.core.fault.Reasoning.Explanation;
import lanternshed.core.fault.Reasoning.Offer;
import lanternshed.core.fault.Reasoning.PartState;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;

/**
 * From parts and tests to what is likely, what speaks for each other part, the next test and the
 * verdict (D-2, D-3, D-13, D-14). Considered are single parts, pairs of parts, a part with a whole
 * group, and any two of these independently, each steady or coming and going.
 */
public final class Reasoner {
  public static final int MOST_SHOWN = 12;

  /** Below this a part is cleared. */
  static final double CLEARED = 0.01;

  /** An offered group is told of from here on. */
  private static final double WORTH_OFFERING = 0.1;

  private Reasoner() {}

  public static Reasoning reason(World world) {
    Posterior p = new Posterior(world);
    Explanations all = Explanations.of(p);
    if (p.failing().isEmpty()) return nothingFails(p, all);
    List<One> told = all.told();
    List<Explanation> shown =
        told.stream().limit(MOST_SHOWN).map(o -> explanation(p, all, o)).toList();
    double listed = told.stream().limit(MOST_SHOWN).mapToDouble(One::share).sum();
    Optional<Trial> hinge = Hinge.of(p, all);
    List<Reasoning.Advice> next = Advisor.advise(p, all, hinge);
    String note =
        !next.isEmpty()
            ? ""
            : "No test with these parts splits what is left. Name a spare, or a part that could be"
                + " tested elsewhere.";
    return new Reasoning(
        shown,
        told.size() - shown.size(),
        thousandths(1 - listed),
        states(p, all.alone(), all.together()),
        doubt(p, all),
        offers(p, all),
        next,
        note,
        Verdicts.of(p, all, hinge));
  }

  private static Reasoning nothingFails(Posterior p, Explanations all) {
    int n = p.world.parts().size();
    return new Reasoning(
        List.of(),
        0,
        0,
        states(p, new double[n], new double[n]),
        Optional.empty(),
        List.of(),
        Advisor.advise(p, all, Optional.empty()),
        "",
        Verdicts.open(
            "No test fails yet. Enter the one that shows the fault, with all parts in it."));
  }

  private static String name(Posterior p, One o) {
    return o.elements().isEmpty()
        ? "nothing: the failures were misjudged"
        : o.elements().stream().map(p::name).collect(Collectors.joining(", and "));
  }

  private static Explanation explanation(Posterior p, Explanations all, One o) {
    List<Element> es = o.elements().stream().map(p.elements::get).toList();
    List<Integer> explains =
        numbers(
            p.failing().stream()
                .filter(
                    t ->
                        es.stream()
                            .anyMatch(e -> Evidence.meets(e, p.bits(t.parts()), t.isReading())))
                .toList());
    List<Integer> agrees =
        numbers(
            p.trials().stream()
                .filter(t -> t.good() > 0)
                .filter(
                    t ->
                        es.stream().anyMatch(e -> (p.bits(t.parts()) & (e.one() | e.other())) != 0))
                .toList());
    return new Explanation(
        name(p, o),
        o.elements().stream().map(e -> cause(p, e)).toList(),
        thousandths(o.share()),
        wanders(o),
        explains,
        agrees,
        sum(p, all, o));
  }

  static boolean wanders(One o) {
    return o.wanders() > o.share() / 2;
  }

  private static List<Integer> numbers(List<Trial> trials) {
    return trials.stream().map(Trial::number).sorted().toList();
  }

  private static Cause cause(Posterior p, int element) {
    Element e = p.elements.get(element);
    List<String> ids = p.partsOf(e.one() | e.other()).stream().map(Part::id).toList();
    return new Cause(p.name(element), ids, e.group());
  }

  private static Sum sum(Posterior p, Explanations all, One o) {
    Sum.Builder s = Sum.of("D-13", name(p, o));
    for (int e : o.elements()) {
      Element el = p.elements.get(e);
      s.line(
          "",
          el.single() ? "how often " + p.name(e) + " is the fault" : "how often these quarrel",
          Math.round(p.prior(e) * 1e6),
          Say.count(Math.round(p.prior(e) * 1000)) + " of 1" + Say.THIN + "000");
    }
    long fits = Math.round(o.best().fit() / all.likeliest().get(0).fit() * 1000);
    return s.line(
            "×",
            "how well the tests fit it, against the likeliest",
            fits,
            Say.count(fits) + " of 1" + Say.THIN + "000")
        .line(
            "",
            "of it as a fault that comes and goes",
            thousandths(o.wanders()),
            Say.count(thousandths(o.wanders())) + " of 1" + Say.THIN + "000")
        .line(
            "=",
            "share of all that can be wrong",
            thousandths(o.share()),
            Say.count(thousandths(o.share())) + " of 1" + Say.THIN + "000")
        .because(
            "A steady fault fails every test that meets it, one that comes and goes a part of them, and"
                + " one outcome in fifty is misjudged. How often a kind of part is the fault is a stated"
                + " estimate; every other thing that can be wrong is weighed the same way.")
        .lift("mark a part as more or less likely where you know its age or history")
        .done();
  }

  private static Optional<Doubt> doubt(Posterior p, Explanations all) {
    One first = all.first();
    H best = first.best();
    List<Trial> odd = p.surprises(best);
    boolean wanders = wanders(first) && !first.elements().isEmpty();
    if (odd.isEmpty() && !wanders) return Optional.empty();
    if (odd.isEmpty()) {
      return Optional.of(
          new Doubt(
              List.of(),
              "Something comes and goes: "
                  + name(p, first)
                  + ". Repeat the same test some times and enter how often it works; that tells most."));
    }
    String list = numbers(odd).stream().map(String::valueOf).collect(Collectors.joining(", "));
    return Optional.of(
        new Doubt(
            numbers(odd),
            (odd.size() == 1 ? "Test " : "Tests ")
                + list
                + (odd.size() == 1 ? " does" : " do")
                + " not fit the rest: something comes and goes, or "
                + (odd.size() == 1 ? "it was" : "one of them was")
                + " misjudged. Repeat "
                + (odd.size() == 1 ? "it" : "them")
                + " some times and enter how often it works."));
  }

  private static List<Offer> offers(Posterior p, Explanations all) {
    List<Offer> out = new ArrayList<>();
    for (One o : all.told()) {
      if (o.share() < WORTH_OFFERING || o.elements().size() != 1) continue;
      Element e = p.elements.get(o.elements().get(0));
      if (!e.offered()) continue;
      List<Part> members = p.partsOf(e.other());
      String one = p.partsOf(e.one()).get(0).name();
      out.add(
          new Offer(
              e.group(),
              members.stream().map(Part::id).toList(),
              thousandths(o.share()),
              "All that failed with "
                  + one
                  + " are "
                  + e.group()
                  + ". Is that it? Name them as one group to go on with it."));
    }
    return out;
  }

  private static List<PartState> states(Posterior p, double[] alone, double[] together) {
    int n = p.world.parts().size();
    long inFailing = 0;
    for (Trial t : p.failing()) inFailing |= p.bits(t.parts());
    List<PartState> out = new ArrayList<>();
    for (int i = 0; i < n; i++) {
      Part part = p.world.parts().get(i);
      List<Integer> by =
          numbers(
              p.trials().stream()
                  .filter(t -> t.parts().contains(part.id()) && p.evidence.passes(t))
                  .toList());
      String state =
          alone[i] >= CLEARED
              ? "left"
              : together[i] >= CLEARED ? "pair" : (inFailing & 1L << i) != 0 ? "cleared" : "aside";
      out.add(
          new PartState(
              part.id(), state, thousandths(alone[i]), by, because(part, state, alone[i], by)));
    }
    return out;
  }

  private static String because(Part part, String state, double alone, List<Integer> by) {
    String tests =
        (by.size() == 1 ? "test " : "tests ")
            + by.stream().map(String::valueOf).collect(Collectors.joining(", "));
    String odds = " It holds " + String.format("%.2f", alone) + ".";
    return switch (state) {
      case "left" ->
          by.isEmpty()
              ? part.name() + " took part in what fails, and no test speaks for it." + odds
              : part.name()
                  + " works in "
                  + tests
                  + "; that weakens it and does not clear it."
                  + odds;
      case "pair" ->
          by.isEmpty()
              ? part.name() + " is suspected only together with another part."
              : part.name()
                  + " works in "
                  + tests
                  + "; only together with another part it may not.";
      case "cleared" ->
          by.isEmpty()
              ? part.name() + " explains too little of what fails to count."
              : part.name() + " is cleared by " + tests + ": below one in a hundred.";
      default -> part.name() + " took part in no test that fails.";
    };
  }

  static int thousandths(double share) {
    return (int) Math.round(share * 1000);
  }
}
