package lanternshed.core.plan;

import java.util.List;
import lanternshed.core.measure.Sum;
import lanternshed.core.plan.Plan.Verdict;

/** P-7: the names under which the machine will show its volumes. */
final class LettersRule implements PlanRule {
  @Override
  public List<Verdict> judge(Draft draft, Situation s) {
    if (draft.volumes().isEmpty() || s.family().carries()) return List.of();
    boolean stopped = draft.said().stream().anyMatch(v -> v.weight() == Plan.Weight.STOPS);
    if (stopped) return List.of();
    List<String> letters = draft.volumes().stream().map(v -> v.letter() + " " + v.label()).toList();
    return List.of(
        Verdict.holds(
            "P-7",
            "Named as " + s.system().title() + " names them: " + String.join(", ", letters) + ".",
            Sum.of("P-7", "Names of the volumes").because(s.family().letterReason()).done()));
  }
}
