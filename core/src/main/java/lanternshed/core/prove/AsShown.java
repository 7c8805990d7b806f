package lanternshed.core.prove;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A figure as a screen shows it, "1,021 MB" or "20 840 448 bytes free", and every number of bytes
 * or things that it may stand for: which unit is meant, and whether a comma parts thousands, is not
 * said by the screen.
 *
 * @param at the number itself
 * @param low least number that is shown like this
 * @param high the first number above that is shown otherwise; {@code low} for one number alone
 * @param counting how it was taken, where that had to be guessed; "" else
 */
record AsShown(BigDecimal at, BigDecimal low, BigDecimal high, String counting) {
  private static final Pattern NUMBER =
      Pattern.compile("\\d{1,15}(?:[ .,'\u2019\u00a0\u202f]\\d{1,15})*");

  private static final Map<String, List<Long>> UNITS =
      Map.of(
          "", List.of(1L),
          "K", List.of(1024L, 1000L),
          "M", List.of(1L << 20, 1_000_000L, 1_024_000L),
          "G", List.of(1L << 30, 1_000_000_000L));

  /**
   * Units that a bare number may be in; only where it has so many digits that none fits by luck.
   */
  private static final List<Map.Entry<String, Long>> BARE =
      List.of(
          Map.entry("KiB", 1024L),
          Map.entry("blocks of 512 bytes", 512L),
          Map.entry("MiB", 1L << 20));

  private static final int SURE = 4;

  boolean means(BigDecimal value) {
    if (low.equals(high)) return value.compareTo(low) == 0;
    return low.compareTo(value) <= 0 && value.compareTo(high) < 0;
  }

  /**
   * Everything that a text may mean, the likeliest first; nothing where it has no figure.
   *
   * @param bytes whether units of bytes may follow
   */
  static List<AsShown> in(String text, boolean bytes) {
    Matcher m = NUMBER.matcher(text);
    List<AsShown> out = new ArrayList<>();
    if (!m.find()) return out;
    String unit = bytes ? unit(text.substring(m.end())) : "";
    for (BigDecimal n : numbers(m.group())) {
      for (long factor : UNITS.get(unit)) out.add(taken(n, factor, ""));
      if (!bytes || !unit.isEmpty() || said(text, m.end()) || n.scale() > 0) continue;
      if (n.precision() < SURE) continue;
      for (Map.Entry<String, Long> b : BARE) out.add(taken(n, b.getValue(), b.getKey()));
    }
    return out;
  }

  /** All whole numbers of a text in their order: "CHS 981/16/63". */
  static List<Long> all(String text) {
    List<Long> out = new ArrayList<>();
    Matcher m = Pattern.compile("\\d{1,3}(?:[\u00a0\u202f]\\d{3})+(?!\\d)|\\d{1,15}").matcher(text);
    while (m.find()) out.add(Long.valueOf(m.group().replaceAll("\\D", "")));
    return out;
  }

  /**
   * What is cut off and what is rounded both happen: a screen's last digit may stand for either.
   */
  private static AsShown taken(BigDecimal n, long factor, String counting) {
    BigDecimal f = BigDecimal.valueOf(factor);
    BigDecimal step = BigDecimal.ONE.movePointLeft(Math.max(0, n.scale())).multiply(f);
    BigDecimal at = n.multiply(f);
    if (factor == 1 && n.scale() <= 0) return new AsShown(at, at, at, counting);
    BigDecimal half = step.divide(BigDecimal.valueOf(2));
    return new AsShown(at, at.subtract(half), at.add(step), counting);
  }

  private static String unit(String after) {
    Matcher m =
        Pattern.compile("^\\s*([kmg])(?:i?b|ib?|bytes?|ilobytes?|egabytes?|igabytes?)?(?![a-z])")
            .matcher(after.toLowerCase(Locale.ROOT));
    return m.find() ? m.group(1).toUpperCase(Locale.ROOT) : "";
  }

  private static boolean said(String text, int end) {
    return text.substring(end).strip().toLowerCase(Locale.ROOT).startsWith("byte");
  }

  /** "1.234" is both a thousand and something, and one and a bit. */
  private static List<BigDecimal> numbers(String written) {
    String[] groups = written.split("\\D");
    List<BigDecimal> out = new ArrayList<>();
    boolean thousands = groups[0].length() <= 3;
    for (int i = 1; i < groups.length; i++) thousands &= groups[i].length() == 3;
    if (groups.length == 1 || thousands) out.add(new BigDecimal(String.join("", groups)));
    char mark = groups.length == 2 ? written.charAt(groups[0].length()) : 'x';
    if (mark == '.' || mark == ',') out.add(new BigDecimal(groups[0] + "." + groups[1]));
    // Groups that part no thousands are several figures; the first is meant.
    if (out.isEmpty()) out.add(new BigDecimal(groups[0]));
    return out;
  }
}
