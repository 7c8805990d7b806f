package lanternshed.core.measure;

import java.util.Locale;

/**
 * The one place where numbers become text: thin spaces between thousands, units always, and no
 * floating point on the way (U-1). Capacities are rounded down, so that a figure never promises a
 * byte that is not there.
 */
public final class Say {
  /** Narrow no-break space, so that a figure is never torn over two lines. */
  public static final char THIN = '\u202F';

  public static final long KIB = 1024;
  public static final long MIB = 1024 * KIB;
  public static final long GIB = 1024 * MIB;

  private Say() {}

  /** 1032192 becomes "1 032 192" with thin spaces. */
  public static String count(long n) {
    String digits = Long.toString(Math.abs(n));
    StringBuilder out = new StringBuilder();
    for (int i = 0; i < digits.length(); i++) {
      if (i > 0 && (digits.length() - i) % 3 == 0) out.append(THIN);
      out.append(digits.charAt(i));
    }
    return n < 0 ? "−" + out : out.toString();
  }

  /** Sectors with their unit. */
  public static String sectors(long n) {
    return count(n) + (n == 1 ? " sector" : " sectors");
  }

  /** Bytes with their unit. */
  public static String bytes(long n) {
    return count(n) + " B";
  }

  /** Binary mebibytes to one decimal, rounded down. */
  public static String mib(long bytes) {
    return tenths(bytes, MIB) + " MiB";
  }

  /** Decimal megabytes to one decimal, rounded down: what a card's label means (U-2). */
  public static String mb(long bytes) {
    return tenths(bytes, 1_000_000) + " MB";
  }

  /** The binary unit in which the figure is readable at arm's length. */
  public static String size(long bytes) {
    if (bytes < KIB) return bytes(bytes);
    if (bytes < MIB) return tenths(bytes, KIB) + " KiB";
    return mib(bytes);
  }

  /** "one file", "3 files". */
  public static String plural(long n, String one, String many) {
    return count(n) + " " + (n == 1 ? one : many);
  }

  /** Seconds as people say them: "4 s", "2 min 05 s", "1 h 03 min". */
  public static String seconds(long s) {
    if (s < 60) return s + " s";
    if (s < 3600) return s / 60 + " min " + String.format("%02d s", s % 60);
    return s / 3600 + " h " + String.format("%02d min", s / 60 % 60);
  }

  /** The same sentence for the middle of another: without its first capital and its full stop. */
  public static String lower(String sentence) {
    if (sentence.isEmpty()) return sentence;
    String s = sentence.endsWith(".") ? sentence.substring(0, sentence.length() - 1) : sentence;
    return s.substring(0, 1).toLowerCase(Locale.ROOT) + s.substring(1);
  }

  private static String tenths(long bytes, long unit) {
    long whole = bytes / unit;
    return count(whole) + "." + (bytes % unit) * 10 / unit;
  }
}
