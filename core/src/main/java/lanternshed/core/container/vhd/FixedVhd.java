package lanternshed.core.container.vhd;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Optional;
import lanternshed.core.container.Packer;

/**
 * A virtual hard disk of fixed size: the image as it is, and a footer of 512 bytes behind it
 * (Virtual Hard Disk Image Format Specification 1.0, big endian). It begins as any image does and
 * is told by its end.
 */
public final class FixedVhd implements Packer {
  private static final byte[] COOKIE = "conectix".getBytes(StandardCharsets.US_ASCII);
  private static final int SIZE = 512;
  private static final int CREATOR_AT = 28;
  private static final byte[] CREATOR = "lshd".getBytes(StandardCharsets.US_ASCII);
  private static final int ORIGINAL_SIZE = 40;
  private static final int CURRENT_SIZE = 48;
  private static final int TYPE = 60;
  private static final int CHECKSUM = 64;
  private static final int UNIQUE_ID = 68;
  private static final int FIXED = 2;

  /** What 65 535 cylinders of 16 heads and 255 sectors reach. */
  private static final long MOST_BY_CYLINDERS = 65_535L * 16 * 255;

  @Override
  public String key() {
    return "vhd";
  }

  @Override
  public boolean begins(byte[] head) {
    return false;
  }

  @Override
  public boolean packed() {
    return false;
  }

  @Override
  public Content open(InputStream file) {
    return () -> file;
  }

  @Override
  public String extension() {
    return "vhd";
  }

  /**
   * A disk has whole sectors: all of the last one goes out. Programs that read the disk by the
   * cylinders, heads and sectors of its footer would lose what lies behind them, so it is filled up
   * with zeros to the next size that these give; its own size stands in the footer as the original.
   */
  @Override
  public void pack(Parcel parcel, OutputStream to) throws IOException {
    long sectors = parcel.medium().sectors();
    new Parcel(parcel.medium(), parcel.medium().bytes(), parcel.name(), parcel.identity()).copy(to);
    long filled = filled(sectors);
    byte[] zeros = new byte[512];
    for (long s = sectors; s < filled; s++) to.write(zeros);
    to.write(footer(sectors, filled, parcel.identity()));
  }

  /** The next size that is a whole number of cylinders; past the largest the size itself. */
  static long filled(long sectors) {
    if (sectors > MOST_BY_CYLINDERS) return sectors;
    for (long s = sectors; ; s++) {
      int[] chs = geometry(s);
      long by = (long) chs[0] * chs[1] * chs[2];
      if (by >= sectors) return by;
    }
  }

  static byte[] footer(long original, long sectors, byte[] identity) {
    ByteBuffer b = ByteBuffer.allocate(SIZE);
    b.put(COOKIE).putInt(2).putInt(0x0001_0000).putLong(-1).putInt(0);
    b.put(CREATOR).putInt(0x0001_0000).putInt(0);
    b.putLong(original * 512).putLong(sectors * 512);
    int[] chs = geometry(sectors);
    b.putShort((short) chs[0]).put((byte) chs[1]).put((byte) chs[2]).putInt(FIXED).putInt(0);
    b.position(UNIQUE_ID);
    b.put(Arrays.copyOf(identity, 16));
    b.putInt(CHECKSUM, checksum(b.array()));
    return b.array();
  }

  /** The specification's own way from sectors to cylinders, heads and sectors. */
  static int[] geometry(long total) {
    long sectors = Math.min(total, MOST_BY_CYLINDERS);
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

  /** The footers of early programs had 511 bytes. */
  @Override
  public Optional<Long> sectorsBefore(byte[] last, long bytes) {
    if (!ends(last)) return Optional.empty();
    byte[] footer = Arrays.copyOf(last, SIZE);
    ByteBuffer b = ByteBuffer.wrap(footer);
    boolean fixed = b.getInt(TYPE) == FIXED && b.getInt(CHECKSUM) == checksum(footer);
    long sectors = (bytes - last.length) / 512;
    if (!fixed || b.getLong(CURRENT_SIZE) != bytes - last.length) return Optional.empty();
    // Zeros that we filled it up with were no part of the image.
    long original = b.getLong(ORIGINAL_SIZE) / 512;
    boolean ours = Arrays.equals(footer, CREATOR_AT, CREATOR_AT + 4, CREATOR, 0, 4);
    boolean ownEnd = ours && original > 0 && original <= sectors && filled(original) == sectors;
    return Optional.of(ownEnd ? original : sectors);
  }

  @Override
  public boolean ends(byte[] last) {
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
