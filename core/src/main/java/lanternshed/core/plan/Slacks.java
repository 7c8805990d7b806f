package lanternshed.core.plan;

import java.util.ArrayList;
import java.util.List;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.volume.Maker;

/** Waste by cluster size from the surveyed files themselves (F-3). */
public final class Slacks {
  private Slacks() {}

  /** Σ(ceil(size ÷ cluster) × cluster − size) over the files. */
  public static long waste(long[] sizes, int cluster) {
    long waste = 0;
    for (long s : sizes) waste += (s + cluster - 1) / cluster * cluster - s;
    return waste;
  }

  /**
   * One row for each cluster size of a kind.
   *
   * @param kind published name, "FAT16"
   * @param chosen bytes of the cluster that the plan uses
   */
  public static List<Plan.Slack> of(long[] sizes, long folders, String kind, int chosen) {
    List<Plan.Slack> out = new ArrayList<>();
    Maker maker = Catalogue.maker(kind);
    for (int c : maker.unitSizes()) {
      long waste = waste(sizes, c) + folders * c;
      out.add(
          new Plan.Slack(
              c, waste, maker.mostSectors(kind, c), c == chosen, sum(sizes, folders, c)));
    }
    return out;
  }

  private static Sum sum(long[] sizes, long folders, int c) {
    long waste = waste(sizes, c);
    long inClusters = 0;
    long bytes = 0;
    for (long s : sizes) {
      inClusters += (s + c - 1) / c;
      bytes += s;
    }
    return Sum.of("F-3", "Waste with clusters of " + Say.size(c))
        .line("", "clusters that the files take", inClusters)
        .bytes("×", "cluster", c)
        .bytes("=", "on the volume", inClusters * c)
        .bytes("−", "length of " + Say.plural(sizes.length, "file", "files"), bytes)
        .bytes("=", "waste of files", waste)
        .line("+", Say.plural(folders, "folder", "folders"), folders * c, Say.bytes(folders * c))
        .line("=", "waste", waste + folders * c, Say.size(waste + folders * c))
        .because("A file takes whole clusters; the end of its last one stays empty.")
        .done();
  }
}
