package lanternshed.core.volume.fat;

import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.medium.Medium;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.VolumeException;

/** Works out the layout of a new FAT volume (F-1, F-2, F-5) and writes it empty. */
public final class FatFormat {
  /** Both sides of a threshold are left alone: systems do not agree to the last cluster (F-1). */
  private static final int MARGIN = 16;

  private static final int MOST_CLUSTER = 32_768;
  private static final int ROOT_ENTRIES = 512;

  /** Reserved sectors of a FAT32 volume: boot sector, FSInfo, more boot code, their copies. */
  private static final int RESERVED_32 = 32;

  private static final int ROOT_CLUSTER = 2;

  /** Where systems of the 95 generation's second edition keep the rest of their boot code. */
  private static final int MORE_CODE = 2;

  private static final int BLOCK = 1024;

  private FatFormat() {}

  /**
   * The layout that grants a wish.
   *
   * @throws VolumeException where no FAT volume can
   */
  public static FatLayout layout(Maker.Wish w) {
    int bytes = w.sectorBytes() == 0 ? 512 : w.sectorBytes();
    sectorBytes(bytes, w.always16());
    if (w.always16()) return always16(w, bytes);
    FatKind kind = w.kind().map(FatKind::valueOf).orElseGet(() -> kindOf(w.sectors()));
    if (w.clusterBytes() > 0) {
      if (Integer.bitCount(w.clusterBytes()) != 1
          || w.clusterBytes() < 512
          || w.clusterBytes() > MOST_CLUSTER) {
        throw new VolumeException(
            "A cluster of "
                + w.clusterBytes()
                + " B is not offered: 512 B to 32 KiB, powers of two.");
      }
      return sized(w, kind, w.clusterBytes() / bytes, bytes)
          .filter(l -> clear(l, kind))
          .orElseThrow(() -> refusal(w, kind, w.clusterBytes()));
    }
    int usual = Math.max(bytes, defaultCluster(kind, w.sectors()));
    for (int spc = usual / bytes; spc * bytes <= MOST_CLUSTER; spc *= 2) {
      Optional<FatLayout> l = sized(w, kind, spc, bytes).filter(x -> clear(x, kind));
      if (l.isPresent()) return l.get();
    }
    // A small FAT16 volume needs clusters below its default to have enough of them.
    for (int spc = usual / bytes / 2; spc >= 1; spc /= 2) {
      Optional<FatLayout> l = sized(w, kind, spc, bytes).filter(x -> clear(x, kind));
      if (l.isPresent()) return l.get();
    }
    throw refusal(w, kind, 0);
  }

  private static FatKind kindOf(long sectors) {
    long bytes = sectors * 512;
    return bytes < 16 * Say.MIB
        ? FatKind.FAT12
        : bytes <= 2047 * Say.MIB ? FatKind.FAT16 : FatKind.FAT32;
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
    if (kind == FatKind.FAT32) return Math.min(0xFFFF_FFFFL, clusters * spc);
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
    if (kind == FatKind.FAT32) {
      return mib <= 8 * 1024 ? 4096 : mib <= 16 * 1024 ? 8192 : mib <= 32 * 1024 ? 16_384 : 32_768;
    }
    if (kind == FatKind.FAT12) return mib <= 2 ? 512 : mib <= 4 ? 1024 : mib <= 8 ? 2048 : 4096;
    if (mib <= 128) return 2048;
    if (mib <= 256) return 4096;
    if (mib <= 512) return 8192;
    return mib <= 1024 ? 16_384 : 32_768;
  }

  private static boolean clear(FatLayout l, FatKind kind) {
    int n = l.clusters();
    long least =
        switch (kind) {
          case FAT12 -> 1;
          case FAT16 -> FatKind.FAT12.mostClusters() + 1 + MARGIN;
          case FAT32 -> FatKind.FAT16.mostClusters() + 1 + MARGIN;
        };
    return l.kind() == kind && n >= least && n <= kind.mostClusters() - MARGIN;
  }

  private static void sectorBytes(int bytes, boolean always16) {
    int most = always16 ? FatLayout.MOST_LOGICAL_SECTOR : FatLayout.MOST_SECTOR;
    if (bytes >= 512 && bytes <= most && Integer.bitCount(bytes) == 1) return;
    throw new VolumeException(
        "Logical sectors of " + bytes + " B are not made: 512 to " + most + ", powers of two.");
  }

  /** Two logical sectors a cluster, always (P-21). */
  private static FatLayout always16(Maker.Wish w, int bytes) {
    if (w.clusterBytes() != 0 && w.clusterBytes() != 2 * bytes) {
      throw new VolumeException(
          "With logical sectors of "
              + Say.size(bytes)
              + " a cluster has two of them, not "
              + Say.size(w.clusterBytes())
              + ".");
    }
    return sized(w, FatKind.FAT16, 2, bytes)
        .filter(l -> l.total() <= 65_535 && l.clusters() >= 1)
        .orElseThrow(
            () ->
                new VolumeException(
                    Say.mib(w.sectors() * 512)
                        + " have more than 65 535 logical sectors of "
                        + Say.size(bytes)
                        + "; take larger ones, or several volumes."));
  }

