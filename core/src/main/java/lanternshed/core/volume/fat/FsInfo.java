package lanternshed.core.volume.fat;

import lanternshed.core.measure.Bytes;
import lanternshed.core.medium.Medium;

/**
 * The information sector of FAT32: the free count that systems trust without counting (FAT
 * specification 1.03, chapter 5).
 */
final class FsInfo {
  private static final int FREE = 488;
  private static final int NEXT = 492;
  private static final long LEAD = 0x4161_5252L;
  private static final long STRUCTURE = 0x6141_7272L;
  private static final int STRUCTURE_AT = 484;
  private static final int MARK_AT = 510;

  /** A free count that says "not known". */
  static final long UNKNOWN = 0xFFFF_FFFFL;

  private FsInfo() {}

  /** Whether a sector carries the three marks. */
  static boolean isOne(byte[] b) {
    return Bytes.u32(b, 0) == LEAD
        && Bytes.u32(b, STRUCTURE_AT) == STRUCTURE
        && Bytes.u16(b, MARK_AT) == 0xAA55;
  }

  static long free(byte[] b) {
    return Bytes.u32(b, FREE);
  }

  /** Free clusters by the table itself. */
  static long count(FatTable table) {
    long free = 0;
    for (int n = 2; n <= table.last(); n++) if (table.get(n) == 0) free++;
    return free;
  }

  /** Writes marks and count; where the hint for the next free cluster is nonsense it is unset. */
  static void write(Medium m, long lba, long free) {
    byte[] b = m.sector(lba);
    if (!isOne(b)) {
      b = new byte[512];
      Bytes.put32(b, 0, LEAD);
      Bytes.put32(b, STRUCTURE_AT, STRUCTURE);
      Bytes.put16(b, MARK_AT, 0xAA55);
      Bytes.put32(b, NEXT, UNKNOWN);
    }
    if (free(b) != UNKNOWN || Bytes.u32(b, NEXT) == UNKNOWN) Bytes.put32(b, FREE, free);
    m.write(lba, 1, b, 0);
  }
}
