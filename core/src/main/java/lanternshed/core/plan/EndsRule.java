package lanternshed.core.plan;

import java.util.List;
import lanternshed.core.measure.Sum;
import lanternshed.core.plan.Plan.Verdict;
import lanternshed.core.plan.Plan.Weight;

/**
 * H-1: the card that is planned for goes into the last joint of the chain that was taken. It warns
 * and does not stop: the image is the same on every card, and a chain is changed at the bench.
 */
final class EndsRule implements PlanRule {
  @Override
  public List<Verdict> judge(Draft draft, Situation s) {
    PlanRequest.Ends ends = s.request().bench().ends();
    if (ends.chain().isEmpty() || ends.card().isEmpty()) return List.of();
    String card = s.request().card().name();
    boolean fits = ends.takes().equals(ends.card());
    Sum sum =
        Sum.of("H-1", "The last joint")
            .note("chain", ends.chain())
            .note("it ends with", ends.takes())
            .note("card", card + ": " + ends.card())
            .lift("another chain, or another card")
            .because("Every joint from the board to the card has to match, the last one too.")
            .done();
    String text =
        fits
            ? card + " goes into the last joint of the chain: " + ends.card() + "."
            : "The chain ends with "
                + ends.takes()
                + ", and "
                + card
                + " is made for "
                + ends.card()
                + ". Take another chain, or the other card.";
    return List.of(new Verdict(fits ? Weight.HOLDS : Weight.WARNS, "H-1", text, sum));
  }
}
