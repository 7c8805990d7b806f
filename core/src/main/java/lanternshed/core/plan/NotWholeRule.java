package lanternshed.core.plan;

import java.util.ArrayList;
import java.util.List;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.plan.Plan.PlannedVolume;
import lanternshed.core.plan.Plan.Verdict;
import lanternshed.core.plan.PlanRequest.Strategy;

/** W-9: what does not come whole by its own structure cannot be promised by a rebuild. */
final class NotWholeRule implements PlanRule {
  @Override
  public List<Verdict> judge(Draft draft, Situation s) {
    if (s.strategy() != Strategy.REBUILD) return List.of();
    List<Verdict> out = new ArrayList<>();
    for (PlannedVolume v : draft.volumes()) {
      long broken = s.source(v.source()).map(f -> f.notWhole()).orElse(0L);
      if (broken == 0) continue;
      String what = Say.plural(broken, "entry does", "entries do");
      out.add(
          Verdict.stops(
              "W-9",
              what
                  + " not come whole from old volume "
                  + v.source()
                  + ": mend a copy at Survey and go on from it, or clone.",
              Sum.of("W-9", "Old volume " + v.source())
                  .line("", "files and folders that break off, or lead elsewhere", broken)
                  .because("A rebuild promises every file; these end before their length.")
                  .lift("a mended copy")
                  .lift("a clone, which promises sectors")
                  .done()));
    }
    return out;
  }
}
