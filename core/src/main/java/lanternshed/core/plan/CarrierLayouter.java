package lanternshed.core.plan;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.family.Grid;
import lanternshed.core.family.SlotList;
import lanternshed.core.machine.Profile;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Sha256;
import lanternshed.core.measure.Sum;
import lanternshed.core.plan.Plan.CarriedFile;
import lanternshed.core.plan.Plan.PlannedVolume;
import lanternshed.core.survey.Survey;
import lanternshed.core.table.TableMaker;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.VolumeException;

/** Lays out a carrier card: one volume over its whole length, and the drives in it as files. */
final class CarrierLayouter {
  private CarrierLayouter() {}

  static Draft draft(Situation s) {
    List<Plan.Verdict> said = new ArrayList<>();
    List<PlanRequest.Wish> wishes = s.request().volumes();
    List<PlannedVolume> volumes =
        volume(s, Grid.FLASH_STEP, wishes, "CARRIER", -1, files(s), said).stream().toList();
    long end = volumes.stream().mapToLong(PlannedVolume::end).max().orElse(0);
    return new Draft(s.geometry(), volumes, end, Strategies.of(s), said);
  }

  /**
   * The volume of a desktop from a sector on to the end of what is reached.
   *
   * @param wishes the last is its own; empty for the usual
   * @param source number of the old volume whose files go in; −1 for none
   */
  static Optional<PlannedVolume> volume(
      Situation s,
      long start,
      List<PlanRequest.Wish> wishes,
      String usual,
      int source,
      List<CarriedFile> files,
      List<Plan.Verdict> said) {
    Optional<PlanRequest.Wish> wish =
        wishes.isEmpty() ? Optional.empty() : Optional.of(wishes.get(wishes.size() - 1));
    long reach = Math.min(s.pegs().reach(), start + s.system().volumeSectors());
    long end = wish.filter(w -> w.end() > 0).map(w -> Math.min(w.end(), reach)).orElse(reach);
    long length = (end - start) / Grid.FLASH_STEP * Grid.FLASH_STEP;
    Geometry g = s.geometry();
    String kind = s.family().kind(s.setup(), length);
    String label = wish.map(PlanRequest.Wish::label).orElse(usual);
    int cluster = wish.map(PlanRequest.Wish::clusterBytes).orElse(0);
    Maker maker = Catalogue.maker(kind);
    Maker.Layout l;
    try {
      l =
          maker.layout(
              new Maker.Wish(Optional.of(kind), length, start, cluster, 0, g, label, 0, true, 0));
    } catch (VolumeException e) {
      Sum sum = Sum.of("F-2", "The carrier's volume").because(e.getMessage()).done();
      said.add(Plan.Verdict.stops("F-2", e.getMessage(), sum));
      return Optional.empty();
    }
    TableMaker tables = s.family().table(s.system()).maker().orElseThrow();
    String type = tables.type(l.kindName(), length, true);
    return Optional.of(
        new PlannedVolume(
            s.family().letter(0),
            maker.label(label),
            source,
            start,
            length,
            0,
            false,
            false,
            "",
            type,
            tables.typeName(type),
            l.kindName(),
            l.clusterBytes(),
            Catalogue.unit(kind),
            512,
            l.clusterCount(),
            files.stream().mapToLong(CarriedFile::bytes).sum()
                + s.source(source).map(Survey.Found::bytes).orElse(0L),
            l.because(),
            Slacks.of(
                s.source(source)
                    .map(Survey.Found::sizes)
                    .orElse(files.stream().mapToLong(CarriedFile::bytes).toArray()),
                s.source(source).map(Survey.Found::folders).orElse(0L),
                l.kindName(),
                l.clusterBytes()),
            files));
  }

  /** Ids as they were chosen; the others get the first that are free, in the profile's order. */
  private static List<CarriedFile> files(Situation s) {
    Profile.Carrier carrier = s.profile().carrier();
    List<PlanRequest.Carried> wanted = s.request().carried();
    Set<Integer> taken = new HashSet<>();
    wanted.stream().map(PlanRequest.Carried::id).filter(id -> id >= 0).forEach(taken::add);
    List<CarriedFile> out = new ArrayList<>();
    for (PlanRequest.Carried c : wanted) {
      int id = c.id();
      if (id < 0) {
        id = carrier.ids().stream().filter(x -> !taken.contains(x)).findFirst().orElse(-1);
        taken.add(id);
      }
      String name = carrier.name(id, carrier.blocks().get(0), id);
      out.add(new CarriedFile(name, id, c.title(), c.sha256(), c.bytes(), ""));
    }
    if (!carrier.slotList().isEmpty() && !out.isEmpty()) out.add(list(carrier.slotList(), out));
    return out;
  }

  /** The emulator's own list of what lies under which number. */
  private static CarriedFile list(String name, List<CarriedFile> disks) {
    String text =
        new SlotList(
                disks.stream()
                    .sorted(Comparator.comparingInt(CarriedFile::id))
                    .map(d -> new SlotList.Slot(d.id(), d.name(), d.title()))
                    .toList())
            .text();
    byte[] b = text.getBytes(StandardCharsets.US_ASCII);
    return new CarriedFile(name, -1, "the list of its disks", Sha256.of(b), b.length, text);
  }
}
