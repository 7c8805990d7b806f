package lanternshed.core.table.mbr;

import lanternshed.core.measure.Bytes;
import lanternshed.core.medium.Medium;

/**
 * In which sectors a table counts. It does not say so itself: it counts in those of the drive it
 * was written on, and an image of a drive with sectors of 4 096 bytes has its volumes eight times
 * as far in as sectors of 512. Their boot records tell it: the one at the right place says that its
 * sectors are of just this size.
 */
final class CountedIn {
  private static final int BYTES_PER_SECTOR = 11;
  private static final int ENTRIES = 4;

  private CountedIn() {}

  /**
   * Sectors of 512 bytes in one that the table counts: 1, 2, 4 or 8. More than 1 only where no
   * entry leads to a boot record as it stands, and one does in larger sectors.
   */
  static int sectors(Medium medium, byte[] table) {
    for (int per : new int[] {1, 2, 4, 8}) {
      for (int i = 0; i < ENTRIES; i++) {
        int at = Mbr.ENTRIES_AT + i * Mbr.ENTRY_BYTES;
        long start = Bytes.u32(table, at + 8);
        if (Bytes.u8(table, at + 4) == 0 || start == 0) continue;
        if (bootRecord(medium, start * per, per)) return per;
      }
    }
    return 1;
  }

  private static boolean bootRecord(Medium medium, long sector, int per) {
    if (sector >= medium.sectors()) return false;
    byte[] b = medium.sector(sector);
    if (!Mbr.marked(b)) return false;
    // A volume that counts in larger sectors than its table is known as well, by 55 AA alone.
    return per == 1 || Bytes.u16(b, BYTES_PER_SECTOR) == per * 512;
  }
}
