package lanternshed.core.work;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import lanternshed.core.catalogue.Opener;
import lanternshed.core.measure.Place;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;

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
      Opener.Opened opened = Opener.open(medium);
      for (Opener.Part p : opened.parts()) {
        long start = p.entry().start();
        if (p.slice().isEmpty()) continue;
        if (p.volume().isPresent()) {
          for (long[] run : p.volume().get().inUse()) out.add(new long[] {start + run[0], run[1]});
        } else if (p.entry().number() > 0) {
          // A volume that is not known may be full.
          out.add(new long[] {start, p.entry().length()});
        }
      }
      if (opened.table().isPresent() && !out.isEmpty()) {
        Opener.Table t = opened.table().get();
        for (Place p : t.scheme().places(t.reading(), medium)) {
          out.add(new long[] {p.start(), p.length()});
        }
        out.add(new long[] {0, Math.min(63, medium.sectors())});
      }
    } catch (ShedException e) {
      return List.of();
    }
    return merged(out, medium.sectors());
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
