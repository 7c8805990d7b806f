package lanternshed.core.family;

import lanternshed.core.measure.Geometry;

/**
 * Where the volumes of a new card may lie.
 *
 * @param first the first sector that a volume may have
 * @param step starts are multiples of it
 * @param flashStep the multiple that satisfies flash too (G-16)
 * @param endStep ends are multiples of it
 * @param most how many volumes the table itself has room for
 * @param plain how many stand in it when there are more; each of the others has a table of its own
 *     before it, in a container
 */
public record Grid(long first, long step, long flashStep, long endStep, int most, int plain) {
  private static final int ANY = Integer.MAX_VALUE;

  /** Flash is erased in blocks; starts at multiples of 4 MiB spare it work (G-16). */
  public static final long FLASH_STEP = 8192;

  /** What a start for both schools may cost of a card: a sixteenth. */
  private static final int MOST_SHARE = 16;

  /** Both schools hold with one start where that costs no more than 8 MiB. */
  private static final long COMMON_MOST = 2 * FLASH_STEP;

  /** Volumes of PCs: each starts on the head behind its table and ends on a cylinder. */
  public static Grid ofHeads(Geometry g) {
    return new Grid(g.sectors(), g.sectors(), common(g.sectors()), g.perCylinder(), 1, 1);
  }

  /** Volumes that start and end on cylinders, behind those that hold the table. */
  public static Grid ofCylinders(Geometry g, int tableCylinders) {
    long c = g.perCylinder();
    return new Grid(tableCylinders * c, c, common(c), c, ANY, ANY);
  }

  /** Volumes that start and end at multiples of a step. */
  public static Grid ofSteps(long first, long step) {
    return new Grid(first, step, common(step), step, ANY, ANY);
  }

  /**
   * The same for a table with room for so many volumes, in which so many stand when there are more.
   */
  public Grid chained(int entries, int plainOnes) {
    return new Grid(first, step, flashStep, endStep, entries, plainOnes);
  }

  /** Whether a volume has a table of its own before it. */
  public boolean tabled(int index, int count) {
    return count > most && index >= plain || index > 0 && most == 1;
  }

  private static long common(long step) {
    long common = lcm(step, FLASH_STEP);
    return common <= COMMON_MOST ? common : FLASH_STEP;
  }

  /**
   * The start of a volume.
   *
   * @param from the first sector that is free
   * @param table the sector of its own table; 0 for none
   * @param flash whether flash's school was chosen
   * @param reach sectors that the machine can use: of a small card both schools would cost too much
   */
  public long start(long from, long table, boolean flash, long reach) {
    boolean both = flashStep % step == 0 && flashStep <= reach / MOST_SHARE;
    if (table > 0 || most == 1) {
      if (flash || both && most == 1) return (table + flashStep) / flashStep * flashStep;
      return table + step;
    }
    return up(Math.max(first, from), flash || both && from == 0 ? flashStep : step);
  }

  /** The first end at or behind a sector. */
  public long upToEnd(long sector) {
    return up(sector, endStep);
  }

  /** The last end at or before a sector. */
  public long downToEnd(long sector) {
    return sector / endStep * endStep;
  }

  private static long up(long sector, long step) {
    return (sector + step - 1) / step * step;
  }

  private static long lcm(long a, long b) {
    long x = a;
    long y = b;
    while (y != 0) {
      long r = x % y;
      x = y;
      y = r;
    }
    return a / x * b;
  }
}
