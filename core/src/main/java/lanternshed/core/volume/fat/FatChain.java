package lanternshed.core.volume.fat;

import java.util.ArrayList;
import java.util.List;

/**
 * A chain of clusters as runs of neighbours, followed until it ends or breaks. It is bounded by the
 * number of clusters of the volume, so a loop ends it.
 */
record FatChain(List<Run> runs, int clusters, Ending ending, int at) {

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
    /** It has more clusters than the volume. */
    LOOP
  }

  /** Follows from {@code first}; {@link #at} is the cluster whose entry ended it. */
  static FatChain follow(FatTable table, int first) {
    List<Run> runs = new ArrayList<>();
    int count = 0;
    int runStart = first;
    int previous = -1;
    int cluster = first;
    Ending ending = Ending.OUTSIDE;
    while (true) {
      if (!table.isData(cluster)) {
        ending = Ending.OUTSIDE;
        break;
      }
      if (count > table.last()) {
        ending = Ending.LOOP;
        break;
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
