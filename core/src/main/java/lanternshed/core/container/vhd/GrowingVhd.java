package lanternshed.core.container.vhd;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Optional;
import lanternshed.core.container.BlockMap;
import lanternshed.core.container.DiskImage;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;

/**
 * A virtual hard disk that grows with its content: a copy of the footer first, then a header and a
 * table of blocks, each with a bitmap before it, big endian. One that differs from a parent is
 * refused; one of fixed size is no business of this class.
 */
public final class GrowingVhd implements DiskImage {
  private static final byte[] COOKIE = "conectix".getBytes(StandardCharsets.US_ASCII);
  private static final byte[] HEADER = "cxsparse".getBytes(StandardCharsets.US_ASCII);
  private static final int HEADER_AT = 16;
  private static final int SIZE = 48;
  private static final int TYPE = 60;
  private static final int GROWING = 3;
  private static final int DIFFERING = 4;
  private static final int TABLE_AT = 16;
  private static final int ENTRIES = 28;
  private static final int BLOCK_SIZE = 32;

  @Override
  public String name() {
    return "VHD";
  }

  @Override
  public Optional<Medium> open(Medium file) {
    if (file.sectors() < 4) return Optional.empty();
    byte[] b = file.sector(0);
    if (!Arrays.equals(b, 0, 8, COOKIE, 0, 8)) return Optional.empty();
    long type = Bytes.be32(b, TYPE);
    if (type == DIFFERING) {
      throw new ShedException(
          "This VHD differs from a parent and is not read alone. Join the two with the program that"
              + " made them.");
    }
    if (type != GROWING) {
      throw new ShedException(
          "This begins as a VHD whose blocks lie anywhere, and its kind "
              + type
              + " is none that is known: it is damaged. It is not taken for the drive itself.");
    }
    long at = Bytes.be64(b, HEADER_AT);
    if (at < 512 || at % 512 != 0 || at / 512 + 2 > file.sectors()) {
      throw new ShedException("This VHD is damaged: its header lies outside the file.");
    }
    return Optional.of(new Drive(file, b, file.sectors(at / 512, 2)));
  }

  private static final class Drive extends BlockMap {
    private final byte[] table;
    private final int bitmapSectors;
    private long bitmapOf = -1;
    private byte[] bitmap;

    Drive(Medium file, byte[] footer, byte[] header) {
      super(file, "VHD", Bytes.be64(footer, SIZE), Bytes.be32(header, BLOCK_SIZE));
      need(Arrays.equals(header, 0, 8, HEADER, 0, 8), "its header has no mark");
      long blockBytes = Bytes.be32(header, BLOCK_SIZE);
      long entries = Bytes.be32(header, ENTRIES);
      long needed = (sectors() * 512 + blockBytes - 1) / blockBytes;
      need(entries >= needed && entries < 1 << 26, "its table is too short");
      table = bytes(Bytes.be64(header, TABLE_AT), (int) needed * 4);
      bitmapSectors = (int) ((blockBytes / 512 / 8 + 511) / 512);
    }

    @Override
    protected long place(long block) {
      long at = Bytes.be32(table, (int) block * 4);
      return at == 0xFFFF_FFFFL ? NOWHERE : at;
    }

    @Override
    protected void readBlock(long block, long place, long from, int count, byte[] into, int at) {
      if (block != bitmapOf) {
        bitmap = bytes(place * 512, bitmapSectors * 512);
        bitmapOf = block;
      }
      super.readBlock(block, place + bitmapSectors, from, count, into, at);
      for (int i = 0; i < count; i++) {
        int bit = (int) from + i;
        boolean written = (bitmap[bit / 8] >> 7 - bit % 8 & 1) != 0;
        if (!written) Arrays.fill(into, at + i * 512, at + (i + 1) * 512, (byte) 0);
      }
    }
  }
}
