package lanternshed.core.plan;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import lanternshed.core.machine.Profile;
import lanternshed.core.measure.Sum;
import lanternshed.core.plan.Plan.PlannedVolume;
import lanternshed.core.plan.Plan.Verdict;

/** T-8: the menu of a card comes up only with its own file in its place. */
final class StartFileRule implements PlanRule {
  private static final String RULE = "T-8";

  @Override
  public List<Verdict> judge(Draft draft, Situation s) {
    if (s.profile().menu() == null) return List.of();
    List<Verdict> out = new ArrayList<>();
    Map<String, Set<Integer>> there = s.request().bench().startFiles();
    for (Profile.StartFile f : s.profile().menu().startFiles()) {
      Set<Integer> volumes = there.getOrDefault(f.path(), Set.of());
      boolean comes =
          draft.volumes().stream().map(PlannedVolume::source).anyMatch(volumes::contains);
      Sum sum =
          Sum.of(RULE, "The start-up file")
              .note("looked for", f.path())
              .note("it is", f.what())
              .note("among what goes onto the card", comes ? "yes" : "no")
              .because("The machine's menu loads it by that name from that folder.")
              .done();
      out.add(comes ? Verdict.holds(RULE, comes(f), sum) : Verdict.warns(RULE, missing(f), sum));
    }
    return out;
  }

  private static String comes(Profile.StartFile f) {
    return f.path() + ", " + f.what() + ", comes along.";
  }

  private static String missing(Profile.StartFile f) {
    return f.path()
        + ", "
        + f.what()
        + ", is not among what goes onto the card: bring it, or put it there before the first"
        + " start.";
  }
}
