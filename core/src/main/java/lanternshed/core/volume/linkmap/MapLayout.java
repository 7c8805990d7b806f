package lanternshed.core.volume.linkmap;

import lanternshed.core.measure.Sum;
import lanternshed.core.volume.Maker;

/**
 * The figures of a disk of linked blocks with a map. A block is 256 bytes, two of which name the
 * next one.
 *
 * @param tracks 35, 40 or 80
 * @param title at most sixteen letters
 * @param id two letters, by which a drive notices that a disk was changed
 */
record MapLayout(int tracks, String title, String id) implements Maker.Layout {
  static final String KIND = "link-and-map";
  static final int BLOCK = 256;
  static final int DATA = 254;
  static final int MOST_NAME = 16;
  static final int ENTRY = 32;
  static final int ENTRIES = 8;

  /** Tracks of one zone and blocks of each of them; inner tracks are shorter. */
  private static final int[][] ZONES = {{17, 21}, {24, 19}, {30, 18}, {40, 17}};

  private static final int LARGE = 80;
  private static final int LARGE_BLOCKS = 40;

  boolean large() {
    return tracks == LARGE;
  }

  /** The track of map and catalogue. */
  int middle() {
    return large() ? 40 : 18;
  }

  /** The block at which the catalogue begins. */
  int firstOfCatalogue() {
    return large() ? 3 : 1;
  }

  /** How many blocks lie between one of a file and the next, so that the drive keeps up. */
  int interleave() {
    return large() ? 1 : 10;
  }

  /** Blocks of a track, counted from 1. */
  int blocks(int track) {
    if (large()) return LARGE_BLOCKS;
    for (int[] z : ZONES) if (track <= z[0]) return z[1];
    return 0;
  }

  int blocks() {
    int n = 0;
    for (int t = 1; t <= tracks; t++) n += blocks(t);
    return n;
  }

  boolean has(int track, int block) {
    return track >= 1 && track <= tracks && block >= 0 && block < blocks(track);
  }

  /** First byte of a block that the disk has. */
  int at(int track, int block) {
    int n = block;
    for (int t = 1; t < track; t++) n += blocks(t);
    return n * BLOCK;
  }

  /** Writes track and block of a block's first byte. */
  void name(byte[] disk, int at, int first) {
    int n = first / BLOCK;
    int track = 1;
    while (n >= blocks(track)) n -= blocks(track++);
    disk[at] = (byte) track;
    disk[at + 1] = (byte) n;
  }

  /** Entries of the catalogue, which stays on its track. */
  int mostFiles() {
    return (blocks(middle()) - firstOfCatalogue()) * ENTRIES;
  }

  @Override
  public String kindName() {
    return KIND;
  }

  /** Bytes of a file in one block. */
  @Override
  public int clusterBytes() {
    return DATA;
  }

  @Override
  public long clusterCount() {
    return blocks() - (long) blocks(middle());
  }

  @Override
  public long sectorCount() {
    return (byteCount() + 511) / 512;
  }

  @Override
  public long byteCount() {
    return (long) blocks() * BLOCK;
  }

  @Override
  public Sum because() {
    return Sum.of("F-16", KIND)
        .line("", "blocks of 256 B on " + tracks + " tracks", blocks())
        .line("−", "the track of map and catalogue", blocks(middle()))
        .line("=", "blocks for files", clusterCount())
        .because("Two bytes of each block name the next, so 254 are a file's.")
        .done();
  }
}
