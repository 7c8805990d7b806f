package lanternshed.core.volume.cpm;

import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.volume.Maker;

/**
 * The parameters of a CP/M volume, from which its disk parameter block follows (C-1 to C-3).
 *
 * @param name what kind of medium it is
 * @param offset bytes before the folder: the reserved tracks
 * @param block bytes of a block, 1 to 16 KiB
 * @param entries of the folder
 * @param blocks of the volume, the folder's among them
 */
record CpmLayout(String name, long offset, int block, int entries, int blocks)
    implements Maker.Layout {
  static final String KIND = "CP/M 2.2";
  static final int RECORD = 128;
  static final int ENTRY = 32;

  /** Bytes of one logical extent: what the field EX counts. */
  static final int EXTENT = 16 << 10;

  /** Blocks whose numbers fit one byte. */
  private static final int NARROW = 256;

  private static final int POINTER_BYTES = 16;

  /** Whether block numbers have two bytes (C-2). */
  boolean wide() {
    return blocks > NARROW;
  }

  /** How many block numbers an entry has. */
  int pointers() {
    return wide() ? POINTER_BYTES / 2 : POINTER_BYTES;
  }

  /** How many logical extents one entry describes: EXM + 1 (C-3). */
  int extents() {
    return Math.max(1, (int) ((long) pointers() * block / EXTENT));
  }

  /** Bytes that one entry describes. */
  long entryBytes() {
    return (long) pointers() * block;
  }

  /** Blocks that the folder takes, from the first on (C-5). */
  int folderBlocks() {
    return (entries * ENTRY + block - 1) / block;
  }

  /** The two bytes in which the folder's blocks are marked, the first in the highest bit. */
  int al() {
    return 0xFFFF << 16 - folderBlocks() & 0xFFFF;
  }

  long firstSector(int blockNumber) {
    return (offset + (long) blockNumber * block) / 512;
  }

  @Override
  public String kindName() {
    return KIND;
  }

  @Override
  public int clusterBytes() {
    return block;
  }

  /** Blocks for files. */
  @Override
  public long clusterCount() {
    return blocks - folderBlocks();
  }

  @Override
  public long sectorCount() {
    return (offset + (long) blocks * block + 511) / 512;
  }

  /** F-15: the figures as the machine's own status command shows them. */
  @Override
  public Sum because() {
    return Sum.of("F-15", KIND + ", blocks of " + Say.size(block))
        .line("", "DSM, the highest block", blocks - 1L)
        .line("", "DRM, the highest entry", entries - 1L)
        .line("", "EXM, extents of an entry less one", extents() - 1L)
        .note("AL0, AL1", String.format("%02X %02X", al() >> 8, al() & 0xFF))
        .note("block numbers", wide() ? "two bytes" : "one byte")
        .line("", "blocks of the folder", folderBlocks())
        .line("=", "KiB free when empty", clusterCount() * block / 1024)
        .because(
            "DSM follows from what is reached ÷ block; block numbers have one byte while there are no"
                + " more than 256 blocks; an entry has room for sixteen bytes of them.")
        .done();
  }
}
