package lanternshed.core.volume.twosector;

import lanternshed.core.measure.Sum;
import lanternshed.core.volume.Maker;

/**
 * The figures of a small disk with a two-sector catalogue.
 *
 * @param sectors of 256 bytes, as its catalogue says
 * @param title at most twelve letters
 * @param option what the machine does with it at a start: 0 nothing, 1 load, 2 run, 3 type in
 * @param cycle how often the catalogue was written, two decimal digits
 */
record CatalogueLayout(int sectors, String title, int option, int cycle) implements Maker.Layout {
  static final String KIND = "two-sector catalogue";
  static final int SECTOR = 256;
  static final int CATALOGUE = 2;
  static final int MOST_FILES = 31;
  static final int ENTRY = 8;
  static final int TITLE_FIRST = 8;
  static final int MOST_TITLE = 12;
  static final int CYCLE_AT = SECTOR + 4;
  static final int COUNT_AT = SECTOR + 5;
  static final int HIGH_AT = SECTOR + 6;
  static final int LOW_AT = SECTOR + 7;

  /** Forty and eighty tracks of ten sectors. */
  static final int SMALL = 400;

  static final int LARGE = 800;

  /** A file's length has 18 bits. */
  static final int MOST_BYTES = (1 << 18) - 1;

  @Override
  public String kindName() {
    return KIND;
  }

  @Override
  public int clusterBytes() {
    return SECTOR;
  }

  @Override
  public long clusterCount() {
    return sectors - CATALOGUE;
  }

  @Override
  public long sectorCount() {
    return sectors / 2;
  }

  @Override
  public Sum because() {
    return Sum.of("F-16", KIND)
        .line("", "tracks", sectors / 10)
        .line("×", "sectors of 256 B a track", 10)
        .line("−", "the catalogue", CATALOGUE)
        .line("=", "sectors for files", clusterCount())
        .because("Thirty-one files at most, each in one piece; names of seven letters.")
        .done();
  }
}
