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
 * @param chunks pieces of {@link Digests#CHUNK_BYTES} in which something differs
 * @param longer sectors that one has past the end of the other; negative when the second is longer
 */
public record Comparison(
    long compared, long differing, long first, List<long[]> ranges, long chunks, long longer) {
  static final int MOST_RANGES = 100;
  private static final int BLOCK = 2048;
  private static final long CHUNK = Digests.CHUNK_BYTES / 512;

  /** Hears of every run of sectors that differs, in the order on the media; however many. */
  public interface Runs {
    Runs NONE = (start, length) -> {};

    void differs(long start, long length);
  }

  public boolean identical() {
    return differing == 0 && longer == 0;
  }

  /** Compares the sectors that both have; memory does not depend on their size. */
  public static Comparison of(Medium a, Medium b, long from, Progress progress, String phase) {
    try (Course c = new Course(a, b, Runs.NONE)) {
      return c.over(List.of(), List.of(), from, progress, phase);
    }
  }

  /**
   * As {@link #of}, but reads no chunk whose digests in both lists are the same.
   *
   * @param x chunk digests of the first, {@link Digests#chunks}
   * @param y chunk digests of the second
   */
  public static Comparison byChunk(
      Medium a, Medium b, List<String> x, List<String> y, Runs runs, Progress progress) {
    try (Course course = new Course(a, b, runs)) {
      Comparison c = course.over(x, y, 0, progress, "comparing chunk by chunk");
      if (!c.identical()) return c;
    }
    // Two that are known to differ as a whole and agree in every chunk digest: they are read.
    try (Course course = new Course(a, b, runs)) {
      return course.over(List.of(), List.of(), 0, progress, "comparing every sector");
    }
  }

  /** One comparison while it goes on. */
  private static final class Course implements AutoCloseable {
    private final Medium a;
    private final Medium b;
    private final Runs runs;
    private final ReadAhead fromA;
    private final ReadAhead fromB;
    private final List<long[]> ranges = new ArrayList<>();
    private long differing;
    private long first = -1;
    private long chunks;
    private long lastChunk = -1;

    /** The run that is going on; of length 0 before the first. */
    private long start;

    private long length;

    Course(Medium a, Medium b, Runs runs) {
      this.a = a;
      this.b = b;
      this.runs = runs;
      fromA = new ReadAhead(a, BLOCK);
      fromB = new ReadAhead(b, BLOCK);
    }

    @Override
    public void close() {
      fromA.close();
      fromB.close();
    }

    Comparison over(List<String> p, List<String> q, long from, Progress progress, String phase) {
      long n = Math.min(a.sectors(), b.sectors());
      long known = Math.min(p.size(), q.size());
      for (long lba = from; lba < n; ) {
        long chunk = lba / CHUNK;
        long end = Math.min(n, (chunk + 1) * CHUNK);
        boolean same = chunk < known && p.get((int) chunk).equals(q.get((int) chunk));
        while (!same && lba < end) {
          int count = (int) Math.min(BLOCK, end - lba);
          // Past the chunk only where nothing says that the next one is the same.
          block(lba, count, known == 0 ? n : end);
          lba += count;
          progress.at(phase, lba * 512, n * 512);
        }
        if (same) progress.at(phase, end * 512, n * 512);
        lba = end;
      }
      endRun();
      return new Comparison(n, differing, first, ranges, chunks, a.sectors() - b.sectors());
    }

    private void block(long lba, int count, long until) {
      byte[] x = fromA.at(lba, count, until);
      byte[] y = fromB.at(lba, count, until);
      if (Arrays.equals(x, 0, count * 512, y, 0, count * 512)) return;
      for (int s = 0; s < count; s++) {
        int at = s * 512;
        if (!Arrays.equals(x, at, at + 512, y, at, at + 512)) differs(lba + s);
      }
    }

    private void differs(long sector) {
      differing++;
      if (first < 0) first = sector;
      if (sector / CHUNK != lastChunk) {
        lastChunk = sector / CHUNK;
        chunks++;
      }
      if (length > 0 && start + length == sector) {
        length++;
        return;
      }
      endRun();
      start = sector;
      length = 1;
    }

    private void endRun() {
      if (length == 0) return;
      if (ranges.size() < MOST_RANGES) ranges.add(new long[] {start, length});
      runs.differs(start, length);
    }
  }
}
