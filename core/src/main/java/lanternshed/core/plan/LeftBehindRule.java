package lanternshed.core.plan;

import java.util.ArrayList;
import java.util.List;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.plan.Plan.Verdict;
import lanternshed.core.plan.PlanRequest.Strategy;
import lanternshed.core.survey.Survey;

/** F-3: files of an old volume that no new one takes. */
final class LeftBehindRule implements PlanRule {
  @Override
  public List<Verdict> judge(Draft draft, Situation s) {
    if (s.strategy() == Strategy.CLONE || s.family().carries()) return List.of();
    List<Verdict> out = new ArrayList<>();
    for (Survey.Found f : s.survey().volumes()) {
      boolean placed = draft.volumes().stream().anyMatch(v -> v.source() == f.number());
      if (!f.readable() || f.files() == 0 || placed) continue;
      out.add(
          Verdict.warns(
              "F-3",
              "The "
                  + Say.plural(f.files(), "file", "files")
                  + " of old volume "
                  + f.number()
                  + (f.files() == 1 ? " goes" : " go")
                  + " nowhere in this plan.",
              Sum.of("F-3", "Old volume " + f.number()).line("", "files", f.files()).done()));
    }
    return out;
  }
}
