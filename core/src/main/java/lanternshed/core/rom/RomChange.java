package lanternshed.core.rom;

import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import lanternshed.core.measure.Say;

/**
 * An image before and after it was configured, byte by byte, with what each place means (O-9).
 *
 * @param bytes that differ
 * @param places the first of them, near ones together
 * @param more places that are not listed
 */
public record RomChange(int bytes, List<Place> places, int more, String sentence) {
  private static final int MOST = 60;
  private static final int SHOWN = 8;

  /** So many equal bytes between two that differ still belong to one place. */
  private static final int NEAR = 2;

  /**
   * @param before bytes in hexadecimal, the first eight
   * @param means what lies there, in words
   */
  public record Place(int at, int length, String before, String after, String means) {}

  public static RomChange of(byte[] before, byte[] after) {
    int shared = Math.min(before.length, after.length);
    List<int[]> runs = new ArrayList<>();
    int bytes = 0;
    for (int i = 0; i < shared; i++) {
      if (before[i] == after[i]) continue;
      bytes++;
      int[] last = runs.isEmpty() ? null : runs.get(runs.size() - 1);
      if (last != null && i - last[1] <= NEAR + 1) last[1] = i;
      else runs.add(new int[] {i, i});
    }
    RomFacts was = RomFacts.of(before);
    RomFacts is = RomFacts.of(after);
    List<Place> places =
        runs.stream()
            .limit(MOST)
            .map(
                r ->
                    new Place(
                        r[0],
                        r[1] - r[0] + 1,
                        hex(before, r[0], r[1]),
                        hex(after, r[0], r[1]),
                        means(was, is, before, r[0], r[1])))
            .toList();
    return new RomChange(
        bytes,
        places,
        Math.max(0, runs.size() - MOST),
        sentence(bytes, runs.size(), before.length, after.length, was, is));
  }

  private static String hex(byte[] b, int first, int last) {
    int end = Math.min(last + 1, first + SHOWN);
    String all = HexFormat.ofDelimiter(" ").withUpperCase().formatHex(b, first, end);
    return end <= last ? all + " …" : all;
  }

  private static String means(RomFacts was, RomFacts is, byte[] before, int first, int last) {
    Optional<String> field = named(is, first, last).or(() -> named(was, first, last));
    if (field.isPresent()) return field.get();
    boolean blank = true;
    for (int i = first; i <= last; i++) blank &= before[i] == -1 || before[i] == 0;
    if (blank && last - first >= NEAR) return "was blank";
    return "settings or code";
  }

  /** The name of a place's first byte, and whether the others have it too. */
  private static Optional<String> named(RomFacts f, int first, int last) {
    return f.fields().stream()
        .filter(x -> x.has(first))
        .findFirst()
        .map(x -> x.name() + (x.has(last) ? "" : ", and what is behind it"));
  }

  private static String sentence(
      int bytes, int places, int before, int after, RomFacts was, RomFacts is) {
    StringBuilder out = new StringBuilder();
    if (before != after) {
      out.append("They are not equally long: ")
          .append(Say.bytes(before))
          .append(" and ")
          .append(Say.bytes(after))
          .append(". ");
    }
    if (bytes == 0) {
      out.append(before == after ? "They are the same bytes." : "What both have is the same.");
    } else {
      out.append(Say.plural(bytes, "byte differs", "bytes differ"))
          .append(" in ")
          .append(Say.plural(places, "place", "places"))
          .append('.');
    }
    return out.append(sums(was, is)).toString();
  }

  private static String sums(RomFacts was, RomFacts is) {
    if (was.option().isEmpty() || is.option().isEmpty()) return "";
    int first = was.option().get().sum();
    int second = is.option().get().sum();
    if (first == 0 && second == 0) return " Both sums are 00.";
    return String.format(
        Locale.ROOT,
        " Their sums are %02X and %02X%s",
        first,
        second,
        second == 0 ? "." : ": correct the last byte of the second.");
  }
}
