package lanternshed.core.volume.fat;

import lanternshed.core.measure.Say;
import lanternshed.core.medium.Medium;
import lanternshed.core.volume.VolumeException;

/** One copy of a file allocation table, held in memory; entry n says what follows cluster n. */
final class FatTable {
  /**
   * Enough for 16 million clusters; past it a volume is not of the machines this program serves.
   */
  private static final long MOST_BYTES = 64 * Say.MIB;

  private final FatKind kind;
  private final byte[] b;
  private final int last;

  private FatTable(FatKind kind, byte[] b, int clusters) {
    this.kind = kind;
    this.b = b;
    this.last = clusters + 1;
  }

  /** An empty table with its two first entries set. */
  static FatTable fresh(FatLayout l) {
    FatTable t =
        new FatTable(
            l.kind(), new byte[Math.toIntExact(l.fatSectors() * l.bytesPerSector())], l.clusters());
    t.set(0, l.kind().endMark() & ~0xFF | l.media());
    t.set(1, l.kind().endMark());
    return t;
  }

  /** Reads copy {@code copy}, counted from 0; only as much as the clusters need. */
  static FatTable read(Medium m, FatLayout l, int copy) {
    long need = l.kind().tableBytes(l.clusters());
    if (need > MOST_BYTES) {
      throw new VolumeException(
          "The FAT of this volume has " + Say.size(need) + "; up to 64 MiB are read.");
    }
    int perSector = l.bytesPerSector() / m.sectorSize();
    int count = (int) ((need + m.sectorSize() - 1) / m.sectorSize());
    long at = (l.fatStart() + copy * l.fatSectors()) * perSector;
    byte[] b = new byte[count * m.sectorSize() + 1];
    long there = Math.max(0, Math.min(count, m.sectors() - at));
    if (there > 0) m.read(at, (int) there, b, 0);
    return new FatTable(l.kind(), b, l.clusters());
  }

  /** A table of its own with the same entries. */
  FatTable copy() {
    return new FatTable(kind, b.clone(), last - 1);
  }

  /** The first entry in which two tables differ; -1 where they are the same. */
  int firstDifference(FatTable other) {
    if (java.util.Arrays.equals(b, other.b)) return -1;
    for (int n = 0; n <= last; n++) if (get(n) != other.get(n)) return n;
    return -1;
  }

  /** The last cluster's number. */
  int last() {
    return last;
  }

  int get(int n) {
    return switch (kind) {
      case FAT12 -> {
        int at = n + n / 2;
        int pair = b[at] & 0xFF | (b[at + 1] & 0xFF) << 8;
        yield (n & 1) == 0 ? pair & 0xFFF : pair >> 4;
      }
      case FAT16 -> b[2 * n] & 0xFF | (b[2 * n + 1] & 0xFF) << 8;
      case FAT32 ->
          (b[4 * n] & 0xFF
                  | (b[4 * n + 1] & 0xFF) << 8
                  | (b[4 * n + 2] & 0xFF) << 16
                  | b[4 * n + 3] << 24)
              & 0x0FFF_FFFF;
    };
  }

  void set(int n, int v) {
    switch (kind) {
      case FAT12 -> {
        int at = n + n / 2;
        if ((n & 1) == 0) {
          b[at] = (byte) v;
          b[at + 1] = (byte) (b[at + 1] & 0xF0 | v >> 8 & 0x0F);
        } else {
          b[at] = (byte) (b[at] & 0x0F | v << 4);
          b[at + 1] = (byte) (v >> 4);
        }
      }
      case FAT16 -> {
        b[2 * n] = (byte) v;
        b[2 * n + 1] = (byte) (v >> 8);
      }
      case FAT32 -> {
        for (int i = 0; i < 4; i++) b[4 * n + i] = (byte) (v >> 8 * i);
      }
    }
  }

  /** Links {@code count} clusters from {@code first} into one chain. */
  void link(int first, int count) {
    for (int i = 0; i < count - 1; i++) set(first + i, first + i + 1);
    if (count > 0) set(first + count - 1, kind.endMark());
  }

  boolean isData(int cluster) {
    return cluster >= 2 && cluster <= last;
  }

  boolean isBad(int entry) {
    return entry == kind.badMark();
  }

  boolean isEnd(int entry) {
    return entry > kind.badMark();
  }

  byte[] bytes() {
    return b;
  }
}
