package lanternshed.core.volume.fat;

import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.medium.Medium;
import lanternshed.core.volume.VolumeException;

/** Works out the layout of a new FAT12 or FAT16 volume (F-1, F-2, F-5) and writes it empty. */
public final class FatFormat {
  /** Both sides of a threshold are left alone: systems do not agree to the last cluster (F-1). */
  private static final int MARGIN = 16;

  private static final int MOST_CLUSTER = 32_768;
  private static final int ROOT_ENTRIES = 512;

  private static final int BLOCK = 1024;

  /**
   * What is asked of a new volume.
   *
   * @param sectors sectors of 512 bytes
   * @param kind the kind wanted; empty to let the size decide
   * @param clusterBytes wanted bytes of a cluster; 0 for the size's own default (F-2)
   * @param rootEntries entries of the root folder, a multiple of 16; 0 for 512
   * @param geometry what the target firmware computes
   * @param start first sector of the volume on its medium
   */
  public record Wish(
      long sectors,
      Optional<FatKind> kind,
      int clusterBytes,
      int rootEntries,
      Geometry geometry,
      long start,
      String label,
      long serial) {}

  private FatFormat() {}

  /**
   * The layout that grants a wish.
   *
   * @throws VolumeException where no FAT12 or FAT16 volume can
   */
  public static FatLayout layout(Wish w) {
    FatKind kind =
        w.kind().orElse(w.sectors() * 512 < 16 * Say.MIB ? FatKind.FAT12 : FatKind.FAT16);
    if (w.clusterBytes() > 0) {
      if (Integer.bitCount(w.clusterBytes()) != 1
          || w.clusterBytes() < 512
          || w.clusterBytes() > MOST_CLUSTER) {
        throw new VolumeException(
            "A cluster of "
                + w.clusterBytes()
                + " B is not offered: 512 B to 32 KiB, powers of two.");
      }
      return sized(w, kind, w.clusterBytes() / 512)
          .filter(l -> clear(l, kind))
          .orElseThrow(() -> refusal(w, kind, w.clusterBytes()));
    }
    for (int spc = defaultCluster(kind, w.sectors()) / 512; spc <= 64; spc *= 2) {
      Optional<FatLayout> l = sized(w, kind, spc).filter(x -> clear(x, kind));
      if (l.isPresent()) return l.get();
    }
    // A small FAT16 volume needs clusters below its default to have enough of them.
    for (int spc = defaultCluster(kind, w.sectors()) / 1024; spc >= 1; spc /= 2) {
      Optional<FatLayout> l = sized(w, kind, spc).filter(x -> clear(x, kind));
      if (l.isPresent()) return l.get();
    }
    throw refusal(w, kind, 0);
  }

  /**
   * The longest volume of a kind that {@link #layout} grants: its clusters less those that are kept
   * clear, and what lies before them.
   *
   * @param clusterBytes bytes of a cluster; 0 for the largest
   * @return sectors of 512 bytes
   */
  public static long mostSectors(FatKind kind, int clusterBytes) {
    long spc = (clusterBytes == 0 ? MOST_CLUSTER : clusterBytes) / 512;
    long clusters = kind.mostClusters() - MARGIN;
    long fat = (kind.tableBytes(clusters) + 511) / 512;
    return 1 + 2 * fat + ROOT_ENTRIES * 32 / 512 + clusters * spc;
  }

  /**
   * A label as it can stand on disk: upper case, at most 11 of the characters that every system
   * shows; what is not one becomes "_".
   */
  public static String label(String wanted) {
    String upper =
        wanted.strip().toUpperCase(Locale.ROOT).replaceAll("[^A-Z0-9 _$%'@~!(){}^#&-]", "_");
    return upper.length() > 11 ? upper.substring(0, 11).strip() : upper;
  }

  /** F-2: the default cluster in bytes. */
  static int defaultCluster(FatKind kind, long sectors) {
    long mib = (sectors * 512 + Say.MIB - 1) / Say.MIB;
    if (kind == FatKind.FAT12) return mib <= 2 ? 512 : mib <= 4 ? 1024 : mib <= 8 ? 2048 : 4096;
    if (mib <= 128) return 2048;
    if (mib <= 256) return 4096;
    if (mib <= 512) return 8192;
    return mib <= 1024 ? 16_384 : 32_768;
  }

