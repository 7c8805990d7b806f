package lanternshed.core.medium;

import java.util.List;
import lanternshed.core.measure.Say;

/**
 * Sectors of another medium that lie in several runs, as one medium: a file whose content is the
 * image of a drive. Reading only.
 */
public final class RunsMedium implements Medium {
  private final Medium base;
  private final String name;

  /** Of each run: its first sector here, and there. */
  private final long[] here;

  private final long[] there;
  private final long sectors;

  /**
   * @param runs first sector and count of each, in the order of the content
   * @param sectors how many of them are content; the last cluster may be longer
   */
  public RunsMedium(Medium base, List<long[]> runs, long sectors, String name) {
    this.base = base;
    this.name = name;
    this.here = new long[runs.size()];
    this.there = new long[runs.size()];
    long at = 0;
    for (int i = 0; i < runs.size(); i++) {
      here[i] = at;
      there[i] = runs.get(i)[0];
      at += runs.get(i)[1];
    }
    this.sectors = Math.min(sectors, at);
  }

  @Override
  public int sectorSize() {
    return base.sectorSize();
  }

  @Override
  public long sectors() {
    return sectors;
  }

  @Override
  public void read(long lba, int count, byte[] into, int at) {
    bound(lba, count);
    int run = java.util.Arrays.binarySearch(here, lba);
    if (run < 0) run = -run - 2;
    while (count > 0) {
      long end = run + 1 < here.length ? here[run + 1] : sectors;
      int n = (int) Math.min(count, end - lba);
      base.read(there[run] + (lba - here[run]), n, into, at);
      lba += n;
      count -= n;
      at += n * sectorSize();
      run++;
    }
  }

  @Override
  public void write(long lba, int count, byte[] from, int at) {
    throw new MediumException(
        name
            + " lies inside another image, at sector "
            + Say.count(lba)
            + " of it; it is read only.");
  }

  @Override
  public void flush() {
    // Nothing is written.
  }

  @Override
  public void close() {
    // The medium around it is somebody else's to close.
  }

  @Override
  public String name() {
    return name;
  }
}
