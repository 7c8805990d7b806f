package lanternshed.server.crossing;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.names.NameRule;
import lanternshed.core.names.Shelving;
import lanternshed.core.volume.Maker;
import lanternshed.core.work.Crossing;
import lanternshed.core.work.Crossing.Crossed;
import lanternshed.core.work.Hold;

/**
 * A crossing as it is shown, and as it is kept once the files went over.
 *
 * @param target what the files go to, in words
 * @param image whose volume it is; 0 for new disks
 * @param disk key of the kind of new disks; "" for a volume
 * @param unit what the units are called
 * @param over files that go, {@code look} of them with a change to look at
 * @param least no fewer disks could do
 * @param refusal why nothing can go over; "" where something can
 * @param carried whether they went
 */
record CrossingView(
    long id,
    long version,
    String name,
    String target,
    long image,
    int volume,
    String disk,
    List<RuleChoice> rules,
    ChosenText choices,
    String unit,
    List<CrossingRow> rows,
    int over,
    int look,
    int stays,
    List<DiskView> disks,
    int least,
    List<FolderView> folders,
    String refusal,
    boolean carried) {

  private static final int MOST_FOLDERS = 100;

  /** A rule of names that can be chosen. */
  record RuleChoice(String key, String says) {}

  /**
   * What somebody chose.
   *
   * @param rule key of the rule of names; "" for the volume's own
   * @param most files of a folder where letters are put together
   * @param lines entries that a browser on the machine shows a page; 0 where it is not known
   * @param names by path as it is the one that is wanted
   * @param left paths that are not to go over
   */
  record ChosenText(
      String rule,
      Shelving shelving,
      int most,
      int lines,
      boolean together,
      Map<String, String> names,
      List<String> left) {
    static final ChosenText OPEN =
        new ChosenText("", Shelving.AS_IT_IS, 40, 0, false, Map.of(), List.of());

    ChosenText under(NameRule r) {
      return new ChosenText(r.key(), shelving, most, lines, together, names, left);
    }

    Crossing.Choices choices(NameRule r) {
      return new Crossing.Choices(r, shelving, most, together, names, Set.copyOf(left));
    }
  }

  record CrossingRow(
      String from,
      String to,
      long bytes,
      String size,
      String sha256,
      long units,
      Crossing.State state,
      String says,
      String twin,
      int disk) {
    static CrossingRow of(Crossing.Row r) {
      return new CrossingRow(
          r.from(),
          r.to(),
          r.bytes(),
          Say.size(r.bytes()),
          r.sha256(),
          r.units(),
          r.state(),
          r.says(),
          r.twin(),
          r.disk());
    }
  }

  /**
   * A volume with what goes onto it, in bytes of its units.
   *
   * @param there what it holds before
   * @param comes what comes aboard
   * @param rootLeft entries that a root of a fixed place has left; −1 where it grows
   * @param image that was made of it; 0 until then
   */
  record DiskView(
      String name,
      int files,
      long size,
      long there,
      long comes,
      long free,
      int rootLeft,
      Sum because,
      long image) {
    static DiskView of(String name, Crossed crossed, int d, Hold hold) {
      Maker.Fit fit = crossed.fits().get(d);
      long unit = hold.layout().clusterBytes();
      String units = Catalogue.unit(hold.kind()) + "s";
      long before = crossed.there().needed() * unit;
      long after = fit.needed() * unit;
      long size = fit.there() * unit;
      Sum.Builder sum =
          Sum.of("T-2", "Will it fit?")
              .line("", units + " of all that lies on it", fit.needed())
              .line("≤", units + " that it has", fit.there());
      if (fit.rootEntries() > 0) {
        sum.line("", "entries of the root", fit.rootNeeded())
            .line("≤", "entries that it has", fit.rootEntries());
      }
      sum.line("×", "bytes of one of the " + units, unit).bytes("=", "fills to", after);
      return new DiskView(
          name,
          crossed.on(d).size(),
          size,
          before,
          after - before,
          size - after,
          fit.rootEntries() == 0 ? -1 : fit.rootEntries() - fit.rootNeeded(),
          sum.because("Asked of what lays the volume down: files, folders, what describes them.")
              .done(),
          0);
    }

    DiskView made(long number) {
      return new DiskView(name, files, size, there, comes, free, rootLeft, because, number);
    }
  }

  /**
   * A folder as a browser on the machine shows it.
   *
   * @param pages 0 where the lines of a page are not known
   */
  record FolderView(String name, int entries, int pages) {}

  /** How the files would lie. */
  static CrossingView of(
      CrossingEntity c,
      String target,
      ChosenText chosen,
      List<NameRule> rules,
      Hold hold,
      Crossed crossed) {
    List<DiskView> disks = new ArrayList<>();
    for (int d = 0; d < crossed.fits().size(); d++) {
      disks.add(DiskView.of(c.imageId() == null ? "Disk " + (d + 1) : target, crossed, d, hold));
    }
    return new CrossingView(
        c.id(),
        c.version(),
        c.name(),
        target,
        c.imageId() == null ? 0 : c.imageId(),
        c.volume(),
        c.disk(),
        rules.stream().map(r -> new RuleChoice(r.key(), r.says())).toList(),
        chosen,
        Catalogue.unit(hold.kind()),
        crossed.rows().stream().map(CrossingRow::of).toList(),
        (int) crossed.rows().stream().filter(r -> r.disk() >= 0).count(),
        count(crossed, Crossing.State.LOOK),
        count(crossed, Crossing.State.STAYS),
        disks,
        crossed.least(),
        folders(crossed.rows(), chosen.lines()),
        "",
        false);
  }

  /** Where nothing can go over, with the reason. */
  static CrossingView refused(CrossingEntity c, String target, ChosenText chosen, String refusal) {
    return new CrossingView(
        c.id(),
        c.version(),
        c.name(),
        target,
        c.imageId() == null ? 0 : c.imageId(),
        c.volume(),
        c.disk(),
        List.of(),
        chosen,
        "",
        List.of(),
        0,
        0,
        0,
        List.of(),
        0,
        List.of(),
        refusal,
        false);
  }

  /** The same once it went over. */
  CrossingView carried(List<Long> images) {
    List<DiskView> made = new ArrayList<>();
    for (int d = 0; d < disks.size(); d++) made.add(disks.get(d).made(images.get(d)));
    return new CrossingView(
        id, version, name, target, image, volume, disk, rules, choices, unit, rows, over, look,
        stays, made, least, folders, refusal, true);
  }

  private static int count(Crossed c, Crossing.State s) {
    return (int) c.rows().stream().filter(r -> r.state() == s).count();
  }

  private static List<FolderView> folders(List<Crossing.Row> rows, int lines) {
    Map<String, Set<String>> entries = new TreeMap<>();
    for (Crossing.Row r : rows) {
      if (r.disk() < 0) continue;
      String folder = "";
      for (String part : r.to().split("/")) {
        entries.computeIfAbsent(folder, f -> new HashSet<>()).add(part);
        folder = folder.isEmpty() ? part : folder + "/" + part;
      }
    }
    return entries.entrySet().stream()
        .limit(MOST_FOLDERS)
        .map(
            e ->
                new FolderView(
                    e.getKey(), e.getValue().size(), Shelving.pages(e.getValue().size(), lines)))
        .toList();
  }
}
