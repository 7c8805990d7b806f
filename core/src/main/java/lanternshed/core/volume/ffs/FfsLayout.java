package lanternshed.core.volume.ffs;

import java.util.List;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Sum;
import lanternshed.core.volume.Maker;

/**
 * The figures of an OFS or FFS volume of blocks of 512 bytes.
 *
 * @param flag the figure behind "DOS": bit 0 FFS, 2 and 3 international, 4 and 5 with a cache of
 *     each folder's names
 * @param sectorCount blocks of the volume
 * @param label "" where none was asked for
 * @param stamp packed date and time of what has none of its own
 */
record FfsLayout(int flag, long sectorCount, String label, int stamp) implements Maker.Layout {
  /** Names by the figure of the boot block. */
  static final List<String> KINDS =
      List.of("OFS", "FFS", "OFS-INTL", "FFS-INTL", "OFS-DC", "FFS-DC");

  /** Blocks of the boot block. */
  static final int RESERVED = 2;

  static final int BOOT_CHECKSUM = 4;
  static final int BOOT_ROOT = 8;
  static final int BOOT_CODE = 12;

  /** What a hard link means, and what the next cache block is. */
  static final int REAL_ENTRY = 468;

  static final int NEXT_CACHE = 16;

  /** The text that a started system runs. */
  static final String START_FILE = "S/Startup-Sequence";

  private static final int FAST = 1;

  boolean fast() {
    return (flag & FAST) != 0;
  }

  boolean international() {
    return flag >= 2;
  }

  boolean cached() {
    return flag >= 4;
  }

  /** The middle of the volume. */
  long root() {
    return (RESERVED + sectorCount - 1) / 2;
  }

  long bitmapBlocks() {
    return (sectorCount - RESERVED + FfsBlock.BITMAP_BITS - 1) / FfsBlock.BITMAP_BITS;
  }

  long bitmapExtensions() {
    long more = bitmapBlocks() - FfsBlock.PAGES;
    return more <= 0 ? 0 : (more + FfsBlock.EXTENSION_PAGES - 1) / FfsBlock.EXTENSION_PAGES;
  }

  /** The first block behind root and bitmap, as this program lays them down. */
  long behindMiddle() {
    return root() + 1 + bitmapBlocks() + bitmapExtensions();
  }

  /** Whether a block can hold something. */
  boolean holds(long block) {
    return block >= RESERVED && block < sectorCount;
  }

  int payload() {
    return fast() ? FfsBlock.BYTES : FfsBlock.BYTES - FfsBlock.PAYLOAD;
  }

  long dataBlocks(long bytes) {
    return (bytes + payload() - 1) / payload();
  }

  /** Blocks with further pointers that a file of that many data blocks needs. */
  static long extensionBlocks(long data) {
    return data <= FfsBlock.SLOTS ? 0 : (data - 1) / FfsBlock.SLOTS;
  }

  @Override
  public String kindName() {
    return KINDS.get(flag);
  }

  @Override
  public int clusterBytes() {
    return FfsBlock.BYTES;
  }

  /** Blocks for files and folders: all but boot block, root and bitmap. */
  @Override
  public long clusterCount() {
    return sectorCount - RESERVED - 1 - bitmapBlocks() - bitmapExtensions();
  }

  @Override
  public Sum because() {
    return Sum.of("A-2", kindName())
        .line("", "blocks of the volume", sectorCount)
        .line("−", "boot block", RESERVED)
        .line("−", "root block, at " + root(), 1)
        .line("−", "blocks of the bitmap, 4 064 bits each", bitmapBlocks() + bitmapExtensions())
        .line("=", "blocks for files and folders", clusterCount())
        .because(
            "The root block stands in the middle: (2 + highest) ÷ 2; the bitmap has one bit for each"
                + " block behind the boot block.")
        .done();
  }

  /** What the checksum of a boot block has to be: all longs add up with carry to all ones. */
  static long bootSum(byte[] boot) {
    long sum = 0;
    for (int i = 0; i < RESERVED * FfsBlock.BYTES; i += 4) {
      if (i == BOOT_CHECKSUM) continue;
      sum += Bytes.be32(boot, i);
      if (sum > 0xFFFF_FFFFL) sum = (sum & 0xFFFF_FFFFL) + 1;
    }
    return ~sum & 0xFFFF_FFFFL;
  }
}
