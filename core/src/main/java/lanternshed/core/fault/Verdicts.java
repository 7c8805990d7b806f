package lanternshed.core.fault;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import lanternshed.core.fault.Explanations.Blame;
import lanternshed.core.fault.Explanations.One;
import lanternshed.core.fault.Posterior.H;
import lanternshed.core.fault.Reasoning.Conclusion;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;

/**
 * What is likely, read as an answer to one question: is storage the fault? That is decided when one
 * answer holds nine tenths and there was a control; a part is named when it alone, or its pair,
 * holds nine tenths of its own and does not hang on one test, or when it was exchanged and put back
 * and the fault went and came with it (D-15).
 */
final class Verdicts {
  static final double ENOUGH = 0.9;

  /** To absolve storage before the part at fault is named needs more (D-16). */
  static final double ENOUGH_TO_ABSOLVE = 0.95;

  /** As {@link Blame} has them. */
  private static final List<String> KINDS = List.of("storage", "other", "pair", "both");

  private static final int MOST_NAMED = 6;

  private Verdicts() {}

  static Conclusion open(String sentence) {
    return new Conclusion(
        "open",
        "open",
        0,
        sentence,
        List.of(),
        List.of(),
        List.of(),
        Sum.of("D-2", "Verdict").note("", sentence).done());
  }

  static Conclusion of(Posterior p, Explanations all) {
    double[] mass = Arrays.stream(Blame.values()).mapToDouble(all::blamed).toArray();
    int top = 0;
    for (int i = 1; i < mass.length; i++) if (mass[i] > mass[top]) top = i;
    One first = all.first();
    List<Integer> named = first.share() >= ENOUGH ? first.elements() : List.of();
    String leads = KINDS.get(top);
    double needed = needed(leads, named);
    Sum sum =
        Sum.of("D-2", "Is storage the fault?")
            .line("", "storage alone", thousandths(mass[0]), of1000(mass[0]))
            .line("", "something else", thousandths(mass[1]), of1000(mass[1]))
            .line("", "storage together with another part", thousandths(mass[2]), of1000(mass[2]))
            .line("", "both, independently", thousandths(mass[3]), of1000(mass[3]))
            .line("≤", "needed for a verdict", thousandths(needed), of1000(needed))
            .because(
                "Storage parts are those whose place a card and its adapter take. The shares are those of"
                    + " everything that can be wrong, after all tests.")
            .done();
    List<Part> remain = remain(p, all.named(Blame.values()[top]));
    List<String> remainIds = remain.stream().map(Part::id).toList();
    Optional<Exchange> settled = settled(p, all);
    String open = undecided(p, all, leads, mass[top], named);
    if (named.isEmpty() && settled.isPresent()) {
      Part part = p.partsOf(settled.get().out()).get(0);
      return new Conclusion(
          leads,
          leads,
          thousandths(mass[top]),
          exchanged(part, settled.get()),
          evidence(p, all),
          List.of(part.id()),
          remainIds,
          sum);
    }
    if (!open.isEmpty()) {
      return new Conclusion(
          "open", leads, thousandths(mass[top]), open, List.of(), List.of(), remainIds, sum);
    }
    List<String> parts = new ArrayList<>();
    for (int i : named) {
      Element e = p.elements.get(i);
      for (Part x : p.partsOf(e.one() | e.other())) parts.add(x.id());
    }
    return new Conclusion(
        leads,
        leads,
        thousandths(mass[top]),
        sentence(p, leads, named, remain),
        evidence(p, all),
        parts,
        remainIds,
        sum);
  }

  private static double needed(String leads, List<Integer> named) {
    return leads.equals("other") && named.isEmpty() ? ENOUGH_TO_ABSOLVE : ENOUGH;
  }

