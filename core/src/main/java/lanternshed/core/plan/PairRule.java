package lanternshed.core.plan;

import java.util.List;
import lanternshed.core.machine.Profile;
import lanternshed.core.measure.Sum;
import lanternshed.core.plan.Plan.Verdict;

/**
 * D-11: two parts that are at fault only together. A card goes in for the drive of the pair, on the
 * same way from the machine: only another firmware variant, which has to be obtained, leaves that
 * way out.
 */
final class PairRule implements PlanRule {
  @Override
  public List<Verdict> judge(Draft draft, Situation s) {
    List<String> pair = s.request().bench().atFault();
    if (pair.size() != 2) return List.of();
    String two = pair.get(0) + " and " + pair.get(1);
    Sum.Builder sum = Sum.of("D-11", "A pair at fault").note("together", two);
    for (Profile.Firmware f : s.profile().firmwares()) {
      if (!f.obtain().isEmpty()) sum.lift(f.name() + ": " + f.obtain());
    }
    sum.lift("a drive of the old kind");
    boolean around = !s.setup().firmware().obtain().isEmpty();
    Sum because =
        sum.because(
                around
                    ? "This firmware takes another way to the card."
                    : "Each works with others; this plan would put the two together again.")
            .done();
    if (around) {
      String text = "The plan goes around " + two + ", which are at fault together.";
      return List.of(Verdict.holds("D-11", text, because));
    }
    String text =
        "The board found "
            + two
            + " at fault together, and this plan uses both. Choose another firmware, or a drive of"
            + " the old kind.";
    return List.of(Verdict.stops("D-11", text, because));
  }
}
