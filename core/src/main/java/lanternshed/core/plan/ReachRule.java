package lanternshed.core.plan;

import java.util.ArrayList;
import java.util.List;
import lanternshed.core.machine.Peg;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.plan.Plan.PlannedVolume;
import lanternshed.core.plan.Plan.Verdict;

/** The binding peg: every volume ends within reach. */
final class ReachRule implements PlanRule {
  @Override
  public List<Verdict> judge(Draft draft, Situation s) {
    List<Verdict> out = new ArrayList<>();
    Peg binding = s.pegs().binding();
    for (PlannedVolume v : draft.volumes()) {
      if (v.end() <= s.pegs().reach()) continue;
      out.add(
          Verdict.stops(
              binding.rule(),
              "Stops here: the machine reaches "
                  + Say.mib(s.pegs().reach() * 512)
                  + "; "
                  + v.letter()
                  + " "
                  + v.label()
                  + " ends at "
                  + Say.mib(v.end() * 512)
                  + ".",
              end(v, s)));
    }
    if (out.isEmpty() && !draft.volumes().isEmpty()) {
      out.add(
          Verdict.holds(
              binding.rule(),
              "Every volume ends within reach, " + Say.mib(s.pegs().reach() * 512) + ".",
              s.reachSum()));
    }
    return out;
  }

  private static Sum end(PlannedVolume v, Situation s) {
    return Sum.of(s.pegs().binding().rule(), "End of " + v.letter() + " " + v.label())
        .sectors("", "start", v.start())
        .sectors("+", "length", v.length())
        .sectors("=", "end", v.end())
        .sectors(v.end() <= s.pegs().reach() ? "≤" : ">", "reach", s.pegs().reach())
        .because(s.pegs().binding().because().reason())
        .done();
  }
}
