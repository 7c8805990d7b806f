package lanternshed.core.names;

import java.util.Arrays;
import java.util.Comparator;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.stream.IntStream;

/**
 * How pieces that are not cut lie in places of some room (T-2): how few places of one size could
 * take a set, and whether places that are given take it at all. Small sets are looked through in
 * every way that differs; of large ones the sum alone is sure.
 */
public final class Split {
  /** Sets up to so many pieces are looked through. */
  public static final int MOST_PIECES = 40;

  private static final int MOST_STEPS = 400_000;

  /** Units of each piece in a place of each kind, the largest piece first. */
  private final long[][] pieces;

  /** Kind of each place: those of one kind measure every piece alike. */
  private final int[] kinds;

  private final long[] left;
  private final int[] at;
  private int steps;

  private Split(long[][] pieces, int[] kinds, long[] rooms) {
    this.pieces = pieces;
    this.kinds = kinds;
    this.left = rooms.clone();
    this.at = new int[pieces.length];
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
    long[][] sorted =
        Arrays.stream(pieces)
            .boxed()
            .sorted(Comparator.reverseOrder())
            .map(p -> new long[] {p})
            .toArray(long[][]::new);
    for (int disks = Math.max(1, bound); disks < known; disks++) {
      long[] rooms = new long[disks];
      Arrays.fill(rooms, room);
      Split s = new Split(sorted, new int[disks], rooms);
      boolean fits = s.place(0);
      if (s.steps >= MOST_STEPS) return OptionalInt.empty();
      if (fits) return OptionalInt.of(disks);
    }
    return OptionalInt.of(known);
  }

  /**
   * A way to deal pieces out to places, so that all of them lie.
   *
   * @param pieces units of each piece in a place of each kind: a cluster of one volume is not one
   *     of another
   * @param kinds kind of each place
   * @param rooms units of each place, of its own
   * @return by piece the number of its place; empty where there is none, or the set is too large to
   *     be looked through
   */
  public static Optional<int[]> deal(long[][] pieces, int[] kinds, long[] rooms) {
    if (pieces.length > MOST_PIECES) return Optional.empty();
    int[] order =
        IntStream.range(0, pieces.length)
            .boxed()
            .sorted(Comparator.comparingLong((Integer i) -> -pieces[i][0]))
            .mapToInt(Integer::intValue)
            .toArray();
    long[][] sorted = Arrays.stream(order).mapToObj(i -> pieces[i]).toArray(long[][]::new);
    Split s = new Split(sorted, kinds, rooms);
    if (!s.place(0)) return Optional.empty();
    int[] out = new int[pieces.length];
    for (int i = 0; i < order.length; i++) out[order[i]] = s.at[i];
    return Optional.of(out);
  }

  /** Places the pieces from {@code i} on; places that are left alike are one. */
  private boolean place(int i) {
    if (i == pieces.length) return true;
    if (++steps >= MOST_STEPS) return false;
    for (int d = 0; d < left.length; d++) {
      long units = pieces[i][kinds[d]];
      if (units > left[d] || seen(d)) continue;
      left[d] -= units;
      at[i] = d;
      if (place(i + 1)) return true;
      left[d] += units;
    }
    return false;
  }

  private boolean seen(int d) {
    for (int e = 0; e < d; e++) if (left[e] == left[d] && kinds[e] == kinds[d]) return true;
    return false;
  }
}
