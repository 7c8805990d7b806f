package lanternshed.core.plan;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.family.Grid;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.plan.Plan.PlannedVolume;
import lanternshed.core.plan.PlanRequest.School;
import lanternshed.core.plan.PlanRequest.Strategy;
import lanternshed.core.survey.Letters;
import lanternshed.core.survey.Survey;
import lanternshed.core.table.TableMaker;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.VolumeException;

/** Lays out the volumes of a new image on the grid of its machine; judges nothing. */
final class Layouter {
  /** Volumes below this are not worth a letter. */
  static final long LEAST_REST = 16 * Say.MIB / 512;

  /** A volume of fewer sectors holds nothing. */
  private static final long LEAST_VOLUME = 64;

  /** 1 024 cylinders of 16 heads and 63 sectors. */
  private static final long UNTRANSLATED = 1024L * 16 * 63;

  private static final long[] THRESHOLDS_MIB = {16, 128, 256, 512, 1024};

  private final Situation s;
  private final Geometry g;
  private final Grid grid;
  private final List<Plan.Verdict> said = new ArrayList<>();

  private Layouter(Situation s) {
    this.s = s;
    this.g = s.geometry();
    this.grid = s.family().grid(s.setup(), g);
  }

  static Draft draft(Situation s) {
    return new Layouter(s).draft();
  }

  private Draft draft() {
    boolean clone = s.strategy() == Strategy.CLONE;
    List<PlannedVolume> volumes = clone ? cloned() : laidOut();
    long end = volumes.stream().mapToLong(PlannedVolume::end).max().orElse(0);
    long image = clone ? s.survey().sectors() : grid.upToEnd(end);
    if (volumes.isEmpty()) {
      said.add(
          Plan.Verdict.stops(
              "P-2", "There is no volume to lay out.", Sum.of("P-2", "Volumes").done()));
    }
    return new Draft(g, volumes, image, Strategies.of(s), said);
  }

  private List<PlannedVolume> laidOut() {
    List<PlanRequest.Wish> wishes =
        s.request().volumes().isEmpty() ? proposal() : s.request().volumes();
    List<PlannedVolume> out = new ArrayList<>();
    long from = 0;
    boolean activeGiven = false;
    for (int i = 0; i < wishes.size(); i++) {
      PlanRequest.Wish w = wishes.get(i);
      boolean logical = grid.tabled(i, wishes.size());
      if (i == s.system().volumes()) said.add(noMoreVolumes(w, wishes.size()));
      long table = logical ? grid.upToEnd(from) : 0;
      boolean flash = s.request().school() == School.FLASH;
      long start = grid.start(from, table, flash, s.pegs().reach());
      if (w.end() != 0 && w.end() <= start) {
        said.add(endsBefore(w, start));
        break;
      }
      long end = snap(start, w);
      if (end - start < LEAST_VOLUME) {
        said.add(nothingLeft(w, start));
        break;
      }
      boolean active = !activeGiven && !logical && s.family().boot().isPresent();
      activeGiven |= active;
      Optional<PlannedVolume> v = volume(w, i, start, end - start, table, logical, active);
      if (v.isEmpty()) break;
      out.add(v.get());
      from = end;
    }
    return out;
  }

  /**
   * One volume for each old one at the size whose clusters waste least, and the rest as a spare
   * one.
   */
  private List<PlanRequest.Wish> proposal() {
    List<PlanRequest.Wish> out = new ArrayList<>();
    List<Survey.Found> sources =
        s.survey().volumes().stream().filter(Survey.Found::readable).toList();
    long at = 0;
    for (Survey.Found f : sources) {
      // Files from a desktop come from no volume of a size: they get all the room there is.
      if (f.length() == 0) return List.of(new PlanRequest.Wish(f.label(), 0, 0, f.number()));
      long needed = Math.max(f.length(), f.bytes() / 512 * 5 / 4);
      long end = at + thresholdAbove(needed) + grid.first();
      boolean grows = s.strategy() == Strategy.GROW && sources.size() == 1;
      String label = f.label().isEmpty() ? "OLD" + f.number() : f.label();
      int cluster = s.strategy() == Strategy.GROW ? (int) f.use().clusterBytes() : 0;
      out.add(new PlanRequest.Wish(label, grows ? 0 : end, cluster, f.number()));
      at = end;
      if (grows) return out;
    }
    boolean room = s.pegs().reach() - at > LEAST_REST && s.system().severalVolumes();
    if (sources.isEmpty()) out.add(new PlanRequest.Wish("SYSTEM", 0, 0, -1));
    else if (room) out.add(new PlanRequest.Wish("ARCHIVE", 0, 0, -1));
    return out;
  }

