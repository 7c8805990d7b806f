package lanternshed.core.plan;

import java.util.ArrayList;
import java.util.List;
import lanternshed.core.measure.Sum;
import lanternshed.core.plan.Plan.PlannedVolume;
import lanternshed.core.plan.Plan.Verdict;
import lanternshed.core.plan.PlanRequest.Strategy;

/** P-13: a volume that the ROM does not know needs a driver in the table's own blocks. */
final class DriverRule implements PlanRule {
  @Override
  public List<Verdict> judge(Draft draft, Situation s) {
    List<String> rom = s.setup().firmware().mounts();
    if (rom.isEmpty() || s.strategy() == Strategy.CLONE) return List.of();
    List<String> drivers = s.survey().table().map(t -> t.drivers()).orElse(List.of());
    List<Verdict> out = new ArrayList<>();
    for (PlannedVolume v : draft.volumes()) {
      boolean carried = drivers.contains(v.type()) && s.keepsTableCode();
      Sum sum =
          Sum.of("P-13", "Who mounts " + v.letter())
              .note("DosType", v.type() + ", " + v.kind())
              .note("in ROM", String.join(", ", rom))
              .note(
                  "drivers of the old table",
                  drivers.isEmpty() ? "none" : String.join(", ", drivers))
              .because("What neither ROM nor table has a driver for is not mounted.")
              .lift("a driver in the table's blocks")
              .lift("a newer ROM")
              .done();
      if (carried)
        out.add(Verdict.holds("P-13", v.letter() + " is mounted by the old driver.", sum));
      else if (rom.contains(v.kind())) {
        out.add(Verdict.holds("P-13", v.letter() + " is mounted by the ROM.", sum));
      } else {
        String text =
            v.letter() + " is " + v.kind() + ", which this ROM does not mount without a driver.";
        out.add(Verdict.stops("P-13", text, sum));
      }
    }
    return out;
  }
}
