package lanternshed.core.work;

import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;

/** Packed date (upper 16 bits) and time (lower 16), as FAT and exFAT keep them. */
public final class Stamp {
  /** 1980-01-01, 00:00: the stamp of what has no time of its own. */
  public static final int NONE = 0x0021_0000;

  private Stamp() {}

  /**
   * As a clock on the wall of this computer shows it, which is how it comes out again; before 1980
   * and after 2107 the nearest that can be said.
   */
  public static int of(Instant at) {
    return of(LocalDateTime.ofInstant(at, ZoneId.systemDefault()));
  }

  public static int of(LocalDateTime t) {
    if (t.getYear() < 1980) return NONE;
    int year = Math.min(127, t.getYear() - 1980);
    int date = year << 9 | t.getMonthValue() << 5 | t.getDayOfMonth();
    int time = t.getHour() << 11 | t.getMinute() << 5 | t.getSecond() / 2;
    return date << 16 | time;
  }
}
