package lanternshed.core.plan;

import java.util.List;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.plan.Plan.Verdict;
import lanternshed.core.plan.PlanRequest.Strategy;

/** F-9: faults of the old drive that come along where its clusters are kept. */
final class OldFaultsRule implements PlanRule {
  @Override
  public List<Verdict> judge(Draft draft, Situation s) {
    boolean anew = s.strategy() == Strategy.REBUILD || s.strategy() == Strategy.CARRY;
    if (anew || s.faults().isEmpty()) return List.of();
    Finding first = s.faults().get(0);
    return List.of(
        Verdict.warns(
            "F-9",
            Say.plural(s.faults().size(), "fault", "faults")
                + " of the old drive would come along, first: "
                + first.what(),
            first.because()));
  }
}
