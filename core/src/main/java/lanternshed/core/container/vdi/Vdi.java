package lanternshed.core.container.vdi;

import java.util.Optional;
import lanternshed.core.container.BlockMap;
import lanternshed.core.container.DiskImage;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;

/** VDI: one table of blocks, little endian. A file that differs from another one is refused. */
public final class Vdi implements DiskImage {
  private static final int MAGIC_AT = 64;
  private static final long MAGIC = 0xBEDA_107FL;
  private static final int TYPE = 76;
  private static final int MAP_OFFSET = 340;
  private static final int DATA_OFFSET = 344;
  private static final int SIZE = 368;
  private static final int BLOCK_SIZE = 376;
  private static final int BLOCKS = 384;
  private static final int GROWING = 1;
  private static final int FIXED = 2;

  @Override
  public String name() {
    return "VDI";
  }

  @Override
  public Optional<Medium> open(Medium file) {
    if (file.sectors() < 2) return Optional.empty();
    byte[] b = file.sector(0);
    if (Bytes.u32(b, MAGIC_AT) != MAGIC) return Optional.empty();
    long type = Bytes.u32(b, TYPE);
    if (type != GROWING && type != FIXED) {
      throw new ShedException(
          "This VDI image differs from another one and is not read alone. Convert it to a raw image"
              + " with the program that made it.");
    }
    return Optional.of(new Drive(file, b));
  }

  private static final class Drive extends BlockMap {
    /** Not given, and zeros. */
    private static final long LEAST_FREE = 0xFFFF_FFFEL;

    private final byte[] map;
    private final long data;
    private final long blockBytes;

    Drive(Medium file, byte[] b) {
      super(file, "VDI", Bytes.u64(b, SIZE), Bytes.u32(b, BLOCK_SIZE));
      blockBytes = Bytes.u32(b, BLOCK_SIZE);
      data = Bytes.u32(b, DATA_OFFSET);
      long blocks = Bytes.u32(b, BLOCKS);
      long needed = (sectors() * 512 + blockBytes - 1) / blockBytes;
      need(blocks >= needed && blocks < 1 << 26, "its table is too short");
      need(data % 512 == 0, "its blocks do not begin on a sector");
      map = bytes(Bytes.u32(b, MAP_OFFSET), (int) needed * 4);
    }

    @Override
    protected long place(long block) {
      long n = Bytes.u32(map, (int) block * 4);
      return n >= LEAST_FREE ? NOWHERE : (data + n * blockBytes) / 512;
    }
  }
}