  private static boolean clear(FatLayout l, FatKind kind) {
    int n = l.clusters();
    long least = kind == FatKind.FAT16 ? FatKind.FAT12.mostClusters() + 1 + MARGIN : 1;
    return l.kind() == kind && n >= least && n <= kind.mostClusters() - MARGIN;
  }

  private static Optional<FatLayout> sized(Wish w, FatKind kind, int spc) {
    int rootEntries = w.rootEntries() == 0 ? ROOT_ENTRIES : w.rootEntries();
    long root = (rootEntries * 32L + 511) / 512;
    long room = w.sectors() - 1 - root;
    // The smallest FAT that has an entry for every cluster which its own size leaves.
    long fat = 1;
    while (true) {
      long clusters = (room - 2 * fat) / spc;
      if (clusters < 1) return Optional.empty();
      long need = (kind.tableBytes(clusters) + 511) / 512;
      if (need <= fat) break;
      fat = need;
      if (fat > 65_535) return Optional.empty();
    }
    return Optional.of(
        new FatLayout(
            "LANTERN ",
            512,
            spc,
            1,
            2,
            rootEntries,
            w.sectors(),
            0xF8,
            fat,
            w.geometry().sectors(),
            w.geometry().heads(),
            w.start(),
            0x80,
            w.serial(),
            label(w.label()),
            0));
  }

  private static VolumeException refusal(Wish w, FatKind kind, int clusterBytes) {
    return new VolumeException(
        "A "
            + kind
            + " volume of "
            + Say.mib(w.sectors() * 512)
            + (clusterBytes > 0 ? " with clusters of " + Say.size(clusterBytes) : "")
            + " is not possible: "
            + kind
            + " has "
            + (kind == FatKind.FAT16
                ? Say.count(FatKind.FAT12.mostClusters() + 1) + " to "
                : "at most ")
            + Say.count(kind.mostClusters())
            + " clusters of 512 B to 32 KiB, and 16 are kept clear of each threshold.");
  }

  /** The sum behind kind and cluster size, for the Because drawer. */
  public static Sum sum(FatLayout l) {
    return Sum.of("F-1", l.kind() + ", clusters of " + Say.size(l.clusterBytes()))
        .sectors("", "volume", l.total())
        .sectors("−", "boot sector", l.reserved())
        .sectors("−", "two FATs", l.fats() * l.fatSectors())
        .sectors("−", "root folder of " + l.rootEntries() + " entries", l.rootSectors())
        .sectors("=", "data", l.total() - l.firstData())
        .line("÷", "sectors a cluster", l.sectorsPerCluster())
        .line("=", "clusters", l.clusters())
        .line("≤", "most of " + l.kind(), l.kind().mostClusters())
        .because(
            "The kind follows from the number of clusters alone: below 4 085 it is FAT12, below 65 525"
                + " FAT16. Sixteen are kept clear of each threshold.")
        .done();
  }

  /**
   * Writes an empty volume: boot sector, FATs, root folder with its label. The data stay as they
   * are.
   */
  public static void write(Medium medium, FatLayout l, byte[] bootCode, int stamp) {
    medium.write(0, 1, l.bootSector(bootCode), 0);
    byte[] zeros = new byte[BLOCK * 512];
    for (long at = 1; at < l.firstData(); at += BLOCK) {
      medium.write(at, (int) Math.min(BLOCK, l.firstData() - at), zeros, 0);
    }
    writeTable(medium, l, FatTable.fresh(l));
    if (!l.label().isEmpty()) {
      medium.write(l.rootStart(), 1, Arrays.copyOf(labelEntry(l.label(), stamp), 512), 0);
    }
  }

  static void writeTable(Medium medium, FatLayout l, FatTable table) {
    for (int copy = 0; copy < l.fats(); copy++) {
      medium.write(l.fatStart() + copy * l.fatSectors(), (int) l.fatSectors(), table.bytes(), 0);
    }
  }

  static byte[] labelEntry(String label, int stamp) {
    byte[] e = new byte[FatVolume.ENTRY];
    FatLayout.put(e, 0, label, 11);
    e[11] = FatVolume.LABEL;
    Bytes.put16(e, 22, stamp);
    Bytes.put16(e, 24, stamp >> 16);
    return e;
  }
}
