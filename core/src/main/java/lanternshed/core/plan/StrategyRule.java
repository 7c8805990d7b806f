package lanternshed.core.plan;

import java.util.ArrayList;
import java.util.List;
import lanternshed.core.measure.Sum;
import lanternshed.core.plan.Plan.Verdict;

/** W-9: what is not possible stops here, not in the build. */
final class StrategyRule implements PlanRule {
  @Override
  public List<Verdict> judge(Draft draft, Situation s) {
    List<Verdict> out = new ArrayList<>();
    boolean offered = draft.strategies().stream().anyMatch(v -> v.key() == s.strategy());
    if (!offered) {
      String text = s.strategy().title() + " is not offered for " + s.profile().name() + ".";
      out.add(Verdict.stops("W-9", text, Sum.of("W-9", "Strategy").because(text).done()));
    }
    for (Plan.StrategyView v : draft.strategies()) {
      if (v.key() != s.strategy() || v.possible()) continue;
      String why = v.loses().isEmpty() ? "" : " " + v.loses().get(0);
      out.add(
          Verdict.stops(
              "W-9",
              v.title() + " is not possible here." + why,
              Sum.of("W-9", v.title())
                  .because("What is promised must be kept: " + why.strip())
                  .done()));
    }
    return out;
  }
}
