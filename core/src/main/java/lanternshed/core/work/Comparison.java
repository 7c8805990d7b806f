package lanternshed.core.work;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import lanternshed.core.medium.Medium;

/**
 * Two media laid side by side, sector by sector.
 *
 * @param compared sectors that both have
 * @param differing how many of them differ
 * @param first the first that differs; −1 where none does
 * @param ranges the first runs that differ, at most {@link #MOST_RANGES}; start and length each
 * @param longer sectors that one has past the end of the other; negative when the second is longer
 */
public record Comparison(
    long compared, long differing, long first, List<long[]> ranges, long longer) {
  static final int MOST_RANGES = 100;
  private static final int BLOCK = 2048;

  public boolean identical() {
    return differing == 0 && longer == 0;
  }

  /** Compares the sectors that both have; memory does not depend on their size. */
  public static Comparison of(Medium a, Medium b, long from, Progress progress, String phase) {
    long n = Math.min(a.sectors(), b.sectors());
    byte[] x = new byte[BLOCK * 512];
    byte[] y = new byte[BLOCK * 512];
    List<long[]> ranges = new ArrayList<>();
    long differing = 0;
    long first = -1;
    for (long lba = from; lba < n; lba += BLOCK) {
      int count = (int) Math.min(BLOCK, n - lba);
      a.read(lba, count, x, 0);
      b.read(lba, count, y, 0);
      if (!Arrays.equals(x, 0, count * 512, y, 0, count * 512)) {
        for (int s = 0; s < count; s++) {
          int at = s * 512;
          if (Arrays.equals(x, at, at + 512, y, at, at + 512)) continue;
          differing++;
          if (first < 0) first = lba + s;
          grow(ranges, lba + s);
        }
      }
      progress.at(phase, (lba + count) * 512, n * 512);
    }
    return new Comparison(n, differing, first, ranges, a.sectors() - b.sectors());
  }

  private static void grow(List<long[]> ranges, long sector) {
    long[] last = ranges.isEmpty() ? null : ranges.get(ranges.size() - 1);
    if (last != null && last[0] + last[1] == sector) last[1]++;
    else if (ranges.size() < MOST_RANGES) ranges.add(new long[] {sector, 1});
  }
}
