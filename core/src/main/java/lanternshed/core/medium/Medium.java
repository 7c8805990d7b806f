package lanternshed.core.medium;

import java.io.Closeable;

/**
 * Anything that holds numbered sectors: a file, a card, a failing drive. Positions and counts are
 * in sectors of {@link #sectorSize()} bytes; buffers are plain byte arrays.
 *
 * <p>Invariant: an access outside 0…{@link #sectors()} is refused with a {@link MediumException};
 * it never grows a medium and never reads short.
 */
public interface Medium extends Closeable {

  /** Bytes of one sector; 512 unless the machine says otherwise. */
  int sectorSize();

  /** How many sectors the medium says it has. */
  long sectors();

  /**
   * Reads {@code count} sectors from {@code lba} into {@code into} at byte {@code at}.
   *
   * @throws UnreadableException where a sector does not come back; names the first such sector
   */
  void read(long lba, int count, byte[] into, int at);

  /**
   * Writes {@code count} sectors to {@code lba} from {@code from} at byte {@code at}.
   *
   * @throws MediumException where the medium is read-only, full or gone
   */
  void write(long lba, int count, byte[] from, int at);

  /**
   * Takes sectors straight out of a file, where this medium lies in a file itself: the kernel
   * copies them, and they do not pass through this program.
   *
   * @param start first sector in {@code from}
   * @param at first sector here
   * @return false where that cannot be; nothing was written then
   * @throws MediumException as {@link #read} and {@link #write} do
   */
  default boolean take(FileMedium from, long start, int count, long at) {
    return false;
  }

  /** The medium's own description in words. */
  String name();

  /** Makes what was written last past a loss of power, as far as the medium can. */
  default void flush() {}

  @Override
  default void close() {}

  default long bytes() {
    return sectors() * sectorSize();
  }

  /** Refuses what lies outside; every implementation calls it first. */
  default void bound(long lba, int count) {
    if (lba < 0 || count < 0 || lba > sectors() - count) {
      throw new MediumException(
          "Sectors "
              + lba
              + " to "
              + (lba + count)
              + " were asked of "
              + name()
              + ", which ends at sector "
              + sectors()
              + ".");
    }
  }

  /** One sector in an array of its own. */
  default byte[] sector(long lba) {
    return sectors(lba, 1);
  }

  /** Some sectors in an array of their own. */
  default byte[] sectors(long lba, int count) {
    bound(lba, count);
    byte[] b = new byte[Math.multiplyExact(count, sectorSize())];
    read(lba, count, b, 0);
    return b;
  }
}
