package lanternshed.core.measure;

/**
 * Cylinders, heads and sectors a track, as one side of the wire counts them. LBA and C/H/S convert
 * exactly: LBA = (C × heads + H) × sectors + (S − 1).
 */
public record Geometry(int cylinders, int heads, int sectors) {
  /** Cylinders that a PC's disk call by C/H/S can name in its ten bits (G-2). */
  public static final int CALLED = 1024;

  public Geometry {
    if (cylinders < 1 || heads < 1 || sectors < 1 || heads > 256 || sectors > 255) {
      throw new ShedException(
          "A geometry of "
              + cylinders
              + " cylinders, "
              + heads
              + " heads and "
              + sectors
              + " sectors a track cannot exist; each must be at least 1, heads at most 256 and sectors"
              + " at most 255.");
    }
  }

  /** What a disk call by C/H/S names of so many sectors, under these heads and sectors a track. */
  public static Geometry called(long total, int heads, int sectors) {
    long cylinders = total / ((long) Math.max(1, heads) * Math.max(1, sectors));
    return new Geometry((int) Math.max(1, Math.min(CALLED, cylinders)), heads, sectors);
  }

  /** Sectors of one cylinder. */
  public long perCylinder() {
    return (long) heads * sectors;
  }

  /** All sectors that this geometry can name. */
  public long total() {
    return cylinders * perCylinder();
  }

  public long toLba(Chs at) {
    return (at.cylinder() * (long) heads + at.head()) * sectors + (at.sector() - 1);
  }

  public Chs toChs(long lba) {
    long track = lba / sectors;
    return new Chs(
        Math.toIntExact(track / heads), (int) (track % heads), (int) (lba % sectors) + 1);
  }

  /** The table's three bytes for an LBA: past cylinder 1023 the largest that can be said. */
  public Chs toTableChs(long lba) {
    return lba / perCylinder() > 1023 ? new Chs(1023, heads - 1, sectors) : toChs(lba);
  }

  /** The sum from a place to its LBA, for the Because drawer. */
  public Sum lbaSum(Chs at) {
    return Sum.of("U-1", "C/H/S to LBA")
        .line("", "cylinder", at.cylinder())
        .line("×", "heads", heads)
        .line("+", "head", at.head())
        .line("=", "track", at.cylinder() * (long) heads + at.head())
        .line("×", "sectors a track", sectors)
        .line("+", "sector − 1", at.sector() - 1)
        .line("=", "LBA", toLba(at))
        .because("Sectors count from 1 on a track, from 0 on the whole medium.")
        .done();
  }

  @Override
  public String toString() {
    return cylinders + " × " + heads + " × " + sectors;
  }
}
