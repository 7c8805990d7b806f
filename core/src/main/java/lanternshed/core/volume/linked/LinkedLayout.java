package lanternshed.core.volume.linked;

import lanternshed.core.measure.Sum;
import lanternshed.core.volume.Maker;

/**
 * The figures of a disk of 720 linked sectors, counted from 1.
 *
 * @param sectorBytes 128 or 256
 * @param shortHead whether an image of 256-byte sectors keeps 128 bytes of its first three, as the
 *     drive reads them
 * @param boot the first three sectors, 128 bytes of each
 */
record LinkedLayout(int sectorBytes, boolean shortHead, byte[] boot) implements Maker.Layout {
  static final String KIND = "linked-sector";
  static final int SECTORS = 720;
  static final int MAP = 360;
  static final int CATALOGUE = 361;
  static final int CATALOGUE_SECTORS = 8;
  static final int ENTRY = 16;
  static final int ENTRIES = 8;
  static final int MOST_FILES = CATALOGUE_SECTORS * ENTRIES;
  static final int BOOT = 3;
  static final int SHORT = 128;

  /** Three bytes at a sector's end: the file's number, the next sector, how many bytes are used. */
  static final int TRAIL = 3;

  /** Sectors 1 to 719 without start, map and catalogue: the last has no bit in the map. */
  static final int FOR_FILES = SECTORS - 1 - BOOT - 1 - CATALOGUE_SECTORS;

  /** First byte of a sector. */
  int at(int sector) {
    if (!shortHead || sector <= BOOT) return (sector - 1) * (shortHead ? SHORT : sectorBytes);
    return BOOT * SHORT + (sector - 1 - BOOT) * sectorBytes;
  }

  int data() {
    return sectorBytes - TRAIL;
  }

  @Override
  public String kindName() {
    return KIND;
  }

  @Override
  public int clusterBytes() {
    return data();
  }

  @Override
  public long clusterCount() {
    return FOR_FILES;
  }

  @Override
  public long sectorCount() {
    return (byteCount() + 511) / 512;
  }

  @Override
  public long byteCount() {
    return at(SECTORS) + (long) sectorBytes;
  }

  @Override
  public Sum because() {
    return Sum.of("F-16", KIND)
        .line("", "sectors of " + sectorBytes + " B", SECTORS)
        .line("−", "start", BOOT)
        .line("−", "map", 1)
        .line("−", "catalogue", CATALOGUE_SECTORS)
        .line("−", "the last, which has no bit in the map", 1)
        .line("=", "sectors for files", FOR_FILES)
        .because("Three bytes of each name its file and the next sector: " + data() + " are data.")
        .done();
  }
}
