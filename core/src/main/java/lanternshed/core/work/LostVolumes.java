package lanternshed.core.work;

import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Optional;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.catalogue.Opener;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.WithFirstSector;
import lanternshed.core.table.TableMaker;
import lanternshed.core.volume.Hint;
import lanternshed.core.volume.Recognised;
import lanternshed.core.volume.Search;
import lanternshed.core.volume.Volume;

/**
 * Volumes that no table names any more, found by reading the medium from end to end: what was lost
 * with sector 0 are mostly the numbers that say where they begin.
 */
public final class LostVolumes {
  private static final int BLOCK = 2048;
  private static final int MOST = 64;

  /** The table that today's computers read from any card. */
  private static final String TABLE = "MBR";

  /**
   * A volume that was found.
   *
   * @param evidence how it was found
   * @param listed whether its files are read here; only such a volume goes into a table
   * @param files how many it lists, and how many of them come whole
   * @param bootSector in hexadecimal: what its first sector has to hold to be read; "" where it
   *     does
   */
  public record Found(
      long start,
      long length,
      String kind,
      String label,
      String evidence,
      boolean listed,
      long files,
      long whole,
      String bootSector) {}

  private LostVolumes() {}

  /** Looks at every sector; memory does not depend on their number. */
  public static List<Found> find(Medium m, Progress progress) {
    List<Found> out = new ArrayList<>();
    List<Search> searches =
        Catalogue.FILESYSTEMS.stream().flatMap(f -> f.search().stream()).toList();
    byte[] b = new byte[BLOCK * 512];
    long covered = 0;
    for (long from = 0; from < m.sectors() && out.size() < MOST; from += BLOCK) {
      int n = (int) Math.min(BLOCK, m.sectors() - from);
      m.read(from, n, b, 0);
      for (int i = 0; i < n && out.size() < MOST; i++) {
        for (Search s : searches) {
          List<Search.Found> seen = seen(s, m, from + i, b, i * 512);
          if (from + i < covered) continue;
          for (Search.Found f : seen) covered = Math.max(covered, take(m, f, out));
        }
      }
      progress.at("looking for volumes", (from + n) * 512, m.bytes());
    }
    for (Search s : searches) s.end().forEach(f -> take(m, f, out));
    out.sort(java.util.Comparator.comparingLong(Found::start));
    return out;
  }

  private static List<Search.Found> seen(Search s, Medium m, long lba, byte[] b, int at) {
    try {
      return s.see(m, lba, b, at);
    } catch (ShedException e) {
      return List.of();
    }
  }

  /** Keeps what holds when it is opened; gives the sector behind it, or 0. */
  private static long take(Medium m, Search.Found f, List<Found> out) {
    if (out.stream().anyMatch(o -> o.start() == f.start())) return 0;
    long length = Math.min(f.length(), m.sectors() - f.start());
    if (!f.readable()) {
      out.add(new Found(f.start(), length, f.kind(), f.label(), f.evidence(), false, 0, 0, ""));
      return f.start() + length;
    }
    Medium slice = Opener.slice(m, f.start(), length);
    String boot = HexFormat.of().formatHex(f.firstSector());
    if (!boot.isEmpty()) slice = new WithFirstSector(slice, f.firstSector());
    try {
      Optional<Volume> v = Opener.recognise(slice, Hint.PART).flatMap(Recognised::volume);
      if (v.isEmpty()) return 0;
      out.add(found(f.start(), length, v.get(), f.evidence(), boot));
      return f.start() + length;
    } catch (ShedException e) {
      return 0;
    }
  }

  private static Found found(long start, long length, Volume v, String evidence, String boot) {
    var files = v.all().stream().filter(n -> !n.folder()).toList();
    long whole = files.stream().filter(n -> v.notWhole(n).isEmpty()).count();
    return new Found(start, length, v.kind(), v.label(), evidence, true, files.size(), whole, boot);
  }

  /**
   * Puts what was found into a copy: a table with an entry for each, and the boot sectors that are
   * gone. A volume that begins at sector 0 needs no table.
   *
   * @param chosen at most four, in their order, none inside another
   */
  public static void restore(Medium copy, List<Found> chosen) {
    TableMaker table = Catalogue.table(TABLE).maker().orElseThrow();
    List<TableMaker.Slot> slots = new ArrayList<>();
    long end = 0;
    for (Found f : chosen) {
      if (!f.listed()) {
        throw new ShedException(
            "The volume at sector "
                + Say.count(f.start())
                + " is "
                + f.kind()
                + ", which stands in no table of this kind; leave it out.");
      }
      if (f.start() < end) {
        throw new ShedException(
            "The volume at sector "
                + Say.count(f.start())
                + " lies inside the one before it; take one of the two.");
      }
      end = f.start() + f.length();
      if (!f.bootSector().isEmpty()) {
        copy.write(f.start(), 1, HexFormat.of().parseHex(f.bootSector()), 0);
      }
      slots.add(
          new TableMaker.Slot(
              f.start(),
              Math.min(f.length(), copy.sectors() - f.start()),
              table.type(f.kind(), f.length(), false),
              slots.isEmpty(),
              false,
              0));
    }
    if (chosen.isEmpty() || chosen.get(0).start() == 0) return;
    table.write(copy, new Geometry(1024, 16, 63), table.kept(copy), 0, slots);
  }
}
