package lanternshed.core.plan;

import java.util.List;
import lanternshed.core.measure.Sum;
import lanternshed.core.plan.Plan.Verdict;
import lanternshed.core.plan.PlanRequest.Strategy;

/** G-15: a clone under another geometry than that of its code. */
final class OldGeometryRule implements PlanRule {
  @Override
  public List<Verdict> judge(Draft draft, Situation s) {
    boolean same =
        s.survey()
            .agreedGeometry()
            .filter(
                o ->
                    o.heads() == s.pegs().geometry().heads()
                        && o.sectors() == s.pegs().geometry().sectors())
            .isPresent();
    if (s.strategy() != Strategy.CLONE || same || !s.family().countsHeads()) return List.of();
    boolean typed = s.setup().firmware().userType() > 0;
    return List.of(
        Verdict.warns(
            "G-15",
            "The old geometry is not the one this firmware computes for the card: "
                + (typed
                    ? "type the old one into the setup, or the clone will not start."
                    : "a clone whose code computes C/H/S will not start, and this setup has no type"
                        + " of your own."),
            sum(s)));
  }

  private static Sum sum(Situation s) {
    return Sum.of("G-15", "Old and new geometry")
        .line("", "heads of the card", s.pegs().geometry().heads())
        .line("", "sectors of the card", s.pegs().geometry().sectors())
        .note(
            "old",
            s.survey()
                .agreedGeometry()
                .map(o -> o.heads() + " heads, " + o.sectors() + " sectors")
                .orElse("its sources disagree"))
        .because("Boot code computes C/H/S; under another geometry it reads other sectors.")
        .lift("rebuild, which writes the geometry anew")
        .done();
  }
}
