package lanternshed.core.plan;

import java.util.ArrayList;
import java.util.List;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.plan.Plan.CarriedFile;
import lanternshed.core.plan.Plan.PlannedVolume;
import lanternshed.core.plan.Plan.Verdict;

/** P-32 and P-32a: a file on FAT32 ends one byte below 4 GiB. */
final class CarriedLengthRule implements PlanRule {
  @Override
  public List<Verdict> judge(Draft draft, Situation s) {
    List<Verdict> out = new ArrayList<>();
    for (PlannedVolume v : draft.volumes()) {
      for (CarriedFile f : v.files()) {
        boolean ends = !v.kind().equals(NO_SUCH_END);
        if (!ends || f.bytes() <= MOST_FILE) continue;
        out.add(
            Verdict.stops(
                "P-32a",
                f.title()
                    + " has "
                    + Say.bytes(f.bytes())
                    + ", too long for a file of "
                    + v.kind()
                    + ". Choose exFAT, where the emulator reads it.",
                Sum.of("P-32a", "A drive as a file of " + v.kind())
                    .bytes("", f.name(), f.bytes())
                    .bytes(">", "longest file", MOST_FILE)
                    .bytes("=", "too long by", f.bytes() - MOST_FILE)
                    .because("Its folder keeps a length in 32 bits; exactly 4 GiB is one too many.")
                    .lift("exFAT, where the emulator reads it")
                    .done()));
      }
    }
    return out;
  }

  private static final String NO_SUCH_END = "exFAT";
  private static final long MOST_FILE = 0xFFFF_FFFFL;
}
