package lanternshed.core.volume.fat;

import lanternshed.core.measure.Geometry;

/** The eight floppies of these systems, each with the fields that its boot sector must have. */
public enum Floppy {
  F160K("160K", 40, 1, 8, 0xFE, 1, 64, 1),
  F180K("180K", 40, 1, 9, 0xFC, 1, 64, 2),
  F320K("320K", 40, 2, 8, 0xFF, 2, 112, 1),
  F360K("360K", 40, 2, 9, 0xFD, 2, 112, 2),
  F720K("720K", 80, 2, 9, 0xF9, 2, 112, 3),
  F1200K("1.2M", 80, 2, 15, 0xF9, 1, 224, 7),
  F1440K("1.44M", 80, 2, 18, 0xF0, 1, 224, 9),
  F2880K("2.88M", 80, 2, 36, 0xF0, 2, 240, 9);

  private final String title;
  private final Geometry geometry;
  private final int media;
  private final int sectorsPerCluster;
  private final int rootEntries;
  private final int fatSectors;

  Floppy(String title, int tracks, int sides, int sectors, int media, int spc, int root, int fat) {
    this.title = title;
    this.geometry = new Geometry(tracks, sides, sectors);
    this.media = media;
    this.sectorsPerCluster = spc;
    this.rootEntries = root;
    this.fatSectors = fat;
  }

  public String title() {
    return title;
  }

  public Geometry geometry() {
    return geometry;
  }

  /** The layout of a fresh floppy of this size. */
  public FatLayout layout(String label, long serial) {
    return new FatLayout(
        "LANTERN ",
        512,
        sectorsPerCluster,
        1,
        2,
        rootEntries,
        geometry.total(),
        media,
        fatSectors,
        geometry.sectors(),
        geometry.heads(),
        0,
        0,
        serial,
        label,
        0,
        false);
  }
}
