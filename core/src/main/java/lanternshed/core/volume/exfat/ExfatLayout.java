package lanternshed.core.volume.exfat;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Optional;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.medium.Medium;
import lanternshed.core.volume.VolumeException;

/**
 * The fields of the main boot sector and the places that follow from them (exFAT file system
 * specification, August 2019, section 3). Field names as there.
 *
 * @param sectorBytes 512 to 4 096
 * @param start PartitionOffset: first sector of the volume on its medium
 * @param sectors VolumeLength, in sectors of {@code sectorBytes}
 * @param fatOffset in sectors of {@code sectorBytes}, as are the lengths that follow
 * @param clusters ClusterCount
 * @param root FirstClusterOfRootDirectory
 */
record ExfatLayout(
    int sectorBytes,
    int clusterBytes,
    long start,
    long sectors,
    long fatOffset,
    long fatLength,
    long heapOffset,
    long clusters,
    long root,
    long serial) {
  private static final byte[] MARK = "EXFAT   ".getBytes(StandardCharsets.US_ASCII);
  private static final int MARK_AT = 3;
  private static final int PARTITION_OFFSET = 64;
  private static final int VOLUME_LENGTH = 72;
  private static final int FAT_OFFSET = 80;
  private static final int FAT_LENGTH = 84;
  private static final int HEAP_OFFSET = 88;
  private static final int CLUSTERS = 92;
  private static final int ROOT = 96;
  private static final int SERIAL = 100;
  private static final int REVISION = 104;
  static final int FLAGS = 106;
  private static final int SECTOR_SHIFT = 108;
  private static final int CLUSTER_SHIFT = 109;
  private static final int FATS = 110;
  private static final int DRIVE = 111;
  static final int PERCENT = 112;
  private static final int BOOT_CODE = 120;

  /** VolumeDirty and MediaFailure. */
  static final int DIRTY = 0x06;

  /** Sectors of the boot region; a copy of it follows. */
  static final int REGION = 12;

  /** The sector of the region that holds its checksum, over and over. */
  static final int CHECKSUM = 11;

  static final long END = 0xFFFF_FFFFL;
  private static final long MOST_CLUSTERS = 0xFFFF_FFF5L;

  /** The layout by a boot sector whose figures fit the medium; empty otherwise. */
  static Optional<ExfatLayout> parse(byte[] b, Medium m) {
    if (!Arrays.equals(b, MARK_AT, MARK_AT + 8, MARK, 0, 8)) return Optional.empty();
    int s = b[SECTOR_SHIFT];
    int c = b[CLUSTER_SHIFT];
    if (s < 9 || s > 12 || c < 0 || s + c > 25) return Optional.empty();
    ExfatLayout l =
        new ExfatLayout(
            1 << s,
            1 << s + c,
            Bytes.u64(b, PARTITION_OFFSET),
            Bytes.u64(b, VOLUME_LENGTH),
            Bytes.u32(b, FAT_OFFSET),
            Bytes.u32(b, FAT_LENGTH),
            Bytes.u32(b, HEAP_OFFSET),
            Bytes.u32(b, CLUSTERS),
            Bytes.u32(b, ROOT),
            Bytes.u32(b, SERIAL));
    boolean fits =
        l.clusters > 0
            && l.clusters <= MOST_CLUSTERS
            && l.isData(l.root)
            && l.heapAt() + l.clusters * l.clusterBytes <= m.bytes() + l.clusterBytes
            && l.fatAt() + l.fatBytes() <= m.bytes()
            && l.fatBytes() >= (l.clusters + 2) * 4;
    return fits ? Optional.of(l) : Optional.empty();
  }

  /** Byte of the volume at which the FAT begins. */
  long fatAt() {
    return fatOffset * sectorBytes;
  }

  long fatBytes() {
    return fatLength * sectorBytes;
  }

  /** Byte of the volume at which cluster 2 begins. */
  long heapAt() {
    return heapOffset * sectorBytes;
  }

  long byteOf(long cluster) {
    return heapAt() + (cluster - 2) * clusterBytes;
  }

  boolean isData(long cluster) {
    return cluster >= 2 && cluster < clusters + 2;
  }

  long clustersFor(long bytes) {
    return (bytes + clusterBytes - 1) / clusterBytes;
  }

  /** Sectors of 512 bytes in one of this volume's. */
  int per512() {
    return sectorBytes / 512;
  }

  /**
   * The layout of a new volume with sectors of 512 bytes.
   *
   * @param sectors of 512 bytes
   * @param clusterBytes 0 for the default of its size
   * @throws VolumeException where so small a volume is not possible
   */
  static ExfatLayout fresh(long sectors, long start, int clusterBytes, long serial) {
    int cluster = clusterBytes == 0 ? defaultCluster(sectors * 512) : clusterBytes;
    if (cluster < 512 || cluster > 1 << 25 || Integer.bitCount(cluster) != 1) {
      throw new VolumeException(
          "A cluster of " + cluster + " B is not offered: 512 B to 32 MiB, powers of two.");
    }
    long per = cluster / 512;
    // FAT and heap begin on clusters, so that what lies in them does.
    long fat = roundUp(2L * REGION, per);
    long most = (sectors - fat) / per;
    long fatLength = ((most + 2) * 4 + 511) / 512;
    long heap = roundUp(fat + fatLength, per);
    long clusters = (sectors - heap) / per;
    if (clusters < 8) {
      throw new VolumeException(
          "A volume of "
              + Say.size(sectors * 512)
              + " is too small for exFAT with clusters of "
              + Say.size(cluster)
              + ".");
    }
    return new ExfatLayout(512, cluster, start, sectors, fat, fatLength, heap, clusters, 2, serial);
  }

  private static long roundUp(long n, long unit) {
    return (n + unit - 1) / unit * unit;
  }

  /** Up to 256 MiB 4 KiB, up to 32 GiB 32 KiB, else 128 KiB. */
  static int defaultCluster(long bytes) {
    return bytes <= 256 * Say.MIB ? 4096 : bytes <= 32 * Say.GIB ? 32_768 : 131_072;
  }

  ExfatLayout withRoot(long cluster) {
    return new ExfatLayout(
        sectorBytes,
        clusterBytes,
        start,
        sectors,
        fatOffset,
        fatLength,
        heapOffset,
        clusters,
        cluster,
        serial);
  }

  /** The boot region of a new volume: boot sector, extended sectors, checksum. */
  byte[] region() {
    byte[] b = new byte[REGION * sectorBytes];
    b[0] = (byte) 0xEB;
    b[1] = 0x76;
    b[2] = (byte) 0x90;
    System.arraycopy(MARK, 0, b, MARK_AT, 8);
    Bytes.put64(b, PARTITION_OFFSET, start);
    Bytes.put64(b, VOLUME_LENGTH, sectors);
    Bytes.put32(b, FAT_OFFSET, fatOffset);
    Bytes.put32(b, FAT_LENGTH, fatLength);
    Bytes.put32(b, HEAP_OFFSET, heapOffset);
    Bytes.put32(b, CLUSTERS, clusters);
    Bytes.put32(b, ROOT, root);
    Bytes.put32(b, SERIAL, serial);
    Bytes.put16(b, REVISION, 0x0100);
    b[SECTOR_SHIFT] = (byte) Integer.numberOfTrailingZeros(sectorBytes);
    b[CLUSTER_SHIFT] = (byte) Integer.numberOfTrailingZeros(clusterBytes / sectorBytes);
    b[FATS] = 1;
    b[DRIVE] = (byte) 0x80;
    b[PERCENT] = (byte) 0xFF;
    // No system starts from it: INT 18h, and stop.
    byte[] stop = {(byte) 0xCD, 0x18, (byte) 0xEB, (byte) 0xFE};
    Arrays.fill(b, BOOT_CODE, 510, (byte) 0xF4);
    System.arraycopy(stop, 0, b, BOOT_CODE, stop.length);
    Bytes.put16(b, 510, 0xAA55);
    for (int s = 1; s <= 8; s++) Bytes.put32(b, (s + 1) * sectorBytes - 4, 0xAA55_0000L);
    return withChecksum(b);
  }

  /** Puts the checksum into its sector, over and over. */
  byte[] withChecksum(byte[] region) {
    long sum = checksum(region);
    for (int at = CHECKSUM * sectorBytes; at < REGION * sectorBytes; at += 4) {
      Bytes.put32(region, at, sum);
    }
    return region;
  }

  /** Whether each of the words of the checksum sector is right. */
  boolean checksumRight(byte[] region) {
    long sum = checksum(region);
    for (int at = CHECKSUM * sectorBytes; at < REGION * sectorBytes; at += 4) {
      if (Bytes.u32(region, at) != sum) return false;
    }
    return true;
  }

  private long checksum(byte[] region) {
    long sum = 0;
    for (int i = 0; i < CHECKSUM * sectorBytes; i++) {
      if (i == FLAGS || i == FLAGS + 1 || i == PERCENT) continue;
      sum = ((sum & 1) << 31) + (sum >> 1) + (region[i] & 0xFF) & 0xFFFF_FFFFL;
    }
    return sum;
  }

  /** The sum behind cluster size and count, for the Because drawer. */
  Sum sum() {
    return Sum.of("F-2", "exFAT, clusters of " + Say.size(clusterBytes))
        .sectors("", "volume", sectors * per512())
        .sectors("−", "boot region, its copy and the FAT", heapOffset * per512())
        .line("÷", "sectors a cluster", clusterBytes / 512)
        .line("=", "clusters", clusters)
        .because("The default is 4 KiB up to 256 MiB, 32 KiB up to 32 GiB, 128 KiB above.")
        .done();
  }
}
