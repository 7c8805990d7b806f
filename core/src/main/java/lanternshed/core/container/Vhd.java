package lanternshed.core.container;

import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Optional;

/**
 * The footer of a virtual hard disk of fixed size: the image as it is, and 512 bytes behind it
 * (Virtual Hard Disk Image Format Specification 1.0, big endian).
 */
final class Vhd {
  static final byte[] COOKIE = "conectix".getBytes(StandardCharsets.US_ASCII);
  private static final int SIZE = 512;
  private static final int CURRENT_SIZE = 48;
  private static final int TYPE = 60;
  private static final int CHECKSUM = 64;
  private static final int UNIQUE_ID = 68;
  private static final int FIXED = 2;

  private Vhd() {}

  static byte[] footer(long sectors, byte[] identity) {
    ByteBuffer b = ByteBuffer.allocate(SIZE);
    b.put(COOKIE).putInt(2).putInt(0x0001_0000).putLong(-1).putInt(0);
    b.put("lshd".getBytes(StandardCharsets.US_ASCII)).putInt(0x0001_0000).putInt(0);
    b.putLong(sectors * 512).putLong(sectors * 512);
    int[] chs = geometry(sectors);
    b.putShort((short) chs[0]).put((byte) chs[1]).put((byte) chs[2]).putInt(FIXED).putInt(0);
    b.position(UNIQUE_ID);
    b.put(Arrays.copyOf(identity, 16));
    b.putInt(CHECKSUM, checksum(b.array()));
    return b.array();
  }

  /** The specification's own way from sectors to cylinders, heads and sectors. */
  static int[] geometry(long total) {
    long sectors = Math.min(total, 65_535L * 16 * 255);
    int perTrack;
    int heads;
    long tracks;
    if (sectors >= 65_535L * 16 * 63) {
      perTrack = 255;
      heads = 16;
      tracks = sectors / perTrack;
    } else {
      perTrack = 17;
      tracks = sectors / perTrack;
      heads = (int) Math.max(4, (tracks + 1023) / 1024);
      if (tracks >= heads * 1024L || heads > 16) {
        perTrack = 31;
        heads = 16;
        tracks = sectors / perTrack;
      }
      if (tracks >= heads * 1024L) {
        perTrack = 63;
        heads = 16;
        tracks = sectors / perTrack;
      }
    }
    return new int[] {(int) (tracks / heads), heads, perTrack};
  }

  /**
   * Sectors of the image before a true footer of fixed size; empty where this is none.
   *
   * @param last the last 512 bytes, or the last 511: so long were the footers of early programs
   */
  static Optional<Long> sectors(byte[] last, long bytes) {
    if (!begins(last)) return Optional.empty();
    byte[] footer = Arrays.copyOf(last, SIZE);
    ByteBuffer b = ByteBuffer.wrap(footer);
    boolean fixed = b.getInt(TYPE) == FIXED && b.getInt(CHECKSUM) == checksum(footer);
    return fixed && b.getLong(CURRENT_SIZE) == bytes - last.length
        ? Optional.of((bytes - last.length) / 512)
        : Optional.empty();
  }

  /** Whether it begins as a footer does, right or not. */
  static boolean begins(byte[] last) {
    return last.length >= SIZE - 1 && Arrays.equals(last, 0, 8, COOKIE, 0, 8);
  }

  private static int checksum(byte[] footer) {
    int sum = 0;
    for (int i = 0; i < SIZE; i++) {
      if (i < CHECKSUM || i >= CHECKSUM + 4) sum += footer[i] & 0xFF;
    }
    return ~sum;
  }
}
