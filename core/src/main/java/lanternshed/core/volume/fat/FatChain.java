package lanternshed.core.volume.fat;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.function.IntPredicate;

/**
 * A chain of clusters as runs of neighbours, followed until it ends or breaks. Each cluster stands
 * in it once, whatever the table says.
 */
record FatChain(List<Run> runs, int clusters, Ending ending, int at) {

  /** No cluster at all, and rightly so: an empty file, a root folder of a fixed place. */
  static final FatChain NONE = new FatChain(List.of(), 0, Ending.PROPER, 0);

  record Run(int first, int count) {}

  /** How the chain came to its end. */
  enum Ending {
    PROPER,
    /** The next cluster is marked free. */
    FREE,
    /** The next cluster is marked bad. */
    BAD,
    /** The next cluster is outside the volume. */
    OUTSIDE,
    /** It comes back to a cluster of its own; each is listed once. */
    LOOP,
    /** The next cluster belongs to somebody whose claim is the stronger. */
    TAKEN
  }

  /** Follows from {@code first}; {@link #at} is the cluster whose entry ended it. */
  static FatChain follow(FatTable table, int first) {
    return follow(table, first, c -> false);
  }

  /** The same, up to the first cluster that is {@code taken} by somebody else. */
  static FatChain follow(FatTable table, int first, IntPredicate taken) {
    List<Run> runs = new ArrayList<>();
    int count = 0;
    int runStart = first;
    int previous = -1;
    int cluster = first;
    // Only a chain that steps back can come to itself; most never do.
    BitSet seen = null;
    Ending ending;
    while (true) {
      if (!table.isData(cluster)) {
        ending = Ending.OUTSIDE;
        break;
      }
      if (taken.test(cluster)) {
        ending = Ending.TAKEN;
        break;
      }
      if (previous >= 0 && cluster <= previous && seen == null) {
        seen = new BitSet();
        for (Run r : runs) seen.set(r.first(), r.first() + r.count());
        seen.set(runStart, previous + 1);
      }
      if (seen != null) {
        if (seen.get(cluster)) {
          ending = Ending.LOOP;
          break;
        }
        seen.set(cluster);
      }
      if (previous >= 0 && cluster != previous + 1) {
        runs.add(new Run(runStart, previous - runStart + 1));
        runStart = cluster;
      }
      int next = table.get(cluster);
      previous = cluster;
      count++;
      if (next == 0 || table.isBad(next) || table.isEnd(next)) {
        ending = next == 0 ? Ending.FREE : table.isBad(next) ? Ending.BAD : Ending.PROPER;
        break;
      }
      cluster = next;
    }
    if (previous >= 0) runs.add(new Run(runStart, previous - runStart + 1));
    return new FatChain(runs, count, ending, Math.max(previous, 0));
  }
}