  private static Optional<FatLayout> sized(Maker.Wish w, FatKind kind, int spc, int bytes) {
    if (spc < 1) return Optional.empty();
    boolean wide = kind == FatKind.FAT32;
    int reserved = wide ? RESERVED_32 : 1;
    int rootEntries = wide ? 0 : w.rootEntries() == 0 ? ROOT_ENTRIES : w.rootEntries();
    long root = (rootEntries * 32L + bytes - 1) / bytes;
    long total = w.sectors() / (bytes / 512);
    long room = total - reserved - root;
    // The smallest FAT that has an entry for every cluster which its own size leaves.
    long fat = 1;
    while (true) {
      long clusters = (room - 2 * fat) / spc;
      if (clusters < 1) return Optional.empty();
      long need = (kind.tableBytes(clusters) + bytes - 1) / bytes;
      if (need <= fat) break;
      fat = need;
      if (!wide && fat > 65_535) return Optional.empty();
    }
    return Optional.of(
        new FatLayout(
            "LANTERN ",
            bytes,
            spc,
            reserved,
            2,
            rootEntries,
            total,
            0xF8,
            fat,
            w.geometry().sectors(),
            w.geometry().heads(),
            w.start(),
            0x80,
            w.serial(),
            label(w.label()),
            wide ? ROOT_CLUSTER : 0,
            w.always16()));
  }

  private static VolumeException refusal(Maker.Wish w, FatKind kind, int clusterBytes) {
    return new VolumeException(
        "A "
            + kind
            + " volume of "
            + Say.size(w.sectors() * 512)
            + (clusterBytes > 0 ? " with clusters of " + Say.size(clusterBytes) : "")
            + " is not possible: "
            + kind
            + " has "
            + (kind == FatKind.FAT12
                ? "at most "
                : Say.count(
                        (kind == FatKind.FAT16 ? FatKind.FAT12 : FatKind.FAT16).mostClusters() + 1)
                    + " to ")
            + Say.count(kind.mostClusters())
            + " clusters of 512 B to 32 KiB, and 16 are kept clear of each threshold.");
  }

  /** The sum behind kind and cluster size, for the Because drawer. */
  public static Sum sum(FatLayout l) {
    return Sum.of("F-1", l.kind() + ", clusters of " + Say.size(l.clusterBytes()))
        .line("", "logical sectors of " + Say.size(l.bytesPerSector()), l.total())
        .sectors("−", "boot sector and what is reserved", l.reserved())
        .sectors("−", "two FATs", l.fats() * l.fatSectors())
        .sectors("−", "root folder of " + l.rootEntries() + " entries", l.rootSectors())
        .sectors("=", "data", l.total() - l.firstData())
        .line("÷", "sectors a cluster", l.sectorsPerCluster())
        .line("=", "clusters", l.clusters())
        .line("≤", "most of " + l.kind(), l.kind().mostClusters())
        .because(
            "The kind follows from the number of clusters alone: below 4 085 it is FAT12, below 65 525"
                + " FAT16, above FAT32. Sixteen are kept clear of each threshold.")
        .done();
  }

  /**
   * Writes what stands before the data: boot sector, on FAT32 its copy and the information sectors,
   * and the FATs.
   *
   * @param code boot code; past the room in the boot sector it goes into sector 2 of FAT32
   */
  static void write(Medium medium, FatLayout l, byte[] code, FatTable table) {
    int per = l.bytesPerSector() / 512;
    medium.write(0, l.reserved() * per, new byte[l.reserved() * l.bytesPerSector()], 0);
    if (l.always16()) {
      medium.write(0, 1, FatExecutable.bootSector(l, code), 0);
      writeTable(medium, l, table);
      return;
    }
    int room = 510 - l.codeAt();
    byte[] boot = l.bootSector(Arrays.copyOf(code, Math.min(room, code.length)));
    medium.write(0, 1, boot, 0);
    if (l.kind() == FatKind.FAT32) {
      byte[] more =
          Arrays.copyOf(Arrays.copyOfRange(code, Math.min(room, code.length), code.length), 512);
      for (int at : new int[] {0, FatBoot.BACKUP}) {
        medium.write((long) at * per, 1, boot, 0);
        long info = (long) (at + FatLayout.FSINFO_SECTOR) * per;
        FsInfo.write(medium, info, FsInfo.count(table));
        medium.write((long) (at + MORE_CODE) * per, 1, more, 0);
      }
    }
    writeTable(medium, l, table);
  }

  static void writeTable(Medium medium, FatLayout l, FatTable table) {
    int per = l.bytesPerSector() / 512;
    for (int copy = 0; copy < l.fats(); copy++) {
      long start = (l.fatStart() + copy * l.fatSectors()) * per;
      for (long at = 0; at < l.fatSectors() * per; at += BLOCK) {
        int n = (int) Math.min(BLOCK, l.fatSectors() * per - at);
        medium.write(start + at, n, table.bytes(), (int) at * 512);
      }
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
