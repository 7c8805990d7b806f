package lanternshed.core.volume.fat;

import java.util.Optional;
import lanternshed.core.measure.Bytes;
import lanternshed.core.medium.Medium;

/**
 * The information sector of FAT32: the free count that systems trust without counting (FAT
 * specification 1.03, chapter 5).
 *
 * @param lba sector of the volume
 * @param free the count that stands there
 */
record FsInfo(long lba, long free) {
  private static final int FSINFO_AT = 48;
  private static final int FREE = 488;
  private static final long LEAD = 0x4161_5252L;
  private static final long STRUCTURE = 0x6141_7272L;
  private static final int STRUCTURE_AT = 484;

  /** A free count that says "not known". */
  static final long UNKNOWN = 0xFFFF_FFFFL;

  /** The sector where a FAT32 volume has a valid one. */
  static Optional<FsInfo> read(Medium m, FatLayout l) {
    if (l.kind() != FatKind.FAT32) return Optional.empty();
    int at = Bytes.u16(m.sector(0), FSINFO_AT);
    long lba = (long) at * (l.bytesPerSector() / 512);
    if (at == 0 || at >= l.reserved() || lba >= m.sectors()) return Optional.empty();
    byte[] b = m.sector(lba);
    boolean valid = Bytes.u32(b, 0) == LEAD && Bytes.u32(b, STRUCTURE_AT) == STRUCTURE;
    return valid ? Optional.of(new FsInfo(lba, Bytes.u32(b, FREE))) : Optional.empty();
  }

  /** Free clusters by the table itself. */
  static long count(FatTable table) {
    long free = 0;
    for (int n = 2; n <= table.last(); n++) if (table.get(n) == 0) free++;
    return free;
  }

  void write(Medium m, long newFree) {
    byte[] b = m.sector(lba);
    Bytes.put32(b, FREE, newFree);
    m.write(lba, 1, b, 0);
  }
}
