package lanternshed.core.names;

import java.util.Comparator;

/** The order in which people count: Pattern 2 before Pattern 10, large and small letters alike. */
public final class Natural {
  public static final Comparator<String> ORDER =
      Comparator.comparing(Natural::key).thenComparing(Comparator.naturalOrder());

  /** No number of a name that is counted has more digits. */
  private static final int DIGITS = 12;

  private Natural() {}

  /** Each number as long as all others. */
  private static String key(String path) {
    String folded = NameList.fold(path);
    StringBuilder out = new StringBuilder();
    int i = 0;
    while (i < folded.length()) {
      int end = i;
      while (end < folded.length() && folded.charAt(end) >= '0' && folded.charAt(end) <= '9') end++;
      if (end == i) {
        out.append(folded.charAt(i++));
        continue;
      }
      out.append("0".repeat(Math.max(0, DIGITS - (end - i)))).append(folded, i, end);
      i = end;
    }
    return out.toString();
  }
}