  private long thresholdAbove(long sectors) {
    for (long mib : THRESHOLDS_MIB) {
      if (mib * 2048 >= sectors && mib * 2048 <= s.system().volumeSectors()) return mib * 2048;
    }
    return Math.min(sectors, s.system().volumeSectors());
  }

  /** The end of a volume: on a cylinder, at a cluster threshold when near one, within every peg. */
  private long snap(long start, PlanRequest.Wish w) {
    long most = Math.min(s.pegs().reach(), start + mostLength(w));
    long wanted = w.end() == 0 ? most : Math.min(w.end(), most);
    for (long mib : THRESHOLDS_MIB) {
      long edge = start + mib * 2048;
      if (w.end() != 0 && Math.abs(wanted - edge) <= mib * 2048 / 50) {
        wanted = grid.downToEnd(edge);
      }
    }
    long nearest = grid.downToEnd(wanted + grid.endStep() / 2);
    if (nearest > most) nearest = grid.downToEnd(most);
    return Math.max(
        nearest,
        grid.upToEnd(start + LEAST_VOLUME) <= most ? grid.upToEnd(start + LEAST_VOLUME) : 0);
  }

  /** The longest volume that the system mounts, or that a kept cluster size can fill. */
  private long mostLength(PlanRequest.Wish w) {
    String kind = kindOf(w, Long.MAX_VALUE);
    return Math.min(
        s.system().volumeSectors(), Catalogue.maker(kind).mostSectors(kind, w.clusterBytes()));
  }

  /** As the system would choose it by the length; a grown volume keeps the kind it has. */
  private String kindOf(PlanRequest.Wish w, long length) {
    return s.source(w.source())
        .map(Survey.Found::kind)
        .filter(k -> s.strategy() == Strategy.GROW && Catalogue.grows(k))
        .orElseGet(() -> s.family().kind(s.setup(), length));
  }

  private Optional<PlannedVolume> volume(
      PlanRequest.Wish w,
      int index,
      long start,
      long length,
      long table,
      boolean logical,
      boolean active) {
    Optional<Survey.Found> source = s.source(w.source());
    boolean grows = s.strategy() == Strategy.GROW && source.isPresent();
    int cluster = grows ? (int) source.get().use().clusterBytes() : w.clusterBytes();
    String kind = kindOf(w, length);
    Maker maker = Catalogue.maker(kind);
    Maker.Layout l;
    try {
      l =
          maker.layout(
              new Maker.Wish(Optional.of(kind), length, start, cluster, 0, g, w.label(), 0, true, 0)
                  .of(s.family().sectorBytes(s.setup(), length), s.family().always16()));
    } catch (VolumeException e) {
      Sum sum = Sum.of("F-2", "Volume " + w.label()).because(e.getMessage()).done();
      said.add(Plan.Verdict.stops("F-2", e.getMessage(), sum));
      return Optional.empty();
    }
    if (grows && length < source.get().length()) {
      said.add(shrinks(w, length, source.get().length()));
      return Optional.empty();
    }
    boolean past = s.family().countsHeads() && start + length > 1024L * g.perCylinder();
    // What C/H/S reaches without translation any desktop enters by it; past that, nobody has to.
    boolean alone = s.family().byLbaAlone() && start + length > UNTRANSLATED;
    boolean calls = alone || past && s.setup().firmware().extendedCalls();
    boolean byLba = calls && s.system().extendedCalls();
    TableMaker tables = s.family().table(s.system()).maker().orElseThrow();
    String type = tables.type(l.kindName(), length, byLba);
    return Optional.of(
        new PlannedVolume(
            s.family().letter(index),
            maker.label(w.label()),
            source.map(Survey.Found::number).orElse(-1),
            start,
            length,
            table,
            logical,
            active,
            active ? s.loader(w.source(), l.kindName()) : "",
            type,
            tables.typeName(type),
            l.kindName(),
            l.clusterBytes(),
            Catalogue.unit(kind),
            s.family().sectorBytes(s.setup(), length),
            l.clusterCount(),
            source.map(Survey.Found::bytes).orElse(0L),
            l.because(),
            slacks(source, l),
            List.of()));
  }

