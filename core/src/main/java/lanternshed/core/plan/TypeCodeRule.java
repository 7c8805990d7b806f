package lanternshed.core.plan;

import java.util.List;
import lanternshed.core.measure.Sum;
import lanternshed.core.plan.Plan.PlannedVolume;
import lanternshed.core.plan.Plan.Verdict;
import lanternshed.core.plan.PlanRequest.Strategy;

/** P-8: volumes past cylinder 1 023 are entered for calls that pass an LBA. */
final class TypeCodeRule implements PlanRule {
  @Override
  public List<Verdict> judge(Draft draft, Situation s) {
    if (s.strategy() == Strategy.CLONE || s.family().carries() || !s.family().countsHeads()) {
      return List.of();
    }
    long edge = 1024L * draft.geometry().perCylinder();
    List<PlannedVolume> past = draft.volumes().stream().filter(v -> v.end() > edge).toList();
    if (past.isEmpty()) return List.of();
    List<String> types = past.stream().map(v -> v.letter() + " " + v.type()).toList();
    return List.of(
        Verdict.holds(
            "P-8",
            "What ends past cylinder 1 023 is entered for calls that pass an LBA: "
                + String.join(", ", types)
                + ".",
            Sum.of("P-8", "Types past cylinder 1 023")
                .sectors("", "cylinders 0 to 1 023", edge)
                .sectors("<", "end of the last volume", past.get(past.size() - 1).end())
                .because("By C/H/S a disk call reaches 1 024 cylinders.")
                .done()));
  }
}
