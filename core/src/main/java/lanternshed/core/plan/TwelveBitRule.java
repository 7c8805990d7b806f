package lanternshed.core.plan;

import java.util.List;
import lanternshed.core.machine.Ceiling;
import lanternshed.core.machine.Pegs;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.plan.Plan.Verdict;

/** G-21: a card with more cylinders than this firmware keeps may hang it before anything starts. */
final class TwelveBitRule implements PlanRule {
  @Override
  public List<Verdict> judge(Draft draft, Situation s) {
    Geometry card = Pegs.drive(s.card());
    boolean twelve = s.setup().firmware().pegs().contains(Ceiling.G_3.rule());
    if (!twelve || card.cylinders() <= Pegs.MOST_IN_TWELVE) return List.of();
    return List.of(
        Verdict.warns(
            "G-21",
            "The card answers "
                + Say.count(card.cylinders())
                + " cylinders. Some firmware of this kind hangs at 4"
                + Say.THIN
                + "096 and more, before it shows anything.",
            Sum.of("G-21", "Cylinders in 12 bits")
                .line("", "cylinders of the card", card.cylinders())
                .line(">", "that twelve bits count", Pegs.MOST_IN_TWELVE)
                .because(
                    "What counts in twelve bits takes 4 096 for 0. Where it clips instead, the machine"
                        + " shows at most 1 023 cylinders of 64 heads.")
                .lift("a card of at most 4 095 cylinders, or one clipped to that")
                .lift("newer firmware")
                .done()));
  }
}
