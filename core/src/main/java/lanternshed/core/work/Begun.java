package lanternshed.core.work;

import java.util.Arrays;
import java.util.function.LongFunction;
import java.util.function.LongPredicate;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MediumException;

/**
 * Whether a medium is the one on which work was begun: what was written so far lies on it. Before
 * anything is written nothing tells one medium from another.
 */
public final class Begun {
  /** Sectors that are looked at, from the first to the last that was written. */
  private static final int PLACES = 64;

  private Begun() {}

  /**
   * @param from before which sector all was written
   * @param wanted what was written to a sector
   */
  public static boolean on(Medium medium, long from, LongFunction<byte[]> wanted) {
    return on(medium, from, wanted, lba -> false);
  }

  /**
   * @param passed sectors that could not be written and say nothing
   */
  static boolean on(Medium medium, long from, LongFunction<byte[]> wanted, LongPredicate passed) {
    if (from <= 0 || from > medium.sectors()) return false;
    try {
      for (int i = 0; i < PLACES; i++) {
        long lba = (from - 1) * i / (PLACES - 1);
        if (passed.test(lba)) continue;
        if (!Arrays.equals(wanted.apply(lba), medium.sector(lba))) return false;
      }
      return true;
    } catch (MediumException e) {
      return false;
    }
  }
}
