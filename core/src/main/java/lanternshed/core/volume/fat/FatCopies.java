package lanternshed.core.volume.fat;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.medium.Medium;

/**
 * The copies of one volume's table, and which of them is taken where they differ. Systems read the
 * first alone; on a medium that lost sectors the second often holds what the first has not.
 *
 * <p>Where a sector differs, the copy with fewer contradictions is taken: entries outside the
 * volume, two that lead to one cluster, one that leads to a free cluster, a free one that somebody
 * leads to. Then each chain is fitted to what its folder says of it: {@link #fitFile}.
 */
final class FatCopies {
  private final FatLayout layout;
  private final List<FatTable> copies = new ArrayList<>();
  private final FatTable taken;
  private final List<Finding> findings = new ArrayList<>();
  private boolean differ;

  private FatCopies(Medium m, FatLayout l) {
    this.layout = l;
    for (int i = 0; i < l.fats(); i++) copies.add(FatTable.read(m, l, i));
    this.taken = copies.get(0).copy();
    for (int i = 1; i < copies.size(); i++) {
      if (copies.get(0).firstDifference(copies.get(i)) >= 0) differ = true;
    }
    if (differ) choose();
  }

  static FatCopies read(Medium m, FatLayout l) {
    return new FatCopies(m, l);
  }

  /** The table that is read by; where copies differ, what was chosen of them. */
  FatTable taken() {
    return taken;
  }

  /** One copy as it stands on the medium, counted from 0. */
  FatTable copy(int n) {
    return copies.get(n);
  }

  boolean differ() {
    return differ;
  }

  /** Which sectors were taken of another copy than the first, and why. */
  List<Finding> findings() {
    return findings;
  }

  private void choose() {
    List<byte[]> pointed = copies.stream().map(FatCopies::pointed).toList();
    int per = layout.bytesPerSector() * 8 / layout.kind().bits();
    long others = 0;
    int first = -1;
    long worst = 0;
    long best = 0;
    for (int from = 0; from <= taken.last(); from += per) {
      int to = Math.min(taken.last() + 1, from + per);
      int pick = 0;
      long least = Long.MAX_VALUE;
      long of0 = 0;
      for (int i = 0; i < copies.size(); i++) {
        if (i > 0 && same(copies.get(0), copies.get(i), from, to)) continue;
        long c = contradictions(copies.get(i), pointed.get(i), from, to);
        if (i == 0) of0 = c;
        if (c < least) {
          least = c;
          pick = i;
        }
      }
      if (pick == 0) continue;
      for (int n = from; n < to; n++) taken.set(n, copies.get(pick).get(n));
      if (others++ == 0) first = from / per;
      worst += of0;
      best += least;
    }
    if (others == 0) return;
    findings.add(
        Finding.wrong(
                "F-9",
                "FAT 1",
                "FAT 1 is spoiled in "
                    + Say.plural(others, "sector", "sectors")
                    + ", first in its sector "
                    + Say.count(first)
                    + "; another copy is read there.",
                "A mended copy has it in every FAT.")
            .because(
                Sum.of("F-9", "Which FAT holds")
                    .line("", "sectors in which another copy is taken", others)
                    .line("", "entries of FAT 1 that contradict themselves there", worst)
                    .line(">", "of the copy that is taken", best)
                    .because(
                        "An entry outside the volume, two that lead to one cluster, one that leads to a"
                            + " free cluster and a free one that somebody leads to contradict"
                            + " themselves; the copy with fewer of them is the truer one.")
                    .done()));
  }

  private static boolean same(FatTable a, FatTable b, int from, int to) {
    for (int n = from; n < to; n++) if (a.get(n) != b.get(n)) return false;
    return true;
  }

  /** How often each cluster is led to, 2 for more than once. */
  private static byte[] pointed(FatTable t) {
    byte[] p = new byte[t.last() + 1];
    for (int n = 2; n <= t.last(); n++) {
      int e = t.get(n);
      if (t.isData(e) && p[e] < 2) p[e]++;
    }
    return p;
  }

  private static long contradictions(FatTable t, byte[] pointed, int from, int to) {
    long out = 0;
    for (int n = Math.max(2, from); n < to; n++) {
      int e = t.get(n);
      if (e == 0) {
        if (pointed[n] > 0) out++;
      } else if (t.isData(e)) {
        if (e == n || pointed[e] > 1 || t.get(e) == 0) out++;
      } else if (!t.isBad(e) && !t.isEnd(e)) out++;
    }
    return out;
  }

  /**
   * Fits a file's chain to its length: as it is taken if it fits; else by the copy under which it
   * fits; else step by step, of two entries the one that leads on while clusters are missing and
   * the one that ends when they are all there.
   */
  void fitFile(int first, long needed) {
    if (!differ || needed == 0 || fits(taken, first, needed)) return;
    for (FatTable t : copies) {
      if (!fits(t, first, needed)) continue;
      FatChain chain = FatChain.follow(t, first);
      for (FatChain.Run r : chain.runs()) {
        for (int c = r.first(); c < r.first() + r.count(); c++) taken.set(c, t.get(c));
      }
      return;
    }
    BitSet seen = new BitSet();
    int c = first;
    for (long k = 1; k <= needed && taken.isData(c) && !seen.get(c); k++) {
      seen.set(c);
      int next = taken.get(c);
      boolean wantsEnd = k == needed;
      for (int i = 0; i < copies.size() && !leads(next, wantsEnd, seen); i++) {
        if (leads(copies.get(i).get(c), wantsEnd, seen)) next = copies.get(i).get(c);
      }
      taken.set(c, next);
      c = next;
    }
  }

  private boolean leads(int entry, boolean wantsEnd, BitSet seen) {
    return wantsEnd ? taken.isEnd(entry) : taken.isData(entry) && !seen.get(entry);
  }

  private static boolean fits(FatTable t, int first, long needed) {
    FatChain c = FatChain.follow(t, first);
    return c.ending() == FatChain.Ending.PROPER && c.clusters() == needed;
  }

  /** What may follow a folder's cluster, the entry that is taken first. */
  int[] after(int cluster) {
    if (!differ) return new int[] {taken.get(cluster)};
    int[] out = new int[copies.size() + 1];
    out[0] = taken.get(cluster);
    for (int i = 0; i < copies.size(); i++) out[i + 1] = copies.get(i).get(cluster);
    return out;
  }
}
