package lanternshed.core.medium;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Random;

/** What is wrong with a stand-in drive: zones of sectors, each bad in its own way. */
public record Damage(List<Zone> zones) {

  /** How a zone answers. */
  public enum Kind {
    /** Never comes back. */
    DEAD,
    /** Comes back after some tries. */
    LATE,
    /** Comes back at a hundredth of the speed. */
    SLOW,
    /** The drive hangs on it and answers nothing more until it is let go. */
    STALL
  }

  /**
   * @param start first sector
   * @param length sectors
   * @param tries how many reads of a {@code LATE} sector fail, or of a {@code STALL} zone hang,
   *     before one comes back; else 0
   */
  public record Zone(long start, long length, Kind kind, int tries) {
    boolean overlaps(long lba, long count) {
      return lba < start + length && start < lba + count;
    }
  }

  public Damage {
    zones = zones.stream().sorted(Comparator.comparingLong(Zone::start)).toList();
  }

  public static Damage none() {
    return new Damage(List.of());
  }

  /** Zones laid down by a fixed start value of the generator: the same value, the same damage. */
  public static Damage scattered(long start, long sectors, int dead, int late, int slow) {
    Random random = new Random(start);
    List<Zone> zones = new ArrayList<>();
    for (int i = 0; i < dead + late + slow; i++) {
      Kind kind = i < dead ? Kind.DEAD : i < dead + late ? Kind.LATE : Kind.SLOW;
      long at = (long) (random.nextDouble() * (sectors - 2048));
      long length = kind == Kind.SLOW ? 512 + random.nextInt(1024) : 1 + random.nextInt(24);
      zones.add(new Zone(at, length, kind, kind == Kind.LATE ? 1 + random.nextInt(2) : 0));
    }
    return new Damage(zones);
  }
}
