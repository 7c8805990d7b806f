package lanternshed.core.plan;

import java.util.ArrayList;
import java.util.List;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.volume.fat.FatKind;

/** Waste by cluster size from the surveyed files themselves (F-3). */
public final class Slacks {
  private static final int[] CLUSTERS = {512, 1024, 2048, 4096, 8192, 16_384, 32_768};

  private Slacks() {}

  /** Σ(ceil(size ÷ cluster) × cluster − size) over the files. */
  public static long waste(long[] sizes, int cluster) {
    long waste = 0;
    for (long s : sizes) waste += (s + cluster - 1) / cluster * cluster - s;
    return waste;
  }

  /**
   * One row for each cluster size of the kind.
   *
   * @param chosen bytes of the cluster that the plan uses
   */
  public static List<Plan.Slack> of(long[] sizes, long folders, FatKind kind, int chosen) {
    List<Plan.Slack> out = new ArrayList<>();
    for (int c : CLUSTERS) {
      long spc = c / 512;
      long clusters = kind.mostClusters() - 16L;
      long fat = (kind.tableBytes(clusters) + 511) / 512;
      long waste = waste(sizes, c);
      long inClusters = 0;
      for (long s : sizes) inClusters += (s + c - 1) / c;
      long bytes = 0;
      for (long s : sizes) bytes += s;
      Sum sum =
          Sum.of("F-3", "Waste with clusters of " + Say.size(c))
              .line("", "clusters that the files take", inClusters)
              .bytes("×", "cluster", c)
              .bytes("=", "on the volume", inClusters * c)
              .bytes("−", "length of " + Say.plural(sizes.length, "file", "files"), bytes)
              .bytes("=", "waste of files", waste)
              .line(
                  "+",
                  Say.plural(folders, "folder", "folders"),
                  folders * c,
                  Say.bytes(folders * c))
              .line("=", "waste", waste + folders * c, Say.size(waste + folders * c))
              .because("A file takes whole clusters; the end of its last one stays empty.")
              .done();
      out.add(
          new Plan.Slack(c, waste + folders * c, clusters * spc + 2 * fat + 33, c == chosen, sum));
    }
    return out;
  }
}
