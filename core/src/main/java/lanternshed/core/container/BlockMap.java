package lanternshed.core.container;

import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MediumException;

/**
 * A drive in blocks of one size, of which each lies somewhere in a file or nowhere. An implementer
 * says where; bounds, edges and zeros are kept here.
 */
public abstract class BlockMap implements Medium {
  /** No drive of the machines this program serves is larger: 16 TiB. */
  private static final long MOST_SECTORS = 1L << 35;

  /** A block that reads as zeros. */
  protected static final long NOWHERE = -1;

  protected final Medium file;
  private final String kind;
  private final long sectors;
  private final long blockSectors;

  /**
   * @param bytes length of the drive
   * @param blockBytes length of a block, a multiple of 512
   */
  protected BlockMap(Medium file, String kind, long bytes, long blockBytes) {
    this.file = file;
    this.kind = kind;
    this.sectors = bytes / 512;
    this.blockSectors = blockBytes / 512;
    need(bytes >= 512 && sectors <= MOST_SECTORS, "its drive would have " + bytes + " B");
    need(
        blockBytes >= 512 && blockBytes % 512 == 0 && blockBytes <= 1 << 28,
        "its blocks would have " + blockBytes + " B");
  }

  /** What cannot be, in a sentence. */
  protected final void need(boolean holds, String otherwise) {
    if (!holds) throw damaged(otherwise);
  }

  protected final ShedException damaged(String why) {
    return new ShedException(
        "This " + kind + " image is damaged or not of the published form: " + why + ".");
  }

  /**
   * Where a block begins in the file, in sectors; {@link #NOWHERE} for zeros.
   *
   * @param block counted from 0
   */
  protected abstract long place(long block);

  /** Reads part of one block that lies somewhere; packed blocks are unpacked here. */
  protected void readBlock(long block, long place, long from, int count, byte[] into, int at) {
    need(place >= 0 && place + from + count <= file.sectors(), "a block lies outside the file");
    file.read(place + from, count, into, at);
  }

  @Override
  public final int sectorSize() {
    return 512;
  }

  @Override
  public final long sectors() {
    return sectors;
  }

  @Override
  public final synchronized void read(long lba, int count, byte[] into, int at) {
    bound(lba, count);
    while (count > 0) {
      long block = lba / blockSectors;
      long from = lba % blockSectors;
      int n = (int) Math.min(count, blockSectors - from);
      long place = place(block);
      if (place == NOWHERE) java.util.Arrays.fill(into, at, at + n * 512, (byte) 0);
      else readBlock(block, place, from, n, into, at);
      lba += n;
      count -= n;
      at += n * 512;
    }
  }

  @Override
  public final void write(long lba, int count, byte[] from, int at) {
    throw new MediumException("A " + kind + " image is read only.");
  }

  @Override
  public final void flush() {
    // Nothing is written.
  }

  @Override
  public final void close() {
    file.close();
  }

  @Override
  public final String name() {
    return file.name();
  }

  /**
   * Bytes of the file from any place on.
   *
   * @throws ShedException where the file ends before them
   */
  protected final byte[] bytes(long from, int length) {
    long first = from / 512;
    long count = (from + length + 511) / 512 - first;
    need(from >= 0 && first + count <= file.sectors(), "what it points to lies outside the file");
    byte[] b = file.sectors(first, (int) count);
    int skip = (int) (from - first * 512);
    return java.util.Arrays.copyOfRange(b, skip, skip + length);
  }
}
