package lanternshed.core.medium;

import lanternshed.core.measure.Bytes;

/**
 * Copies sectors from one medium to another whose place for them is all zero, so that zeros stay
 * holes of its file. Memory does not depend on the length.
 */
public final class Copy {
  private static final int BLOCK_BYTES = 1 << 20;

  /** Is told how far it is, in bytes; ends the copying by throwing. */
  @FunctionalInterface
  public interface Watch {
    void at(long done, long total);
  }

  private Copy() {}

  /** All sectors of a medium to the same places. */
  public static void all(Medium from, Medium to, Watch watch) {
    range(from, 0, from.sectors(), to, 0, watch);
  }

  /**
   * A range of sectors.
   *
   * @param start first sector in {@code from}
   * @param at first sector in {@code to}
   */
  public static void range(Medium from, long start, long count, Medium to, long at, Watch watch) {
    int size = from.sectorSize();
    int block = BLOCK_BYTES / size;
    byte[] b = new byte[block * size];
    for (long i = 0; i < count; i += block) {
      int n = (int) Math.min(block, count - i);
      from.read(start + i, n, b, 0);
      if (!Bytes.allZero(b, 0, n * size)) to.write(at + i, n, b, 0);
      watch.at((i + n) * size, count * size);
    }
  }
}
