package lanternshed.core.names;

import java.util.Arrays;
import java.util.OptionalInt;

/** How few disks of one size could take a set (T-2): the sum's bound, and for small sets proof. */
public final class Split {
  /** Sets up to so many pieces are looked through. */
  private static final int MOST_PIECES = 40;

  private static final int MOST_STEPS = 400_000;
  private final long[] pieces;
  private final long room;
  private int steps;

  private Split(long[] pieces, long room) {
    this.pieces = pieces;
    this.room = room;
  }

  /** No set of disks with less room together takes these pieces. */
  public static int bound(long[] pieces, long room) {
    return (int) ((Arrays.stream(pieces).sum() + room - 1) / room);
  }

  /**
   * The least number of disks.
   *
   * @param pieces units of each; none larger than {@code room}
   * @param room units of a disk
   * @param known a number of disks that is known to do
   * @return empty where the set is too large to be sure
   */
  public static OptionalInt least(long[] pieces, long room, int known) {
    int bound = bound(pieces, room);
    if (bound >= known) return OptionalInt.of(known);
    if (pieces.length > MOST_PIECES) return OptionalInt.empty();
    long[] sorted = Arrays.stream(pieces).sorted().toArray();
    for (int disks = Math.max(1, bound); disks < known; disks++) {
      Split s = new Split(sorted, room);
      boolean fits = s.place(sorted.length - 1, new long[disks]);
      if (s.steps >= MOST_STEPS) return OptionalInt.empty();
      if (fits) return OptionalInt.of(disks);
    }
    return OptionalInt.of(known);
  }

  /** Places the pieces up to {@code i}, the largest first; disks that are filled alike are one. */
  private boolean place(int i, long[] filled) {
    if (i < 0) return true;
    if (++steps >= MOST_STEPS) return false;
    for (int d = 0; d < filled.length; d++) {
      if (filled[d] + pieces[i] > room || seen(filled, d)) continue;
      filled[d] += pieces[i];
      if (place(i - 1, filled)) return true;
      filled[d] -= pieces[i];
    }
    return false;
  }

  private static boolean seen(long[] filled, int d) {
    for (int e = 0; e < d; e++) if (filled[e] == filled[d]) return true;
    return false;
  }
}
