package lanternshed.core.plan;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import lanternshed.core.cpu.Level;
import lanternshed.core.machine.Generation;
import lanternshed.core.measure.Sum;
import lanternshed.core.plan.Plan.PlannedVolume;
import lanternshed.core.plan.Plan.Verdict;
import lanternshed.core.plan.PlanRequest.Strategy;
import lanternshed.core.survey.Survey;

/** B-9: whose boot code meets the contract of the system that is to start. */
final class BootContractRule implements PlanRule {
  @Override
  public List<Verdict> judge(Draft draft, Situation s) {
    if (s.strategy() == Strategy.CLONE) return List.of();
    List<Verdict> out = new ArrayList<>();
    for (PlannedVolume v : draft.volumes()) {
      Optional<Survey.Found> f = s.source(v.source());
      if (!v.active() || f.isEmpty() || f.get().systemFiles().isEmpty()) continue;
      boolean kept = s.request().keepBootCode();
      if (kept && !f.get().kind().equals(v.kind())) out.add(otherKind(v, f.get()));
      if (!kept && !starts(v, s)) out.add(notOurs(v, s.system()));
      if (!kept && starts(v, s)) out.addAll(ours(v, s));
    }
    return out;
  }

  private static boolean starts(PlannedVolume v, Situation s) {
    String file = s.source(v.source()).map(f -> f.systemFiles().get(0)).orElse("");
    return s.ownCode(v.kind(), file).length > 0;
  }

  private static Verdict otherKind(PlannedVolume v, Survey.Found old) {
    return Verdict.stops(
        "B-9",
        "The old boot code is "
            + old.kind()
            + "'s; "
            + v.letter()
            + " becomes "
            + v.kind()
            + ", and it would read the wrong places.",
        Sum.of("B-9", "Boot code of " + v.letter())
            .note("old volume", old.kind())
            .note("new volume", v.kind())
            .because("Boot code computes where the root lies from the fields of its own kind.")
            .lift("clone, or grow, which keep the kind")
            .done());
  }

  /** B-12: our own code for FAT32 counts in 32 bits. */
  private static List<Verdict> ours(PlannedVolume v, Situation s) {
    if (!v.kind().equals(WIDE) || s.setup().level().compareTo(Level.I80386) >= 0) return List.of();
    String text =
        "This program's own boot code for FAT32 asks for a processor of the 386 class; keep the old"
            + " drive's, or choose FAT16.";
    return List.of(
        Verdict.stops(
            "B-12",
            text,
            Sum.of("B-12", "Processor of " + s.profile().name())
                .note("processor", s.setup().level().title())
                .because("Clusters of FAT32 have numbers of 28 bits.")
                .lift("a volume of FAT16")
                .done()));
  }

  private static final String WIDE = "FAT32";

  private static Verdict notOurs(PlannedVolume v, Generation system) {
    return Verdict.warns(
        "B-9",
        "This program's own boot code does not start "
            + system.title()
            + "; keep the old drive's, or make it start on the machine.",
        Sum.of("B-9", "Contract of " + system.title())
            .because(
                "No code of our own hands over to this system from a volume of " + v.kind() + ".")
            .lift("keep the old boot code")
            .done());
  }
}
