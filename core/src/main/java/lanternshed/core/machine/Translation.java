package lanternshed.core.machine;

import lanternshed.core.measure.Geometry;

/** How firmware turns a drive's own geometry into the one that its disk call shows. */
public enum Translation {
  NONE("none"),
  BIT_SHIFT("bit-shift"),
  REVISED_BIT_SHIFT("revised bit-shift"),
  ASSISTED("assisted");

  private final String title;

  Translation(String title) {
    this.title = title;
  }

  public String title() {
    return title;
  }

  /**
   * The geometry of a drive as ATA reports it: 16 heads, 63 sectors, and at most 16 383 cylinders;
   * its true size is the LBA count only.
   */
  public static Geometry reported(long sectors) {
    return new Geometry((int) Math.max(1, Math.min(16_383, sectors / 1008)), 16, 63);
  }

  /**
   * What the disk call shows for a drive.
   *
   * @param drive the drive's own geometry
   * @param sectors all sectors of the drive, for the assisted form
   */
  public Geometry of(Geometry drive, long sectors) {
    return switch (this) {
      case NONE -> clip(drive.cylinders(), drive.heads(), drive.sectors());
      case BIT_SHIFT -> shift(drive.cylinders(), drive.heads(), drive.sectors(), 128);
      case REVISED_BIT_SHIFT -> {
        boolean revise = drive.cylinders() > 8192 && drive.heads() == 16;
        yield revise
            ? shift(drive.cylinders() * 16 / 15, 15, drive.sectors(), 240)
            : shift(drive.cylinders(), drive.heads(), drive.sectors(), 128);
      }
      case ASSISTED -> {
        int heads = 16;
        while (heads < 255 && sectors > (long) Geometry.CALLED * heads * 63) {
          heads = heads == 128 ? 255 : heads * 2;
        }
        long cylinders = sectors / ((long) heads * 63);
        yield clip((int) Math.max(1, Math.min(Geometry.CALLED, cylinders)), heads, 63);
      }
    };
  }

  private static Geometry shift(int cylinders, int heads, int sectors, int mostHeads) {
    while (cylinders > Geometry.CALLED && heads * 2 <= mostHeads) {
      cylinders /= 2;
      heads *= 2;
    }
    return clip(cylinders, heads, sectors);
  }

  private static Geometry clip(int cylinders, int heads, int sectors) {
    return new Geometry(Math.min(Geometry.CALLED, cylinders), heads, sectors);
  }
}
