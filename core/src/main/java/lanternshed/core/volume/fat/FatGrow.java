package lanternshed.core.volume.fat;

import java.util.Arrays;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Say;
import lanternshed.core.medium.Medium;
import lanternshed.core.volume.VolumeException;

/**
 * Copies a FAT12 or FAT16 volume to a larger place with the same clusters (F-10): the FATs grow,
 * the data move behind them, every cluster keeps its number and every byte its place in it, deleted
 * files too.
 */
public final class FatGrow {
  private static final int BLOCK = 2048;

  /** Is told how many sectors are done. */
  public interface Watch {
    void at(long sectors, long all);
  }

  private FatGrow() {}

  /**
   * The layout after growing.
   *
   * @throws VolumeException where the kind has not enough clusters for it, or the volume would
   *     shrink
   */
  public static FatLayout layout(FatLayout old, long sectors, Geometry g, long start) {
    if (old.kind() == FatKind.FAT32 || old.bytesPerSector() != 512) {
      throw new VolumeException("This " + old.kind() + " volume cannot be grown yet; rebuild it.");
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
        0);
  }

  /**
   * Grows into {@code target}, whose sector 0 is the new volume's first.
   *
   * @param code boot code; empty for the sector that says there is nothing to start
   */
  public static void grow(
      FatVolume old,
      Medium target,
      long sectors,
      Geometry g,
      long start,
      byte[] code,
      Watch watch) {
    FatLayout from = old.layout();
    FatLayout to = layout(from, sectors, g, start);
    FatFormat.write(target, to.named("", to.serial()), code, 0);
    target.write(0, 1, to.bootSector(code), 0);
    FatTable table = FatTable.fresh(to);
    for (int n = 2; n <= old.table().last(); n++) {
      int e = old.table().get(n);
      if (e != 0) table.set(n, e);
    }
    FatFormat.writeTable(target, to, table);
    copy(
        old.medium(), from.rootStart(), target, to.rootStart(), from.rootSectors(), (n, all) -> {});
    long data =
        Math.min(
            (long) from.clusters() * from.sectorsPerCluster(),
            old.medium().sectors() - from.firstData());
    copy(old.medium(), from.firstData(), target, to.firstData(), data, watch);
  }

  private static void copy(Medium from, long at, Medium to, long place, long count, Watch watch) {
    byte[] b = new byte[BLOCK * 512];
    byte[] zeros = new byte[BLOCK * 512];
    for (long i = 0; i < count; i += BLOCK) {
      int n = (int) Math.min(BLOCK, count - i);
      from.read(at + i, n, b, 0);
      if (!Arrays.equals(b, 0, n * 512, zeros, 0, n * 512)) to.write(place + i, n, b, 0);
      watch.at(i + n, count);
    }
  }
}
