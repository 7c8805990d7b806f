package lanternshed.core.plan;

import java.util.List;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.plan.Plan.PlannedVolume;
import lanternshed.core.plan.Plan.Verdict;
import lanternshed.core.plan.PlanRequest.Strategy;

/** P-2: what is within reach and belongs to no volume. */
final class LeftoverRule implements PlanRule {
  @Override
  public List<Verdict> judge(Draft draft, Situation s) {
    if (draft.volumes().isEmpty() || s.strategy() == Strategy.CLONE) return List.of();
    long end = draft.volumes().stream().mapToLong(PlannedVolume::end).max().orElse(0);
    long left = s.pegs().reach() - end;
    if (left <= Layouter.LEAST_REST) return List.of();
    return List.of(
        Verdict.warns(
            "P-2",
            Say.mib(left * 512) + " within reach stay without a volume.",
            Sum.of("P-2", "Left without a volume")
                .sectors("", "reach", s.pegs().reach())
                .sectors("−", "end of the last volume", end)
                .sectors("=", "left", left)
                .because("No volume was asked for there.")
                .done()));
  }
}
