package lanternshed.core.container.qcow2;

import java.util.Optional;
import java.util.zip.DataFormatException;
import java.util.zip.Inflater;
import lanternshed.core.container.BlockMap;
import lanternshed.core.container.DiskImage;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;

/**
 * QCOW2: clusters named by tables in two levels, big endian; single clusters may be packed. A file
 * that builds on another, and an encrypted one, are refused.
 */
public final class Qcow2 implements DiskImage {
  private static final long MAGIC = 0x5146_49FBL;
  private static final int VERSION = 4;
  private static final int BACKING = 8;
  private static final int CLUSTER_BITS = 20;
  private static final int SIZE = 24;
  private static final int CRYPT = 32;
  private static final int L1_SIZE = 36;
  private static final int L1_OFFSET = 40;
  private static final int INCOMPATIBLE = 72;

  /** The dirty bit says that reference counts may be wrong, which reading does not need. */
  private static final long KNOWN = 1;

  @Override
  public String name() {
    return "QCOW2";
  }

  @Override
  public Optional<Medium> open(Medium file) {
    if (file.sectors() < 2) return Optional.empty();
    byte[] b = file.sector(0);
    if (Bytes.be32(b, 0) != MAGIC) return Optional.empty();
    long version = Bytes.be32(b, VERSION);
    if (version != 2 && version != 3) throw refused("version " + version);
    if (Bytes.be64(b, BACKING) != 0) throw refused("it builds on another file");
    if (Bytes.be32(b, CRYPT) != 0) throw refused("it is encrypted");
    if (version == 3 && (Bytes.be64(b, INCOMPATIBLE) & ~KNOWN) != 0) {
      throw refused("it needs features that are not known here");
    }
    return Optional.of(new Drive(file, b));
  }

  private static ShedException refused(String why) {
    return new ShedException(
        "This QCOW2 image is not read here: "
            + why
            + ". Convert it to a raw image with the program that made it.");
  }

  private static final class Drive extends BlockMap {
    private static final long OFFSET = 0x00FF_FFFF_FFFF_FE00L;
    private static final long PACKED = 1L << 62;
    private final int bits;
    private final byte[] l1;
    private final int perL2;
    private long cachedL2 = -1;
    private byte[] l2;
    private long entry;
    private long unpackedBlock = -1;
    private byte[] unpacked;

    Drive(Medium file, byte[] b) {
      super(file, "QCOW2", Bytes.be64(b, SIZE), 1L << Math.min(30, Bytes.be32(b, CLUSTER_BITS)));
      bits = (int) Bytes.be32(b, CLUSTER_BITS);
      need(bits >= 9 && bits <= 21, "clusters of 2 to the " + bits);
      perL2 = 1 << bits - 3;
      long entries = Bytes.be32(b, L1_SIZE);
      long needed = (sectors() * 512 + ((long) perL2 << bits) - 1) / ((long) perL2 << bits);
      need(entries >= needed && needed < 1 << 24, "its first table is too short");
      l1 = bytes(Bytes.be64(b, L1_OFFSET), (int) needed * 8);
    }

    @Override
    protected long place(long block) {
      long table = Bytes.be64(l1, (int) (block / perL2) * 8) & OFFSET;
      if (table == 0) return NOWHERE;
      if (table != cachedL2) {
        l2 = bytes(table, perL2 * 8);
        cachedL2 = table;
      }
      entry = Bytes.be64(l2, (int) (block % perL2) * 8);
      if ((entry & PACKED) != 0) return 0;
      boolean zeros = (entry & 1) != 0;
      long at = entry & OFFSET;
      return at == 0 || zeros ? NOWHERE : at / 512;
    }

    @Override
    protected void readBlock(long block, long place, long from, int count, byte[] into, int at) {
      if ((entry & PACKED) == 0) {
        super.readBlock(block, place, from, count, into, at);
        return;
      }
      if (block != unpackedBlock) {
        unpacked = unpack();
        unpackedBlock = block;
      }
      System.arraycopy(unpacked, (int) from * 512, into, at, count * 512);
    }

    private byte[] unpack() {
      int shift = 62 - (bits - 8);
      long offset = entry & (1L << shift) - 1;
      long more = entry >> shift & (1L << bits - 8) - 1;
      int length = (int) ((more + 1) * 512 - (offset & 511));
      int there = (int) Math.min(length, file.sectors() * 512 - offset);
      need(there > 0, "a packed cluster lies outside the file");
      Inflater inflater = new Inflater(true);
      try {
        inflater.setInput(bytes(offset, there));
        byte[] out = new byte[1 << bits];
        int n = 0;
        while (n < out.length) {
          int got = inflater.inflate(out, n, out.length - n);
          if (got == 0) break;
          n += got;
        }
        need(n == out.length, "a packed cluster is too short");
        return out;
      } catch (DataFormatException e) {
        throw damaged("a packed cluster does not unpack");
      } finally {
        inflater.end();
      }
    }
  }
}
