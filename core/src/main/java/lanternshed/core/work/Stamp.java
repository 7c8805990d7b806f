package lanternshed.core.work;

import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import lanternshed.core.volume.Node;

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

  /** The same of an entry, to the second where its volume keeps it. */
  public static String text(Node n) {
    return n.time().map(DateTimeFormatter.ISO_LOCAL_DATE_TIME::format).orElse("");
  }

  /** As ISO text without a zone, "1994-03-01T10:20:00"; "" for what is no time. */
  public static String text(int stamp) {
    int date = stamp >>> 16;
    int time = stamp & 0xFFFF;
    try {
      return LocalDateTime.of(
              1980 + (date >> 9),
              date >> 5 & 15,
              date & 31,
              time >> 11,
              time >> 5 & 63,
              (time & 31) * 2)
          .format(DateTimeFormatter.ISO_LOCAL_DATE_TIME);
    } catch (DateTimeException e) {
      // What lies on disk may be any bits.
      return "";
    }
  }
}
