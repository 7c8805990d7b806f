package lanternshed.core.container.vmdk;

import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.Optional;
import java.util.zip.DataFormatException;
import java.util.zip.Inflater;
import lanternshed.core.container.BlockMap;
import lanternshed.core.container.DiskImage;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;

/**
 * VMDK as one sparse file: grains named by tables in two levels, little endian, in sectors; packed
 * for sending each grain is a zlib stream behind its length. One with a parent is refused.
 */
public final class Vmdk implements DiskImage {
  private static final long MAGIC = 0x564D_444BL;
  private static final int VERSION = 4;
  private static final int FLAGS = 8;
  private static final int CAPACITY = 12;
  private static final int GRAIN = 20;
  private static final int DESCRIPTOR = 28;
  private static final int DESCRIPTOR_SIZE = 36;
  private static final int PER_TABLE = 44;
  private static final int DIRECTORY = 56;
  private static final long PACKED = 1 << 16;
  private static final long AT_END = -1;
  private static final int MOST_DESCRIPTOR = 64;

  @Override
  public String name() {
    return "VMDK";
  }

  @Override
  public Optional<Medium> open(Medium file) {
    if (file.sectors() < 4) return Optional.empty();
    byte[] b = file.sector(0);
    if (Bytes.u32(b, 0) != MAGIC) return Optional.empty();
    long version = Bytes.u32(b, VERSION);
    if (version < 1 || version > 3) throw refused("version " + version);
    long at = Bytes.u64(b, DESCRIPTOR);
    long size = Math.min(MOST_DESCRIPTOR, Bytes.u64(b, DESCRIPTOR_SIZE));
    if (at > 0 && size > 0 && at + size <= file.sectors()) {
      String text = new String(file.sectors(at, (int) size), StandardCharsets.ISO_8859_1);
      if (differs(text)) throw refused("it differs from a parent");
    }
    // Packed for sending, the place of the directory is known only at the end.
    if (Bytes.u64(b, DIRECTORY) == AT_END) {
      b = file.sector(file.sectors() - 2);
      if (Bytes.u32(b, 0) != MAGIC) throw refused("its footer is missing; it was cut off");
    }
    return Optional.of(new Drive(file, b));
  }

  /** Whether a description says that a parent has what is not written here. */
  static boolean differs(String description) {
    String text = description.toLowerCase(Locale.ROOT);
    return text.contains("parentcid=") && !text.contains("parentcid=ffffffff");
  }

  private static ShedException refused(String why) {
    return new ShedException(
        "This VMDK image is not read here: "
            + why
            + ". Convert it to a raw image with the program that made it.");
  }

  private static final class Drive extends BlockMap {
    private final byte[] directory;
    private final int perTable;
    private final boolean packed;
    private final int grainBytes;
    private long cachedTable = -1;
    private byte[] table;
    private long unpackedBlock = -1;
    private byte[] unpacked;

    Drive(Medium file, byte[] b) {
      super(
          file,
          "VMDK",
          Math.max(0, Math.min(1L << 36, Bytes.u64(b, CAPACITY))) * 512,
          Math.max(0, Math.min(1 << 20, Bytes.u64(b, GRAIN))) * 512);
      grainBytes = (int) Bytes.u64(b, GRAIN) * 512;
      perTable = (int) Math.min(1 << 16, Bytes.u32(b, PER_TABLE));
      need(perTable > 0, "its tables have no entry");
      packed = (Bytes.u32(b, FLAGS) & PACKED) != 0;
      long grains = (sectors() * 512 + grainBytes - 1) / grainBytes;
      long tables = (grains + perTable - 1) / perTable;
      need(tables < 1 << 24, "it has too many tables");
      directory = bytes(Bytes.u64(b, DIRECTORY) * 512, (int) tables * 4);
    }

    @Override
    protected long place(long block) {
      long at = Bytes.u32(directory, (int) (block / perTable) * 4);
      if (at == 0) return NOWHERE;
      if (at != cachedTable) {
        table = bytes(at * 512, perTable * 4);
        cachedTable = at;
      }
      long grain = Bytes.u32(table, (int) (block % perTable) * 4);
      // 1 is a grain of zeros that was written.
      return grain <= 1 ? NOWHERE : grain;
    }

    @Override
    protected void readBlock(long block, long place, long from, int count, byte[] into, int at) {
      if (!packed) {
        super.readBlock(block, place, from, count, into, at);
        return;
      }
      if (block != unpackedBlock) {
        unpacked = unpack(place);
        unpackedBlock = block;
      }
      System.arraycopy(unpacked, (int) from * 512, into, at, count * 512);
    }

    private byte[] unpack(long place) {
      byte[] head = bytes(place * 512, 12);
      long length = Bytes.u32(head, 8);
      need(length > 0 && length <= 2L * grainBytes + 1024, "a packed grain has no sensible length");
      Inflater inflater = new Inflater();
      try {
        inflater.setInput(bytes(place * 512 + 12, (int) length));
        byte[] out = new byte[grainBytes];
        int n = 0;
        while (n < out.length) {
          int got = inflater.inflate(out, n, out.length - n);
          if (got == 0) break;
          n += got;
        }
        return out;
      } catch (DataFormatException e) {
        throw damaged("a packed grain does not unpack");
      } finally {
        inflater.end();
      }
    }
  }
}
