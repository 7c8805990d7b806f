package lanternshed.core.container.vhdx;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.HexFormat;
import java.util.Optional;
import lanternshed.core.container.BlockMap;
import lanternshed.core.container.DiskImage;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;

/**
 * VHDX: regions named by GUIDs, a table of blocks in whole MiB, little endian. One whose log has to
 * be replayed, and one with a parent, are refused.
 */
public final class Vhdx implements DiskImage {
  private static final byte[] MARK = "vhdxfile".getBytes(StandardCharsets.US_ASCII);
  private static final long[] HEADERS = {64 << 10, 128 << 10};
  private static final long[] REGIONS = {192 << 10, 256 << 10};
  private static final long HEAD = 0x6461_6568L;
  private static final long REGI = 0x6967_6572L;
  private static final int SEQUENCE = 8;
  private static final int LOG_GUID = 48;
  private static final String BLOCKS = "6677c22d23f600429d64115e9bfd4a08";
  private static final String METADATA = "06a27c8b90479a4bb8fe575f050f886e";
  private static final String PARAMETERS = "3767a1ca36fa434db3b633f0aa44e76b";
  private static final String DISK_SIZE = "2442a52f1bcd7648b2115dbed83bf4b8";
  private static final String SECTOR_SIZE = "1dbf41816fa90947ba47f233a8faab5f";
  private static final int HAS_PARENT = 2;
  private static final int MOST_ENTRIES = 2047;

  @Override
  public String name() {
    return "VHDX";
  }

  @Override
  public Optional<Medium> open(Medium file) {
    if (file.sectors() < 4 || !Arrays.equals(file.sector(0), 0, 8, MARK, 0, 8)) {
      return Optional.empty();
    }
    if (file.sectors() * 512 < 1 << 20) throw refused("it was cut off");
    log(file);
    byte[] regions = regions(file);
    long[] blocks = region(regions, BLOCKS);
    long[] metadata = region(regions, METADATA);
    if (metadata[0] / 512 + 128 > file.sectors()) throw refused("it was cut off");
    byte[] table = file.sectors(metadata[0] / 512, 128);
    byte[] parameters = item(file, metadata[0], table, PARAMETERS, 8);
    if ((Bytes.u32(parameters, 4) & HAS_PARENT) != 0) throw refused("it differs from a parent");
    long size = Bytes.u64(item(file, metadata[0], table, DISK_SIZE, 8), 0);
    long sector = Bytes.u32(item(file, metadata[0], table, SECTOR_SIZE, 4), 0);
    return Optional.of(new Drive(file, size, Bytes.u32(parameters, 0), sector, blocks[0]));
  }

  /** The newer header tells whether the last writes are in the log only. */
  private static void log(Medium file) {
    byte[] newest = null;
    for (long at : HEADERS) {
      byte[] b = file.sector(at / 512);
      if (Bytes.u32(b, 0) != HEAD) continue;
      boolean newer = newest == null || Bytes.u64(b, SEQUENCE) > Bytes.u64(newest, SEQUENCE);
      if (newer) newest = b;
    }
    if (newest == null) throw refused("it has no header");
    if (!Bytes.allZero(newest, LOG_GUID, LOG_GUID + 16)) {
      throw refused("it was not closed properly and its log has to be replayed");
    }
  }

  private static byte[] regions(Medium file) {
    for (long at : REGIONS) {
      byte[] b = file.sectors(at / 512, 128);
      if (Bytes.u32(b, 0) == REGI) return b;
    }
    throw refused("it has no table of regions");
  }

  private static long[] region(byte[] b, String guid) {
    long count = Math.min(MOST_ENTRIES, Bytes.u32(b, 8));
    for (int i = 0; i < count && 16 + (i + 1) * 32 <= b.length; i++) {
      int at = 16 + i * 32;
      if (isGuid(b, at, guid)) return new long[] {Bytes.u64(b, at + 16), Bytes.u32(b, at + 24)};
    }
    throw refused("a region is missing");
  }

  private static byte[] item(Medium file, long base, byte[] table, String guid, int length) {
    int count = Math.min(MOST_ENTRIES, Bytes.u16(table, 10));
    for (int i = 0; i < count && 32 + (i + 1) * 32 <= table.length; i++) {
      int at = 32 + i * 32;
      if (!isGuid(table, at, guid)) continue;
      long place = base + Bytes.u32(table, at + 16);
      if (place < 0 || place / 512 + 2 > file.sectors()) throw refused("it was cut off");
      byte[] b = file.sectors(place / 512, 2);
      int skip = (int) (place % 512);
      return Arrays.copyOfRange(b, skip, skip + length);
    }
    throw refused("a figure is missing");
  }

  private static boolean isGuid(byte[] b, int at, String guid) {
    return HexFormat.of().formatHex(b, at, at + 16).equals(guid);
  }

  private static ShedException refused(String why) {
    return new ShedException(
        "This VHDX image is not read here: "
            + why
            + ". Convert it to a raw image with the program that made it.");
  }

  private static final class Drive extends BlockMap {
    private static final int PRESENT = 6;
    private final byte[] table;
    private final long ratio;

    Drive(Medium file, long size, long blockBytes, long sector, long tableAt) {
      super(file, "VHDX", size, blockBytes);
      need(sector == 512 || sector == 4096, "its sectors have " + sector + " B");
      ratio = (1L << 23) * sector / blockBytes;
      need(ratio > 0, "its blocks are too large");
      long blocks = (size + blockBytes - 1) / blockBytes;
      long entries = blocks + (blocks - 1) / ratio;
      need(entries < 1 << 26, "it has too many blocks");
      table = bytes(tableAt, (int) entries * 8);
    }

    @Override
    protected long place(long block) {
      // After so many blocks stands an entry of a bitmap, which only a file with a parent uses.
      long entry = Bytes.u64(table, (int) (block + block / ratio) * 8);
      return (entry & 7) == PRESENT ? (entry >>> 20) * 2048 : NOWHERE;
    }
  }
}
