package lanternshed.core.plan;

import java.util.ArrayList;
import java.util.List;
import lanternshed.core.family.Grid;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.plan.Plan.PlannedVolume;
import lanternshed.core.survey.Survey;

/**
 * Lays out native slots at the front of a card, as many as the wishes before the last ask for, and
 * a volume for the desktop in the rest. The slots are made on the machine; here their room is kept.
 */
final class SlotsLayouter {
  /** Of a slot that is not made here. */
  static final String KIND = "native slot";

  private static final int USUAL = 4;

  /** A FAT16 volume below it has too few clusters. */
  private static final long LEAST_REST = 2 * Grid.FLASH_STEP;

  private static final int NATIVE_BYTES = 256;
  private static final int MOST_NATIVE = 65_535;

  private SlotsLayouter() {}

  static Draft draft(Situation s) {
    List<Plan.Verdict> said = new ArrayList<>();
    List<PlannedVolume> volumes = new ArrayList<>();
    List<PlanRequest.Wish> wishes = s.request().volumes();
    long at = Grid.FLASH_STEP;
    // Behind the slots there is room for a volume of one slot's size at least.
    long room = (s.pegs().reach() - at) / s.family().slotSectors() - 1;
    int slots = wishes.isEmpty() ? (int) Math.min(USUAL, Math.max(0, room)) : wishes.size() - 1;
    for (int i = 0; i < slots; i++) {
      String label = wishes.isEmpty() ? "SLOT" + i : wishes.get(i).label();
      volumes.add(slot(s, i, label, at));
      at += s.family().slotSectors();
    }
    if (at + LEAST_REST > s.pegs().reach()) {
      said.add(
          Plan.Verdict.stops(
              "P-31",
              "The slots leave nothing for the desktop's volume: take fewer, or a larger card.",
              s.reachSum()));
    } else {
      CarrierLayouter.volume(s, at, wishes, "DESKTOP", source(s, wishes), List.of(), said)
          .ifPresent(volumes::add);
    }
    long end = volumes.stream().mapToLong(PlannedVolume::end).max().orElse(0);
    return new Draft(s.geometry(), volumes, end, Strategies.of(s), said);
  }

  /** The old desktop's volume, or what a person chose. */
  private static int source(Situation s, List<PlanRequest.Wish> wishes) {
    if (!wishes.isEmpty()) return wishes.get(wishes.size() - 1).source();
    return s.survey().volumes().stream()
        .filter(Survey.Found::readable)
        .map(Survey.Found::number)
        .findFirst()
        .orElse(-1);
  }

  private static PlannedVolume slot(Situation s, int number, String label, long start) {
    long length = s.family().slotSectors();
    Sum sum =
        Sum.of("P-31a", "Slot " + number)
            .line("", "native sectors, the most that 16 bits count", MOST_NATIVE)
            .line("×", "bytes of one", NATIVE_BYTES)
            .bytes("=", "bytes of the slot", (long) MOST_NATIVE * NATIVE_BYTES)
            .line("÷", "bytes of a sector of the table", 512)
            .sectors("=", "room that is kept, rounded up", length)
            .because(
                "The machine counts sectors of 256 bytes, the table those of 512: to type is "
                    + Say.count(MOST_NATIVE)
                    + ", kept are "
                    + Say.count(length)
                    + ". An empty list of slots means that they were not made yet.")
            .done();
    return new PlannedVolume(
        "slot " + number,
        label,
        -1,
        start,
        length,
        0,
        false,
        false,
        "",
        "",
        "made on the machine",
        KIND,
        NATIVE_BYTES,
        "sector",
        NATIVE_BYTES,
        MOST_NATIVE,
        0,
        sum,
        List.of(),
        List.of());
  }
}