  /** Why nothing is decided yet; "" where it is. */
  private static String undecided(
      Posterior p, Explanations all, String leads, double odds, List<Integer> named) {
    String start = leaning(leads) + " leads with " + odds(odds);
    if (odds >= ENOUGH && !hasControl(p)) {
      return "There is no control yet: "
          + start
          + ", but "
          + seen(p)
          + ". Do the same once with a part that is known to be good.";
    }
    if (!named.isEmpty()) {
      return hinge(p, all)
          .map(
              t ->
                  "Not decided: %s leads with %s, but that hangs on test %d alone. Do it again."
                      .formatted(name(p, named), odds(all.first().share()), t.number()))
          .orElse("");
    }
    String apart = leads.equals("other") ? Absolution.untested(p) : "";
    if (!apart.isEmpty()) return "Not decided: " + start + ", but " + apart + ".";
    return odds < needed(leads, named) ? "Not decided: " + start + "." : "";
  }

  /**
   * The test without which nothing would be named, where it was done once (D-13): one in fifty is
   * misread. An exchange that was undone has been repeated by that.
   */
  static Optional<Trial> hinge(Posterior p, Explanations all) {
    if (all.first().share() < ENOUGH) return Optional.empty();
    List<H> left = all.likeliest();
    List<Integer> named = all.first().elements();
    Set<Trial> undone =
        Exchange.all(p.world).stream()
            .flatMap(e -> Stream.of(e.first(), e.between(), e.back()))
            .collect(Collectors.toSet());
    Map<String, double[][]> foretold = new HashMap<>();
    for (Trial t : p.trials()) {
      if (undone.contains(t) || repeated(p, t)) continue;
      double[][] bad = foretold.computeIfAbsent(t.operation(), o -> reportedToFail(p, left, o));
      long parts = p.bits(t.parts());
      double with = 0;
      double sum = 0;
      for (int i = 0; i < bad.length; i++) {
        H h = left.get(i);
        double fails = bad[i][p.met(h, parts, t.isReading())];
        double without = h.share() / (t.bad() > 0 ? fails : 1 - fails);
        sum += without;
        if (names(h, named)) with += without;
      }
      if (with < sum / 2) return Optional.of(t);
    }
    return Optional.empty();
  }

  private static double[][] reportedToFail(Posterior p, List<H> hypotheses, String operation) {
    double[][] out = new double[hypotheses.size()][Posterior.CASES];
    for (int i = 0; i < out.length; i++) p.reportedToFail(hypotheses.get(i), operation, out[i]);
    return out;
  }

  private static boolean names(H h, List<Integer> elements) {
    if (h.a() == Posterior.NONE) return elements.isEmpty();
    boolean both = h.b() == Posterior.NONE || elements.contains(h.b() / 2);
    return elements.contains(h.a() / 2) && both;
  }

  private static boolean repeated(Posterior p, Trial t) {
    if (t.good() + t.bad() > 1) return true;
    return p.trials().stream()
        .anyMatch(
            u ->
                u.number() != t.number()
                    && u.operation().equals(t.operation())
                    && u.parts().equals(t.parts())
                    && u.bad() > 0 == t.bad() > 0);
  }

  /** An exchange that was undone, of a part that everything likely names: it settles that part. */
  private static Optional<Exchange> settled(Posterior p, Explanations all) {
    double[] share = new double[p.world.parts().size()];
    for (Blame b : Blame.values()) {
      double[] named = all.named(b);
      for (int i = 0; i < share.length; i++) share[i] += named[i];
    }
    return Exchange.all(p.world).stream()
        .filter(e -> share[Long.numberOfTrailingZeros(e.out())] >= ENOUGH)
        .max(
            Comparator.comparingDouble((Exchange e) -> share[Long.numberOfTrailingZeros(e.out())]));
  }

  private static String exchanged(Part part, Exchange e) {
    boolean fails = e.back().bad() > 0;
    String twice = "tests %d and %d ".formatted(e.first().number(), e.back().number());
    String once = "test %d ".formatted(e.between().number());
    return "It is "
        + part.name()
        + ", alone or together with something it was tested with: with it "
        + (fails ? twice + "fail" : once + "fails")
        + ", without it "
        + (fails ? once + "works." : twice + "work.");
  }

