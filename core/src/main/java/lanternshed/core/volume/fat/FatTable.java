package lanternshed.core.volume.fat;

import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.Map;
import lanternshed.core.measure.Say;
import lanternshed.core.medium.Medium;

/**
 * One copy of a file allocation table; entry n says what follows cluster n. Up to 64 MiB it is held
 * in memory; a larger one, which only FAT32 has, is read by pages, and what is set in it is kept
 * beside.
 */
final class FatTable {
  /** Enough for 16 million clusters. */
  static final long MOST_HELD = 64 * Say.MIB;

  private static final int PAGE = 64 << 10;
  private static final int MOST_PAGES = 256;

  private final FatKind kind;
  private final int last;

  /** The whole table; null where it is read by pages. */
  private final byte[] b;

  private final Pages pages;

  private FatTable(FatKind kind, byte[] b, Pages pages, int clusters) {
    this.kind = kind;
    this.b = b;
    this.pages = pages;
    this.last = clusters + 1;
  }

  /** An empty table with its two first entries set. */
  static FatTable fresh(FatLayout l) {
    FatTable t =
        new FatTable(
            l.kind(),
            new byte[Math.toIntExact(l.fatSectors() * l.bytesPerSector())],
            null,
            l.clusters());
    t.set(0, l.kind().endMark() & ~0xFF | l.media());
    t.set(1, l.kind().endMark());
    return t;
  }

  /** Reads copy {@code copy}, counted from 0; only as much as the clusters need. */
  static FatTable read(Medium m, FatLayout l, int copy) {
    long need = l.kind().tableBytes(l.clusters());
    int perSector = l.bytesPerSector() / m.sectorSize();
    long at = (l.fatStart() + copy * l.fatSectors()) * perSector;
    if (need > MOST_HELD) return new FatTable(l.kind(), null, new Pages(m, at), l.clusters());
    int count = (int) ((need + m.sectorSize() - 1) / m.sectorSize());
    byte[] b = new byte[count * m.sectorSize() + 1];
    long there = Math.max(0, Math.min(count, m.sectors() - at));
    if (there > 0) m.read(at, (int) there, b, 0);
    return new FatTable(l.kind(), b, null, l.clusters());
  }

  /** All sectors of a copy as they lie on the medium; zero past its end. */
  static byte[] onDisk(Medium m, FatLayout l, int copy) {
    int per = l.bytesPerSector() / m.sectorSize();
    long at = (l.fatStart() + copy * l.fatSectors()) * per;
    int count = Math.toIntExact(l.fatSectors() * per);
    byte[] out = new byte[count * m.sectorSize()];
    int there = (int) Math.max(0, Math.min(count, m.sectors() - at));
    if (there > 0) m.read(at, there, out, 0);
    return out;
  }

  /**
   * Makes what lies on disk say the same as this table: bits that mean nothing, and the mark by
   * which the end of a chain is written, stay as they are.
   *
   * @param disk bytes of a copy
   * @param was the same copy as a table
   */
  void into(byte[] disk, FatTable was) {
    FatTable out = new FatTable(kind, disk, null, last - 1);
    for (int n = 0; n <= last; n++) {
      int before = was.get(n);
      int now = get(n);
      if (before == now || n > 1 && isEnd(before) && isEnd(now)) continue;
      int reserved = kind == FatKind.FAT32 ? disk[4 * n + 3] & 0xF0 : 0;
      out.set(n, now | reserved << 24);
    }
  }

  /** A table of its own with the same entries. */
  FatTable copy() {
    return pages == null
        ? new FatTable(kind, b.clone(), null, last - 1)
        : new FatTable(kind, null, new Pages(pages.medium, pages.at), last - 1);
  }

  /** Whether all of it is in memory. */
  boolean held() {
    return pages == null;
  }

  /** The first entry in which two tables differ; -1 where they are the same. */
  int firstDifference(FatTable other) {
    if (pages == null && java.util.Arrays.equals(b, other.b)) return -1;
    int per = PAGE / 4;
    for (int n = 0; n <= last; n++) {
      boolean pageStart = pages != null && n % per == 0;
      if (pageStart && java.util.Arrays.equals(pages.page(n / per), other.pages.page(n / per))) {
        n += per - 1;
      } else if (get(n) != other.get(n)) return n;
    }
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
      case FAT32 -> pages == null ? wide(b, 4 * n) : pages.get(n);
    };
  }

  private static int wide(byte[] b, int at) {
    return (b[at] & 0xFF | (b[at + 1] & 0xFF) << 8 | (b[at + 2] & 0xFF) << 16 | b[at + 3] << 24)
        & 0x0FFF_FFFF;
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
        if (pages != null) pages.changed.put(n, v & 0x0FFF_FFFF);
        else for (int i = 0; i < 4; i++) b[4 * n + i] = (byte) (v >> 8 * i);
      }
    }
  }

  /** A table of 32 bits an entry, of which some pages are in memory. */
  private static final class Pages {
    private final Medium medium;
    private final long at;
    private final Map<Integer, Integer> changed = new HashMap<>();
    private final Map<Integer, byte[]> kept =
        new LinkedHashMap<>(64, 0.75f, true) {
          private static final long serialVersionUID = 1;

          @Override
          protected boolean removeEldestEntry(Map.Entry<Integer, byte[]> eldest) {
            return size() > MOST_PAGES;
          }
        };
    private int current = -1;
    private byte[] page;

    Pages(Medium medium, long at) {
      this.medium = medium;
      this.at = at;
    }

    synchronized int get(int n) {
      if (!changed.isEmpty()) {
        Integer c = changed.get(n);
        if (c != null) return c;
      }
      int number = n / (PAGE / 4);
      if (number != current) {
        page = page(number);
        current = number;
      }
      return wide(page, n % (PAGE / 4) * 4);
    }

    /** What lies past the medium's end is zero. */
    synchronized byte[] page(int number) {
      byte[] b = kept.get(number);
      if (b != null) return b;
      b = new byte[PAGE];
      int count = PAGE / medium.sectorSize();
      long from = at + (long) number * count;
      int there = (int) Math.max(0, Math.min(count, medium.sectors() - from));
      if (there > 0) medium.read(from, there, b, 0);
      kept.put(number, b);
      return b;
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
