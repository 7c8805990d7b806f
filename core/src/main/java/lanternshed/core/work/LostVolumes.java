package lanternshed.core.work;

import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.survey.Volumes;
import lanternshed.core.table.mbr.MbrWriter;
import lanternshed.core.volume.Volume;
import lanternshed.core.volume.cpm.Cpm;
import lanternshed.core.volume.exfat.ExfatVolume;
import lanternshed.core.volume.fat.FatSearch;
import lanternshed.core.volume.ffs.FfsSearch;

/**
 * Volumes that no table names any more, found by reading the medium from end to end: what was lost
 * with sector 0 are mostly the numbers that say where they begin.
 */
public final class LostVolumes {
  private static final int BLOCK = 2048;
  private static final int MOST = 64;

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
    FfsSearch ffs = new FfsSearch();
    byte[] b = new byte[BLOCK * 512];
    long covered = 0;
    for (long from = 0; from < m.sectors() && out.size() < MOST; from += BLOCK) {
      int n = (int) Math.min(BLOCK, m.sectors() - from);
      m.read(from, n, b, 0);
      for (int i = 0; i < n && out.size() < MOST; i++) {
        long lba = from + i;
        ffs.see(lba, b, i * 512);
        if (lba < covered) continue;
        Optional<Found> f = candidate(m, lba, b, i * 512);
        if (f.isEmpty() || out.stream().anyMatch(o -> o.start() == f.get().start())) continue;
        out.add(f.get());
        covered = Math.max(covered, f.get().start() + f.get().length());
      }
      progress.at("looking for volumes", (from + n) * 512, m.bytes());
    }
    for (FfsSearch.Found f : ffs.found()) {
      long length = Math.min(f.length(), m.sectors() - f.start());
      out.add(known(f.start(), length, "OFS or FFS", f.label(), f.evidence()));
    }
    out.sort(java.util.Comparator.comparingLong(Found::start));
    return out;
  }

  /** Cheap: a jump or the mark of a boot sector, or the head of a FAT. */
  private static boolean mayBegin(byte[] b, int at) {
    boolean boot = b[at] == (byte) 0xEB || b[at] == (byte) 0xE9 || Bytes.u16(b, at + 510) == 0xAA55;
    boolean table = (b[at] & 0xFF) >= 0xF0 && b[at + 1] == -1 && b[at + 2] == -1;
    return boot || table;
  }

  private static Optional<Found> at(Medium m, long lba) {
    try {
      Medium rest = Volumes.slice(m, lba, m.sectors() - lba);
      Optional<ExfatVolume> exfat = ExfatVolume.recognise(rest);
      if (exfat.isPresent()) {
        return Optional.of(found(lba, rest.sectors(), exfat.get(), "its boot sector", ""));
      }
      Optional<FatSearch.Found> f = FatSearch.bootSector(m, lba).or(() -> FatSearch.pair(m, lba));
      if (f.isEmpty()) return Optional.empty();
      FatSearch.Found x = f.get();
      long length = Math.min(x.length(), m.sectors() - x.start());
      boolean there = java.util.Arrays.equals(m.sector(x.start()), x.bootSector());
      Medium slice = new WithFirstSector(Volumes.slice(m, x.start(), length), x.bootSector());
      return Volumes.recognise(slice)
          .map(
              v ->
                  found(
                      x.start(),
                      length,
                      v,
                      x.evidence(),
                      there ? "" : HexFormat.of().formatHex(x.bootSector())));
    } catch (ShedException e) {
      return Optional.empty();
    }
  }

  private static Optional<Found> candidate(Medium m, long lba, byte[] b, int at) {
    if (mayBegin(b, at)) return at(m, lba);
    return Cpm.mayBeFolder(b, at) ? folder(m, lba) : Optional.empty();
  }

  private static Optional<Found> folder(Medium m, long lba) {
    return Cpm.folderAt(m, lba)
        .map(p -> known(p.start(), p.length(), p.known().kind(), "", "the folder at " + lba));
  }

  private static Found known(long start, long length, String kind, String label, String evidence) {
    return new Found(start, length, kind, label, evidence, false, 0, 0, "");
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
    List<MbrWriter.Slot> slots = new ArrayList<>();
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
          new MbrWriter.Slot(
              f.start(),
              Math.min(f.length(), copy.sectors() - f.start()),
              type(f),
              slots.isEmpty(),
              false,
              0));
    }
    if (chosen.isEmpty() || chosen.get(0).start() == 0) return;
    byte[] code = java.util.Arrays.copyOf(copy.sector(0), 440);
    MbrWriter.write(copy, new Geometry(1024, 16, 63), code, 0, slots);
  }

  private static int type(Found f) {
    return switch (f.kind()) {
      case "FAT12" -> 0x01;
      case "FAT16" -> f.length() < 65_536 ? 0x04 : 0x06;
      case "FAT32" -> 0x0B;
      default -> 0x07;
    };
  }
}
