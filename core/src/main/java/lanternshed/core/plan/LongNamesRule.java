package lanternshed.core.plan;

import java.util.List;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Sum;
import lanternshed.core.plan.Plan.Verdict;

/** F-7: names from a desktop that the system shows shortened. */
final class LongNamesRule implements PlanRule {
  private static final String RULE = "F-7";

  @Override
  public List<Verdict> judge(Draft draft, Situation s) {
    if (s.system().longNames()) return List.of();
    boolean brought = s.survey().sectors() == 0 && !s.survey().volumes().isEmpty();
    boolean none = s.survey().findings().stream().noneMatch(f -> f.rule().equals(RULE));
    if (brought && none && !s.family().longNames()) return List.of(capitals(s));
    return s.survey().findings().stream()
        .filter(f -> f.rule().equals(RULE))
        .map(
            f ->
                verdict(
                    s,
                    f,
                    Sum.of(RULE, "Names of " + s.system().title())
                        .note("first", f.where())
                        .because("This system keeps eight letters and an extension of three.")
                        .lift("a system with long names")
                        .done()))
        .toList();
  }

  private static Verdict capitals(Situation s) {
    return Verdict.holds(
        RULE,
        "Every name can stand, in capitals.",
        Sum.of(RULE, "Names of " + s.system().title())
            .because("The machine keeps capitals only; small letters of a desktop become them.")
            .done());
  }

  /** Where nothing may stand in a folder but eight and three, a long name cannot come at all. */
  private static Verdict verdict(Situation s, Finding f, Sum sum) {
    if (s.family().longNames()) return Verdict.warns(RULE, f.what(), sum);
    return Verdict.stops(
        RULE, "Rename what is longer than eight and three letters, first " + f.where() + ".", sum);
  }
}
