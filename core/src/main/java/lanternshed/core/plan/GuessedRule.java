package lanternshed.core.plan;

import java.util.ArrayList;
import java.util.List;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.plan.Plan.PlannedVolume;
import lanternshed.core.plan.Plan.Verdict;
import lanternshed.core.plan.PlanRequest.Strategy;

/** C-8: files of a volume whose layout is a guess may be torn; a rebuild would promise them. */
final class GuessedRule implements PlanRule {
  @Override
  public List<Verdict> judge(Draft draft, Situation s) {
    if (s.strategy() == Strategy.CLONE) return List.of();
    List<Verdict> out = new ArrayList<>();
    for (PlannedVolume v : draft.volumes()) {
      int ways = s.source(v.source()).map(f -> f.guesses().size()).orElse(0);
      if (ways > 0) out.add(verdict(v, ways));
    }
    return out;
  }

  private static Verdict verdict(PlannedVolume v, int ways) {
    Sum.Builder sum = Sum.of("C-8", "How old volume " + v.source() + " lies");
    return Verdict.stops(
        "C-8",
        "How the files of "
            + v.label()
            + " lie on the old medium is a guess: "
            + Say.plural(ways, "way fits", "ways fit")
            + " its folder. Say which it is beside its files at Survey, or clone.",
        sum.line("", "ways that explain the folder equally", ways)
            .because("By a wrong one files come torn, and would be proved as they were read.")
            .lift("a look into a file whose content is known")
            .lift("a clone, which promises sectors")
            .done());
  }
}
