package lanternshed.core.medium;

import java.util.Set;

/**
 * Images of small disks whose sectors are shorter than 512 bytes and whose published lengths end
 * within one: their last sector is read as if zeros followed.
 */
public final class SmallDisks {
  private static final int SECTOR = 512;

  /** 683 blocks of 256 B; 717 sectors of 256 B behind three of 128 B; 77 × 26 sectors of 128 B. */
  private static final Set<Long> LENGTHS = Set.of(683L * 256, 717L * 256 + 3 * 128, 77L * 26 * 128);

  private SmallDisks() {}

  /** Sectors of 512 bytes of a file of that length; a tail counts only where it is known. */
  public static long sectors(long bytes) {
    return bytes / SECTOR + (LENGTHS.contains(bytes) ? 1 : 0);
  }
}
