package lanternshed.core.plan;

import java.util.List;
import lanternshed.core.machine.Card;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.plan.Plan.Verdict;

/** W-4 and G-18: the image goes on the card, and on every card of the drawer. */
final class CardRule implements PlanRule {
  @Override
  public List<Verdict> judge(Draft draft, Situation s) {
    Card card = s.card();
    long image = draft.imageSectors();
    boolean fits = image <= card.planSectors();
    Sum sum =
        Sum.of("W-4", "Image against card")
            .sectors("", "image", image)
            .sectors(fits ? "≤" : ">", "card " + card.name(), card.planSectors())
            .sectors("=", "difference", card.planSectors() - image)
            .because("The card must hold the whole image, to the sector.")
            .done();
    if (!fits) {
      return List.of(
          Verdict.stops(
              "W-4",
              "The image has "
                  + Say.sectors(image)
                  + ", the card "
                  + card.name()
                  + " has "
                  + Say.count(card.planSectors())
                  + ": "
                  + Say.sectors(image - card.planSectors())
                  + " too few.",
              sum));
    }
    int n = s.family().spans() ? 1 : s.cards().size();
    String one = "Fits the card, with " + Say.sectors(card.planSectors() - image) + " to spare.";
    return List.of(
        Verdict.holds("G-18", n == 1 ? one : "Fits all " + n + " cards of the drawer.", sum));
  }
}
