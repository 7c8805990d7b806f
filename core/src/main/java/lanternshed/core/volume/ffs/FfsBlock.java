package lanternshed.core.volume.ffs;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.Arrays;
import java.util.Optional;
import lanternshed.core.measure.Bytes;

/**
 * The blocks of OFS and FFS: 128 big-endian longs of 512 bytes, of which one makes all sum to zero.
 * Offsets in bytes, with the names of the published structures.
 */
final class FfsBlock {
  static final int BYTES = 512;

  static final int TYPE = 0;
  static final int OWN_KEY = 4;
  static final int HIGH_SEQ = 8;
  static final int DATA_SIZE = 12;
  static final int FIRST_DATA = 16;
  static final int CHECKSUM = 20;
  static final int TABLE = 24;
  static final int SLOTS = 72;
  static final int BITMAP_FLAG = 312;
  static final int BITMAP_PAGES = 316;
  static final int PAGES = 25;
  static final int BITMAP_EXTENSION = 416;
  static final int OWNER = 316;
  static final int PROTECTION = 320;
  static final int FILE_BYTES = 324;
  static final int COMMENT = 328;
  static final int MOST_COMMENT = 79;
  static final int DATE = 420;
  static final int NAME = 432;
  static final int MOST_NAME = 30;
  static final int DISK_DATE = 472;
  static final int CREATED = 484;
  static final int NEXT_HASH = 496;
  static final int PARENT = 500;
  static final int EXTENSION = 504;
  static final int SECONDARY_TYPE = 508;

  static final int HEADER = 2;
  static final int DATA = 8;
  static final int LIST = 16;
  static final int CACHE = 33;
  static final int ROOT = 1;
  static final int FOLDER = 2;
  static final int FILE = -3;
  static final int LINK_TO_FILE = -4;
  static final int LINK_TO_FOLDER = 4;
  static final int SOFT_LINK = 3;

  /** Where the data of an OFS block begin. */
  static final int PAYLOAD = 24;

  /** Bits of one bitmap block: all longs but the checksum. */
  static final int BITMAP_BITS = 127 * 32;

  /** Pointers of one block of the bitmap's extension. */
  static final int EXTENSION_PAGES = 127;

  /** Day 0 of its clock. */
  /** Into the year 2142; what lies further is no date. */
  private static final long MOST_DAYS = 60_000;

  private static final LocalDate EPOCH = LocalDate.of(1978, 1, 1);

  private static final int TICKS = 50;
  private static final int WRITE_DENIED = 0x04;
  private static final int DELETE_DENIED = 0x01;
  private static final int ARCHIVED = 0x10;

  /** What is kept of an entry beyond a node: owner, protection, comment and date. */
  private static final int KEPT_DATE = DATE - OWNER;

  private static final int KEPT = KEPT_DATE + 12;

  /** A whole long at once: every block that is read or made is summed. */
  private static final VarHandle LONGS =
      MethodHandles.byteArrayViewVarHandle(int[].class, ByteOrder.BIG_ENDIAN);

  private FfsBlock() {}

  static long sum(byte[] b) {
    int sum = 0;
    for (int i = 0; i < BYTES; i += 4) sum += (int) LONGS.get(b, i);
    return sum & 0xFFFF_FFFFL;
  }

  /** Sets the long at {@code at} so that all sum to zero. */
  static void seal(byte[] b, int at) {
    Bytes.putBe32(b, at, 0);
    Bytes.putBe32(b, at, -sum(b));
  }

  static int long32(byte[] b, int at) {
    return (int) Bytes.be32(b, at);
  }

  /**
   * The place of a name in a table of 72: letters count without their case, in the international
   * kinds those with accents too.
   */
  static int slot(byte[] name, boolean international) {
    int hash = name.length;
    for (byte c : name) hash = hash * 13 + upper(c & 0xFF, international) & 0x7FF;
    return hash % SLOTS;
  }

  static int upper(int c, boolean international) {
    boolean accented = international && c >= 0xE0 && c <= 0xFE && c != 0xF7;
    return c >= 'a' && c <= 'z' || accented ? c - 0x20 : c;
  }

  /** A name as it stands on disk. */
  static byte[] text(byte[] b, int at, int most) {
    int length = Math.min(most, b[at] & 0xFF);
    byte[] out = new byte[length];
    System.arraycopy(b, at + 1, out, 0, length);
    return out;
  }

  static void putText(byte[] b, int at, byte[] text) {
    b[at] = (byte) text.length;
    System.arraycopy(text, 0, b, at + 1, text.length);
  }

  /** A name that can stand in a path: neither a divider nor a control character. */
  static String safe(byte[] name) {
    String s =
        new String(name, StandardCharsets.ISO_8859_1)
            .replaceAll("[\\p{Cntrl}\\u0080-\\u009F/]", "_");
    return s.isEmpty() || s.equals(".") || s.equals("..") ? "_" : s;
  }

