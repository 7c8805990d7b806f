package lanternshed.core.plan;

import java.util.ArrayList;
import java.util.List;
import lanternshed.core.machine.Peg;
import lanternshed.core.measure.Say;
import lanternshed.core.plan.Plan.PlannedVolume;
import lanternshed.core.plan.Plan.Verdict;

/** F-4, G-11, G-12, G-14: the ceilings of a single volume. */
final class VolumePegRule implements PlanRule {
  @Override
  public List<Verdict> judge(Draft draft, Situation s) {
    List<Verdict> out = new ArrayList<>();
    for (PlannedVolume v : draft.volumes()) {
      for (Peg p : s.pegs().pegs()) {
        if (p.scope() != Peg.Scope.VOLUME || v.length() <= p.sectors()) continue;
        out.add(
            Verdict.stops(
                p.rule(),
                v.letter()
                    + " "
                    + v.label()
                    + " has "
                    + Say.mib(v.length() * 512)
                    + "; "
                    + p.name()
                    + " ends at "
                    + Say.mib(p.sectors() * 512)
                    + ".",
                p.because()));
      }
    }
    return out;
  }
}
