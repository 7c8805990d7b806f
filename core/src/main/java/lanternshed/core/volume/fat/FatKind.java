package lanternshed.core.volume.fat;

/** The kind follows from the number of data clusters alone (F-1). */
public enum FatKind {
  FAT12(12, 4_084, 0xFF7),
  FAT16(16, 65_524, 0xFFF7),
  FAT32(32, 0x0FFF_FFF4, 0x0FFF_FFF7);

  private final int bits;
  private final int most;
  private final int bad;

  FatKind(int bits, int most, int bad) {
    this.bits = bits;
    this.most = most;
    this.bad = bad;
  }

  public static FatKind of(long clusters) {
    return clusters <= FAT12.most ? FAT12 : clusters <= FAT16.most ? FAT16 : FAT32;
  }

  /** Bits of one entry in the table. */
  public int bits() {
    return bits;
  }

  /** The most data clusters of this kind. */
  public int mostClusters() {
    return most;
  }

  /** The fewest data clusters of this kind. */
  public int fewestClusters() {
    return this == FAT12 ? 1 : values()[ordinal() - 1].most + 1;
  }

  /** The entry of a cluster that is marked bad; anything above it ends a chain. */
  public int badMark() {
    return bad;
  }

  /** The entry that ends a chain: all bits set. */
  public int endMark() {
    return bad | 0xF;
  }

  /** Bytes of a table for so many data clusters, its two first entries included. */
  public long tableBytes(long clusters) {
    return ((clusters + 2) * bits + 7) / 8;
  }
}