  private static String name(Posterior p, List<Integer> elements) {
    return elements.stream().map(p::name).collect(Collectors.joining(", and "));
  }

  private static String sentence(Posterior p, String kind, List<Integer> named, List<Part> remain) {
    String names = name(p, named);
    String unseen = kind.equals("other") ? Absolution.unseen(p, remain) : "";
    String storage = unseen.isEmpty() ? "" : " Of storage nothing is said by that: " + unseen + ".";
    String left =
        remain.size() == 1
            ? "One part remains: " + remain.get(0).name() + "."
            : Say.count(remain.size())
                + " parts remain: "
                + remain.stream()
                    .limit(MOST_NAMED)
                    .map(Part::name)
                    .collect(Collectors.joining(", "))
                + (remain.size() > MOST_NAMED ? " and others" : "")
                + ".";
    if (named.isEmpty()) {
      return switch (kind) {
        case "storage" -> "Storage is the fault. " + left;
        case "other" ->
            storage.isEmpty()
                ? "Storage is not the fault. " + left
                : "Something beside storage is at fault. " + left + storage;
        case "pair" -> "Storage and another part do not work together. " + left;
        default -> "Storage is at fault, and so is another part. " + left;
      };
    }
    return switch (kind) {
      case "storage" -> "Storage is the fault: " + names + ".";
      case "other" ->
          storage.isEmpty()
              ? "Storage is not the fault. It is " + names + "."
              : "It is " + names + "." + storage;
      case "pair" ->
          "These do not work together, though each may be good: " + names + ". Change one of them.";
      default -> "Storage is at fault, and so is another part: " + names + ".";
    };
  }

  private static String leaning(String kind) {
    return switch (kind) {
      case "storage" -> "that storage is the fault";
      case "other" -> "that storage is not the fault";
      case "pair" -> "that storage and another part do not work together";
      default -> "that storage is at fault and another part too";
    };
  }

  /** A passing test or reading beside what fails (D-4): without one, everything failed so far. */
  private static boolean hasControl(Posterior p) {
    return p.trials().stream()
        .anyMatch(
            t ->
                t.good() > 0
                    && (t.isReading()
                        || p.failing().stream()
                            .anyMatch(f -> f.operation().equals(t.operation()))));
  }

  /** Why there is none: nothing worked, or only something else did. */
  private static String seen(Posterior p) {
    List<Trial> works = p.trials().stream().filter(t -> t.good() > 0).toList();
    if (works.isEmpty()) return "nothing was seen to work";
    return "what worked in " + tests(works) + " is not what fails";
  }

  private static List<Part> remain(Posterior p, double[] share) {
    List<Part> out = new ArrayList<>();
    for (int i = 0; i < share.length; i++) {
      if (share[i] >= 0.03) out.add(p.world.parts().get(i));
    }
    out.sort(
        (a, b) ->
            Double.compare(share[p.world.parts().indexOf(b)], share[p.world.parts().indexOf(a)]));
    return out;
  }

  private static List<String> evidence(Posterior p, Explanations all) {
    List<String> out = new ArrayList<>();
    out.add("explains " + tests(p.failing()));
    List<Element> es = all.first().elements().stream().map(p.elements::get).toList();
    List<Trial> passing =
        p.trials().stream()
            .filter(t -> t.good() > 0)
            .filter(
                t -> es.stream().anyMatch(e -> (p.bits(t.parts()) & (e.one() | e.other())) != 0))
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

  private static int thousandths(double share) {
    return Reasoner.thousandths(share);
  }

  private static String odds(double share) {
    return String.format(java.util.Locale.ROOT, "%.2f", Math.min(0.99, share));
  }

  private static String of1000(double share) {
    return Say.count(thousandths(share)) + " of 1" + Say.THIN + "000";
  }
}