  /** The three longs themselves, to the second; day 0 is no date. */
  static Optional<LocalDateTime> time(byte[] b, int at) {
    long days = Bytes.be32(b, at);
    long minutes = Bytes.be32(b, at + 4);
    long ticks = Bytes.be32(b, at + 8);
    boolean none = days == 0 && minutes == 0 && ticks == 0;
    if (none || days > MOST_DAYS || minutes >= 24 * 60 || ticks >= 60 * TICKS) {
      return Optional.empty();
    }
    return Optional.of(
        EPOCH.plusDays(days).atStartOfDay().plusMinutes(minutes).plusSeconds(ticks / TICKS));
  }

  /** Packed date and time of three longs: days, minutes, fiftieths of a second. */
  static int stamp(byte[] b, int at) {
    Optional<LocalDateTime> exact = time(b, at);
    if (exact.isEmpty() || exact.get().getYear() < 1980 || exact.get().getYear() > 2107) return 0;
    LocalDateTime t = exact.get();
    int date = t.getYear() - 1980 << 9 | t.getMonthValue() << 5 | t.getDayOfMonth();
    return date << 16 | t.getHour() << 11 | t.getMinute() << 5 | t.getSecond() / 2;
  }

  /** Writes a packed date and time as three longs; what is no date becomes day 0. */
  static void putStamp(byte[] b, int at, int stamp) {
    Optional<LocalDateTime> t = time(stamp);
    if (t.isEmpty()) return;
    Bytes.putBe32(b, at, t.get().toLocalDate().toEpochDay() - EPOCH.toEpochDay());
    Bytes.putBe32(b, at + 4, t.get().getHour() * 60L + t.get().getMinute());
    Bytes.putBe32(b, at + 8, (long) t.get().getSecond() * TICKS);
  }

  private static Optional<LocalDateTime> time(int stamp) {
    int date = stamp >>> 16;
    int month = date >> 5 & 15;
    int day = date & 31;
    int hour = stamp >> 11 & 31;
    int minute = stamp >> 5 & 63;
    int second = (stamp & 31) * 2;
    boolean real = month >= 1 && month <= 12 && hour < 24 && minute < 60 && second < 60;
    if (!real || day < 1) return Optional.empty();
    LocalDate first = LocalDate.of(1980 + (date >> 9), month, 1);
    if (day > first.lengthOfMonth()) return Optional.empty();
    return Optional.of(first.withDayOfMonth(day).atTime(hour, minute, second));
  }

  /** Those of the marks that FAT and exFAT share that it has: read only, not yet kept elsewhere. */
  static final int MARKS = 0x21;

  /** The bits that FAT and exFAT share, of a header's protection. */
  static int marks(byte[] header) {
    int p = long32(header, PROTECTION);
    return ((p & WRITE_DENIED) != 0 ? 0x01 : 0) | ((p & ARCHIVED) != 0 ? 0 : 0x20);
  }

  /** Sets the bits that stand for marks, and leaves the others. */
  static void putMarks(byte[] header, int marks) {
    int readOnly = WRITE_DENIED | DELETE_DENIED;
    long p = Bytes.be32(header, PROTECTION) & ~(readOnly | ARCHIVED);
    if ((marks & 0x01) != 0) p |= readOnly;
    if ((marks & 0x20) == 0) p |= ARCHIVED;
    Bytes.putBe32(header, PROTECTION, p);
  }

  /** Owner, protection, comment and date of a header, to the fiftieth of a second. */
  static byte[] kept(byte[] header) {
    byte[] out = new byte[KEPT];
    System.arraycopy(header, OWNER, out, 0, KEPT);
    // The length of the file and what is not in use are not part of it.
    Bytes.putBe32(out, FILE_BYTES - OWNER, 0);
    int comment = Math.min(MOST_COMMENT, out[COMMENT - OWNER] & 0xFF);
    out[COMMENT - OWNER] = (byte) comment;
    int used = COMMENT - OWNER + 1 + comment;
    Arrays.fill(out, used, KEPT_DATE, (byte) 0);
    return out;
  }

  /** Bytes of the three dates of a root block. */
  static final int DATES = 36;

  /** The dates of a root block: of its folder, of the volume, and of its making. */
  static byte[] dates(byte[] root) {
    byte[] out = new byte[DATES];
    int to = 0;
    for (int at : new int[] {DATE, DISK_DATE, CREATED}) {
      System.arraycopy(root, at, out, to, 12);
      to += 12;
    }
    return out;
  }

  static void putDates(byte[] root, byte[] dates) {
    int from = 0;
    for (int at : new int[] {DATE, DISK_DATE, CREATED}) {
      System.arraycopy(dates, from, root, at, 12);
      from += 12;
    }
  }

  static void putKept(byte[] header, byte[] kept) {
    long bytes = Bytes.be32(header, FILE_BYTES);
    System.arraycopy(kept, 0, header, OWNER, Math.min(KEPT, kept.length));
    Bytes.putBe32(header, FILE_BYTES, bytes);
  }
}
