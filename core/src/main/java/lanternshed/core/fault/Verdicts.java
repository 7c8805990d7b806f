package lanternshed.core.fault;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import lanternshed.core.fault.Explanations.Blame;
import lanternshed.core.fault.Explanations.One;
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

  /**
   * @param hinge the test on which it hangs, if there is one
   */
  static Conclusion of(Posterior p, Explanations all, Optional<Trial> hinge) {
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
    String why = undecided(p, hinge, first, leads, mass[top], named);
    Conclusion open =
        new Conclusion(
            "open", leads, thousandths(mass[top]), why, List.of(), List.of(), remainIds, sum);
    double[] share = all.naming();
    Optional<Exchange> settled = settled(p, share);
    if (settled.isPresent() && (named.isEmpty() || !why.isEmpty())) {
      return exchanged(p, all, settled.get(), share[settled.get().part()], open);
    }
    if (!why.isEmpty()) return open;
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
      Posterior p,
      Optional<Trial> hinge,
      One first,
      String leads,
      double odds,
      List<Integer> named) {
    String start = leaning(leads) + " leads with " + odds(odds);
    if (odds >= ENOUGH && !hasControl(p)) {
      return "There is no control yet: "
          + start
          + ", but "
          + seen(p)
          + ". Do the same once with a part that is known to be good.";
    }
    if (!named.isEmpty()) {
      return hinge
          .map(
              t ->
                  "Not decided: %s leads with %s, but that hangs on test %d alone. Do it again."
                      .formatted(name(p, named), odds(first.share()), t.number()))
          .orElse("");
    }
    String apart = leads.equals("other") ? Absolution.untested(p) : "";
    if (!apart.isEmpty()) return "Not decided: " + start + ", but " + apart + ".";
    return odds < needed(leads, named) ? "Not decided: " + start + "." : "";
  }

  /** An exchange that was undone, of a part that nearly everything likely names. */
  private static Optional<Exchange> settled(Posterior p, double[] share) {
    return p.evidence.exchanges.stream()
        .filter(e -> share[e.part()] >= ENOUGH)
        .max(Comparator.comparingDouble(e -> share[e.part()]));
  }

  /** It settles its part, whatever of storage is still open: the shares are of that part. */
  private static Conclusion exchanged(
      Posterior p, Explanations all, Exchange e, double share, Conclusion open) {
    Part part = p.world.parts().get(e.part());
    Sum sum =
        Sum.of("D-15", part.name())
            .line("", "all that names it, alone or with another", thousandths(share), of1000(share))
            .line("≤", "needed to name a part", thousandths(ENOUGH), of1000(ENOUGH))
            .because(
                e.sentence(part.name())
                    + " Whatever comes and goes by itself would have done so"
                    + " twice at the very moment of the exchange; the way back counts as three tests.")
            .done();
    return new Conclusion(
        open.leads(),
        open.leads(),
        open.odds(),
        "It is "
            + part.name()
            + ", alone or together with something it was tested with: "
            + e.sentence(""),
        evidence(p, all),
        List.of(part.id()),
        open.remain(),
        sum);
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
