package lanternshed.core.work;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.table.TableEntry;
import lanternshed.core.table.mbr.Mbr;
import lanternshed.core.volume.fat.FatLayout;
import lanternshed.core.volume.fat.FatVolume;

/**
 * What of a medium is in use, found by reading its table, FATs and folders. Pairs of start
 * and length, sorted and without overlap.
 */
final class Wanted {
  private Wanted() {}

  /** Empty where no volume is known, and then everything is wanted. */
  static List<long[]> used(Medium medium) {
    List<long[]> out = new ArrayList<>();
    try {
      var table = new Mbr().read(medium);
      if (table.isEmpty()) {
        FatVolume.recognise(medium).ifPresent(v -> volume(v, 0, out));
      } else {
        for (TableEntry e : table.get().volumes()) {
          if (e.start() >= medium.sectors()) continue;
          int before = out.size();
          FatVolume.recogniseDamaged(new SliceMedium(medium, e.start(), e.length()))
              .ifPresent(v -> volume(v, e.start(), out));
          // A volume that is not known may be full.
          if (out.size() == before) out.add(new long[] {e.start(), e.length()});
          if (e.logical()) out.add(new long[] {e.tableSector(), 1});
        }
        if (!out.isEmpty()) out.add(new long[] {0, Math.min(63, medium.sectors())});
      }
    } catch (ShedException e) {
      return List.of();
    }
    return merged(out, medium.sectors());
  }

  private static void volume(FatVolume v, long start, List<long[]> out) {
    FatLayout l = v.layout();
    // Folders first: they are read while they are listed, so that a later hole can be named.
    v.all();
    out.add(new long[] {start, l.firstData() * l.bytesPerSector() / 512});
    for (long[] run : v.usedSectors()) out.add(new long[] {start + run[0], run[1]});
  }

  private static List<long[]> merged(List<long[]> runs, long sectors) {
    runs.sort(Comparator.comparingLong(r -> r[0]));
    List<long[]> out = new ArrayList<>();
    for (long[] r : runs) {
      long end = Math.min(sectors, r[0] + r[1]);
      if (end <= r[0]) continue;
      long[] last = out.isEmpty() ? null : out.get(out.size() - 1);
      if (last != null && r[0] <= last[0] + last[1]) {
        last[1] = Math.max(last[1], end - last[0]);
      } else {
        out.add(new long[] {r[0], end - r[0]});
      }
    }
    return out;
  }
}
