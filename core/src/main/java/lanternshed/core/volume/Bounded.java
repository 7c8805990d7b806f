package lanternshed.core.volume;

import lanternshed.core.measure.Finding;

/**
 * Where a reader of folders ends at a bound of its own. That says nothing of the volume: what was
 * not gone into is no damage, and what seems to belong to nobody may be in there.
 */
public final class Bounded {
  /** Files and folders of one volume. */
  public static final int MOST_NODES = 1_000_000;

  /** Letters of all paths of folders together: a chain of nested folders makes each longer. */
  public static final long MOST_LETTERS = 100_000_000;

  private Bounded() {}

  /** Instead of a count of what belongs to nobody. */
  public static Finding notTold(String rule, String where) {
    return Finding.note(
        rule,
        where,
        "Not all folders are gone into: there are more or deeper ones than are kept here. What"
            + " belongs to nobody is not told.");
  }

  /** Instead of a plan that would set free what may be in use. */
  public static VolumeException notMended() {
    return new VolumeException(
        "This volume has more or deeper folders than are gone into here, so that what belongs to"
            + " nobody cannot be told; it is not mended. Mend it with a tool that goes into all.");
  }
}