  /** Units to choose from; where the size of a volume decides its unit there is one (P-21). */
  private List<Plan.Slack> slacks(Optional<Survey.Found> source, Maker.Layout l) {
    long[] sizes = source.map(Survey.Found::sizes).orElse(new long[0]);
    long folders = source.map(Survey.Found::folders).orElse(0L);
    return Slacks.of(sizes, folders, l.kindName(), l.clusterBytes()).stream()
        .filter(x -> x.chosen() || !s.family().always16())
        .toList();
  }

  private List<PlannedVolume> cloned() {
    List<PlannedVolume> out = new ArrayList<>();
    Map<Integer, String> letters = Letters.of(s.survey());
    for (Survey.Found f : s.survey().volumes()) {
      out.add(
          new PlannedVolume(
              letters.getOrDefault(f.number(), "–"),
              f.label().isEmpty() ? f.kind() : f.label(),
              f.number(),
              f.start(),
              f.length(),
              0,
              f.number() > 4,
              f.active(),
              f.active() ? f.systemFiles().stream().findFirst().orElse("") : "",
              "",
              "as it was",
              f.kind(),
              (int) f.use().clusterBytes(),
              Catalogue.unit(f.kind()),
              512,
              f.use().clusters(),
              f.bytes(),
              Sum.of("F-1", "As on the old drive")
                  .sectors("", "start", f.start())
                  .sectors("+", "length", f.length())
                  .sectors("=", "end", f.start() + f.length())
                  .because("A clone keeps every sector where it was.")
                  .done(),
              List.of(),
              List.of()));
    }
    return out;
  }

  // ---- sentences --------------------------------------------------------------------------------

  private static Plan.Verdict shrinks(PlanRequest.Wish w, long length, long was) {
    String text =
        w.label()
            + " would end at "
            + Say.sectors(length)
            + " here, and has "
            + Say.count(was)
            + ": growing only adds. Rebuild it, or clone it as it is.";
    return Plan.Verdict.stops(
        "W-9",
        text,
        Sum.of("W-9", "Grow " + w.label())
            .sectors("", "room on the new card, to a whole cylinder", length)
            .sectors("−", "the old volume", was)
            .because("A grown volume keeps every cluster where it was; it cannot lose any.")
            .done());
  }

  private Plan.Verdict noMoreVolumes(PlanRequest.Wish w, int wanted) {
    int most = s.system().volumes();
    String names = most == 1 ? "a letter to one volume" : "letters to " + most + " volumes";
    return Plan.Verdict.stops(
        "F-4",
        s.system().title()
            + " gives "
            + names
            + " of a drive only; "
            + w.label()
            + " would not be seen.",
        Sum.of("F-4", "Volumes of " + s.system().title())
            .line("", "volumes wanted", wanted)
            .line(">", "volumes with a name", most)
            .because("The system has no name for more.")
            .lift(most == 1 ? "a system that names more" : "fewer, larger volumes")
            .done());
  }

  private static Plan.Verdict endsBefore(PlanRequest.Wish w, long start) {
    return Plan.Verdict.stops(
        "P-2",
        w.label()
            + " is to end at sector "
            + Say.count(w.end())
            + ", and would start at "
            + Say.count(start)
            + ", behind the volume before it: give it a later end.",
        Sum.of("P-2", "Room of " + w.label())
            .sectors("", "where it is to end", w.end())
            .sectors("≤", "where it would start", start)
            .because("Volumes follow each other; one that ends before it starts holds nothing.")
            .done());
  }

  private Plan.Verdict nothingLeft(PlanRequest.Wish w, long start) {
    return Plan.Verdict.stops(
        "P-2",
        "Nothing is left for "
            + w.label()
            + ": it would start at "
            + Say.sectors(start)
            + ", and the machine reaches "
            + Say.sectors(s.pegs().reach())
            + ".",
        s.reachSum());
  }
}
