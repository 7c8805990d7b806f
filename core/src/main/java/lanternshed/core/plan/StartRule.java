package lanternshed.core.plan;

import java.util.List;
import lanternshed.core.family.Grid;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Sum;
import lanternshed.core.plan.Plan.Verdict;
import lanternshed.core.plan.PlanRequest.Strategy;

/** G-16: where the first volume starts; both schools have their reason. */
final class StartRule implements PlanRule {
  @Override
  public List<Verdict> judge(Draft draft, Situation s) {
    if (draft.volumes().isEmpty() || s.strategy() == Strategy.CLONE) return List.of();
    Geometry g = draft.geometry();
    long start = draft.volumes().get(0).start();
    boolean head = start % g.sectors() == 0;
    boolean flash = start % Grid.FLASH_STEP == 0;
    Sum sum = sum(start, g);
    if (s.family().table(s.system()).alone()) {
      String alone = "One volume from the first sector on: there is no table.";
      return List.of(Verdict.holds("P-30", alone, sum));
    }
    if (head && flash) return List.of(Verdict.holds("G-16", "Starts satisfy both schools.", sum));
    if (!s.family().countsHeads() || s.family().carries()) {
      String grid =
          flash ? "at a multiple of 4 MiB, as flash likes" : "where its table asks for it";
      return List.of(Verdict.holds("G-16", "Starts " + grid + ".", sum));
    }
    return List.of(
        head
            ? Verdict.holds(
                "G-16",
                "Starts at a head boundary, as the machine expects; not at a multiple of 4 MiB.",
                sum)
            : Verdict.warns(
                "G-16",
                "Starts at a multiple of 4 MiB, not at a head boundary: a partitioning tool of the"
                    + " time may complain.",
                sum));
  }

  private static Sum sum(long start, Geometry g) {
    return Sum.of("G-16", "Where the first volume starts")
        .sectors("", "start", start)
        .line("÷", "sectors a track", g.sectors())
        .line("", "left over", start % g.sectors())
        .line("÷", "sectors of 4 MiB", Grid.FLASH_STEP)
        .line("", "left over", start % Grid.FLASH_STEP)
        .because(
            "Two schools: systems up to the mid-1990s expect a start at a head boundary; flash is"
                + " erased in blocks and likes starts at multiples of 4 MiB.")
        .done();
  }
}
