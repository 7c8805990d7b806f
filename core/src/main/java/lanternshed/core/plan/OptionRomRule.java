package lanternshed.core.plan;

import java.util.List;
import lanternshed.core.machine.Profile;
import lanternshed.core.measure.Sum;
import lanternshed.core.plan.Plan.Verdict;
import lanternshed.core.plan.PlanRequest.FittedRom;

/** O-6: the firmware that is planned with, and the option ROM that is to go into the machine. */
final class OptionRomRule implements PlanRule {
  private static final String RULE = "O-6";

  @Override
  public List<Verdict> judge(Draft draft, Situation s) {
    boolean asks = s.setup().firmware().optionRom();
    List<FittedRom> roms = s.request().bench().roms();
    if (roms.isEmpty()) return asks ? List.of(fromElsewhere(s)) : List.of();
    return roms.stream().flatMap(r -> judge(r, asks, s).stream()).toList();
  }

  private static Verdict fromElsewhere(Situation s) {
    return Verdict.holds(
        RULE,
        "It counts on an option ROM; none of the ROM bench stands with this job, so a ready board"
            + " has to bring it.",
        sum(s, "none").done());
  }

  private static List<Verdict> judge(FittedRom r, boolean asks, Situation s) {
    String rom = "The ROM “" + r.name() + "” ";
    Sum.Builder sum = sum(s, r.name());
    if (!asks) {
      return s.profile().firmwares().stream()
          .filter(Profile.Firmware::optionRom)
          .findFirst()
          .map(
              f ->
                  Verdict.warns(
                      RULE,
                      rom
                          + "stands with this job, and this plan does not use it: choose the"
                          + " firmware “"
                          + f.name()
                          + "”, or take the ROM off the job.",
                      sum.lift(f.name()).done()))
          .stream()
          .toList();
    }
    if (!r.fault().isEmpty()) {
      String says = "does not serve as it is. " + r.fault() + " Mend a copy on the ROM bench.";
      return List.of(Verdict.warns(RULE, rom + says, sum.done()));
    }
    if (!r.lacks().isEmpty()) {
      return List.of(Verdict.warns(RULE, rom + "does not run here. " + r.lacks(), sum.done()));
    }
    return List.of(Verdict.holds(RULE, rom + "lifts what this firmware cannot reach.", sum.done()));
  }

  private static Sum.Builder sum(Situation s, String rom) {
    return Sum.of(RULE, "The option ROM")
        .note("firmware of the plan", s.setup().firmware().name())
        .note("ROM of the job", rom)
        .because(
            "Its own disk calls take the place of the firmware's; the setup must say none for the"
                + " drive that it takes over.");
  }
}
