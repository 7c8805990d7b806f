package lanternshed.core.plan;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import lanternshed.core.measure.Sum;
import lanternshed.core.plan.Plan.MountedBy;
import lanternshed.core.plan.Plan.Mounter;
import lanternshed.core.plan.Plan.PlannedVolume;
import lanternshed.core.plan.Plan.Verdict;
import lanternshed.core.plan.PlanRequest.Strategy;
import lanternshed.core.table.TableMaker;

/** P-13: a volume that the ROM does not know needs a driver in the table's own blocks. */
final class DriverRule implements PlanRule {
  /** Sectors that byte offsets of 32 bits reach (G-11). */
  private static final long OFFSETS_32 = 1L << 23;

  @Override
  public List<Verdict> judge(Draft draft, Situation s) {
    List<String> rom = s.setup().firmware().mounts();
    List<Verdict> out = new ArrayList<>();
    for (MountedBy m : mounts(draft, s)) {
      for (String letter : m.letters()) {
        Sum sum =
            Sum.of("P-13", "Who mounts " + letter)
                .note("DosType", m.type() + ", " + m.kind())
                .note("in ROM", String.join(", ", rom))
                .note("drivers of the old table", old(s).isEmpty() ? "none" : said(s))
                .note("brought for it", m.driver().map(DriverRule::named).orElse("none"))
                .because(
                    "What neither ROM nor table has a driver for is not mounted; where both have one,"
                        + " the table's is taken if its version is the higher.")
                .lift("a driver in the table's blocks: bring its file")
                .lift("a newer ROM")
                .done();
        out.add(verdict(letter, m, sum));
        if (m.driver().isEmpty() && past32(letter, draft)) out.add(needs64(letter, s));
      }
    }
    return out;
  }

  private static boolean past32(String letter, Draft draft) {
    return draft.volumes().stream()
        .anyMatch(v -> v.letter().equals(letter) && v.end() > OFFSETS_32);
  }

  /** P-12a: the firmware that was chosen stands for a driver that nobody has brought yet. */
  private static Verdict needs64(String letter, Situation s) {
    String firmware = s.setup().firmware().name();
    return Verdict.warns(
        "P-12a",
        letter
            + " ends past 4 GiB. \""
            + firmware
            + "\" counts on a 64-bit driver; have it there before anything is written to the volume.",
        Sum.of("P-12a", "Who mounts " + letter + " past 4 GiB")
            .note("firmware", firmware)
            .note("brought for it", "none")
            .because(
                "A driver of 32 bits is mounted as well, and wraps what it writes past 4 GiB to the"
                    + " start of the drive.")
            .lift("bring the file of a 64-bit driver: it goes into the table")
            .done());
  }

  private static Verdict verdict(String letter, MountedBy m, Sum sum) {
    return switch (m.by()) {
      case ROM -> Verdict.holds("P-13", letter + " is mounted by the ROM.", sum);
      case OLD -> Verdict.holds("P-13", letter + " is mounted by the old driver.", sum);
      case BROUGHT ->
          Verdict.holds(
              "P-13",
              letter + " is mounted by " + named(m.driver().orElseThrow()) + ", which was brought.",
              sum);
      case NEWER ->
          Verdict.holds(
              "P-13",
              letter
                  + " is mounted by the newer of two: the ROM's driver, or "
                  + m.driver().map(DriverRule::named).orElse("the old table's")
                  + ".",
              sum);
      case NOBODY ->
          Verdict.stops(
              "P-13",
              letter + " is " + m.kind() + ", which this ROM does not mount without a driver.",
              sum);
    };
  }

  private static String named(PlanRequest.Driver d) {
    return d.version().isEmpty() ? d.name() : d.name() + " " + d.version();
  }

  private static List<String> old(Situation s) {
    return s.survey().table().map(t -> t.drivers()).orElse(List.of());
  }

  private static String said(Situation s) {
    return String.join(", ", old(s)) + (s.keepsTableCode() ? "" : ", which do not come over");
  }

  /** By code of the table, in the order of the volumes; none where its table keeps no drivers. */
  static List<MountedBy> mounts(Draft draft, Situation s) {
    List<String> rom = s.setup().firmware().mounts();
    boolean takes = s.family().table(s.system()).maker().flatMap(TableMaker::drivers).isPresent();
    if (!takes || rom.isEmpty() || s.strategy() == Strategy.CLONE) return List.of();
    Map<String, List<PlannedVolume>> byType =
        draft.volumes().stream()
            .collect(
                Collectors.groupingBy(
                    PlannedVolume::type, LinkedHashMap::new, Collectors.toList()));
    List<MountedBy> out = new ArrayList<>();
    byType.forEach(
        (type, volumes) -> {
          String kind = volumes.get(0).kind();
          List<String> letters = volumes.stream().map(PlannedVolume::letter).toList();
          Optional<PlanRequest.Driver> brought =
              s.request().drivers().stream().filter(d -> d.type().equals(type)).findFirst();
          Mounter by = old(s).contains(type) && s.keepsTableCode() ? Mounter.OLD : Mounter.NOBODY;
          if (brought.isPresent()) by = Mounter.BROUGHT;
          if (rom.contains(kind)) by = by == Mounter.NOBODY ? Mounter.ROM : Mounter.NEWER;
          out.add(new MountedBy(type, kind, letters, by, brought));
        });
    return out;
  }
}
