package lanternshed.core.volume.fat;

import java.util.Arrays;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Say;
import lanternshed.core.medium.Copy;
import lanternshed.core.medium.Medium;
import lanternshed.core.volume.Grower;
import lanternshed.core.volume.Volume;
import lanternshed.core.volume.VolumeException;

/**
 * Copies a FAT volume to a larger place with the same clusters (F-10): the FATs grow, the data move
 * behind them, every cluster keeps its number and every byte its place in it, deleted files too.
 */
public final class FatGrow implements Grower {
  private static final int ENTRY = FatVolume.ENTRY;

  /**
   * The layout after growing.
   *
   * @throws VolumeException where the kind has not enough clusters for it, or the volume would
   *     shrink
   */
  public static FatLayout layout(FatLayout old, long sectors, Geometry g, long start) {
    if (old.bytesPerSector() != 512) {
      throw new VolumeException(
          "This volume has sectors of "
              + old.bytesPerSector()
              + " B and cannot be grown; rebuild it.");
    }
    if (sectors < old.total()) {
      throw new VolumeException(
          "The volume has " + Say.sectors(old.total()) + "; it is not made smaller. Rebuild it.");
    }
    long fat = old.fatSectors();
    while (true) {
      long data = sectors - old.reserved() - old.fats() * fat - old.rootSectors();
      long clusters = data / old.sectorsPerCluster();
      if (clusters > old.kind().mostClusters()) {
        throw new VolumeException(
            "Clusters of "
                + Say.size(old.clusterBytes())
                + " would be "
                + Say.count(clusters)
                + "; "
                + old.kind()
                + " has at most "
                + Say.count(old.kind().mostClusters())
                + ". Make it smaller, or rebuild with larger clusters.");
      }
      long need = (old.kind().tableBytes(clusters) + 511) / 512;
      if (need <= fat) break;
      fat = need;
    }
    return new FatLayout(
        old.oem(),
        512,
        old.sectorsPerCluster(),
        old.reserved(),
        old.fats(),
        old.rootEntries(),
        sectors,
        0xF8,
        fat,
        g.sectors(),
        g.heads(),
        start,
        0x80,
        old.serial(),
        old.label(),
        old.rootCluster(),
        old.always16());
  }

  /**
   * Grows into {@code target}, whose sector 0 is the new volume's first.
   *
   * @param code boot code; empty for the sector that says there is nothing to start
   */
  @Override
  public void grow(
      Volume volume,
      Medium target,
      long sectors,
      Geometry g,
      long start,
      byte[] code,
      Watch watch) {
    if (!(volume instanceof FatVolume old)) {
      throw new VolumeException("Volumes of " + volume.kind() + " are not grown as FAT.");
    }
    FatLayout from = old.layout();
    FatLayout to = layout(from, sectors, g, start);
    FatTable table = FatTable.fresh(to);
    for (int n = 2; n <= old.table().last(); n++) {
      int e = old.table().get(n);
      if (e != 0) table.set(n, e);
    }
    FatFormat.write(target, to, code, table);
    if (from.rootSectors() > 0) {
      byte[] root = old.fixedRoot();
      systemFilesFirst(root);
      root = Arrays.copyOf(root, to.rootSectors() * 512);
      target.write(to.rootStart(), to.rootSectors(), root, 0);
    }
    long data =
        Math.min(
            (long) from.clusters() * from.sectorsPerCluster(),
            old.medium().sectors() - from.firstData());
    Copy.range(
        old.medium(),
        from.firstData(),
        data,
        target,
        to.firstData(),
        (n, all) -> watch.at(n / 512, all / 512));
  }

  /**
   * F-11: boot code looks for its files in the first two slots, where a label or a deleted entry
   * may stand; what stands before the system files comes behind them.
   */
  static void systemFilesFirst(byte[] root) {
    int from = 0;
    while (from + ENTRY <= root.length && isNothing(root, from)) from += ENTRY;
    int to = from;
    while (to + ENTRY <= root.length && isSystemFile(root, to)) to += ENTRY;
    if (from == 0 || to == from) return;
    byte[] before = Arrays.copyOf(root, from);
    System.arraycopy(root, from, root, 0, to - from);
    System.arraycopy(before, 0, root, to - from, from);
  }

  private static boolean isNothing(byte[] b, int at) {
    int marks = b[at + 11] & 0x3F;
    return b[at] == (byte) 0xE5
        || b[at] != 0 && marks != FatVolume.LONG_NAME && (marks & FatVolume.LABEL) != 0;
  }

  private static boolean isSystemFile(byte[] b, int at) {
    int marks = b[at + 11] & (FatVolume.SYSTEM | FatVolume.LABEL | FatVolume.FOLDER);
    return b[at] != 0 && b[at] != (byte) 0xE5 && marks == FatVolume.SYSTEM;
  }
}
