package lanternshed.core.plan;

import java.util.List;
import lanternshed.core.machine.Profile;
import lanternshed.core.machine.Translation;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.plan.Plan.Verdict;
import lanternshed.core.plan.PlanRequest.Strategy;

/** G-19: firmware without translation works with the C/H/S that the card answers by itself. */
final class OwnGeometryRule implements PlanRule {
  /** Above 504 MiB cards answer with 16 heads and 63 sectors. */
  private static final long SMALL = 1_032_192;

  @Override
  public List<Verdict> judge(Draft draft, Situation s) {
    Profile.Firmware f = s.setup().firmware();
    boolean sees =
        f.translation() == Translation.NONE
            && s.pegs().typeRow().isEmpty()
            && s.family().countsHeads();
    if (!sees || s.family().carries() || s.strategy() == Strategy.CLONE) return List.of();
    Geometry g = draft.geometry();
    String figures = Say.count(g.cylinders()) + " · " + g.heads() + " · " + g.sectors();
    Sum sum =
        Sum.of("G-19", "The geometry that was taken")
            .line("", "cylinders", g.cylinders())
            .line("×", "heads", g.heads())
            .line("×", "sectors a track", g.sectors())
            .sectors("=", "by C/H/S", g.total())
            .sectors("≤", "card", s.card().planSectors())
            .because(
                "Without translation the firmware counts as the card does: words 1, 3 and 6 of what"
                    + " it answers to an identify command.")
            .done();
    if (s.card().own().isPresent()) {
      return List.of(Verdict.holds("G-19", "Under the card's own C/H/S, " + figures + ".", sum));
    }
    if (s.card().planSectors() >= SMALL) return List.of();
    return List.of(
        Verdict.warns(
            "G-19",
            "The card's own C/H/S is not known; taken is "
                + figures
                + ". Small cards often answer otherwise: ask the card, and note it under Media.",
            sum));
  }
}
