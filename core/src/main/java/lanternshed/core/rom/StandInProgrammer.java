package lanternshed.core.rom;

import java.util.Arrays;
import java.util.SplittableRandom;

/** A programmer that is not there: what a chip would read after an image was put into it. */
public final class StandInProgrammer {
  /** One cell in so many keeps its charge where a chip was erased too briefly. */
  private static final int KEEPS = 400;

  private StandInProgrammer() {}

  /** What is wrong with it. */
  public enum Trouble {
    NONE,
    /** A leg without contact: its bit reads 1 throughout. */
    STUCK,
    /** Two address lines exchanged where it is read. */
    EXCHANGED,
    /** Erased too briefly: some cells kept their charge. */
    UNERASED,
    /** Stopped half way. */
    CUT
  }

  /**
   * What the chip reads then: programming only lets bits fall.
   *
   * @param seed of where the trouble lies; the same seed, the same place
   */
  public static byte[] programmed(byte[] image, Trouble trouble, long seed) {
    SplittableRandom r = new SplittableRandom(seed);
    byte[] cells = new byte[image.length];
    Arrays.fill(cells, (byte) 0xFF);
    if (trouble == Trouble.UNERASED) {
      for (int n = cells.length * 8 / KEEPS; n >= 0; n--) {
        cells[r.nextInt(cells.length)] &= (byte) ~(1 << r.nextInt(8));
      }
    }
    int end = trouble == Trouble.CUT ? cells.length / 2 : cells.length;
    for (int i = 0; i < end; i++) cells[i] &= image[i];
    return switch (trouble) {
      case STUCK -> stuck(cells, 1 << r.nextInt(8));
      case EXCHANGED -> exchanged(cells, r);
      default -> cells;
    };
  }

  private static byte[] stuck(byte[] cells, int bit) {
    byte[] out = cells.clone();
    for (int i = 0; i < out.length; i++) out[i] |= (byte) bit;
    return out;
  }

  private static byte[] exchanged(byte[] cells, SplittableRandom r) {
    int lines = 31 - Integer.numberOfLeadingZeros(Math.max(4, cells.length));
    int a = r.nextInt(1, lines - 1);
    byte[] out = cells.clone();
    // A chip whose length is no power of two has no such line above its end.
    for (int i = 0; i < out.length; i++) {
      int from = ReadBack.exchanged(i, a, a + 1);
      if (from < cells.length) out[i] = cells[from];
    }
    return out;
  }
}
