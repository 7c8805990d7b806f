package lanternshed.core.kind;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/**
 * The lines of a BASIC program as tokens.
 *
 * <p>Each line: the place of the next one, its number, its tokens and a nought; a place of nought
 * ends the program. The places are those of the memory that it was saved from, so only their steps
 * are known: each must be as long as the line is. Before the first line lie FF and the length, the
 * place where it is loaded, or nothing. Where no step could be looked at, as there is one line and
 * nobody says where it is loaded, the program must end with its file.
 */
public record BasicLines(List<Line> lines) {
  /** A longer line cannot be typed; what is tokens may be a little longer than what was typed. */
  private static final int MOST_LINE = 512;

  private static final int UNKNOWN = -1;

  /**
   * @param number of the line
   * @param tokens of it, without the nought behind them
   */
  public record Line(int number, byte[] tokens) {}

  /** The program of a file; empty where it is none. */
  public static Optional<BasicLines> of(Sample s) {
    if (!s.whole() || s.length() < 8) return Optional.empty();
    if (s.at(0) == 0xFF && s.word(1) <= s.length() - 3) return at(s, 3, true, UNKNOWN);
    return at(s, 2, false, s.little(0))
        .or(() -> at(s, 0, false, UNKNOWN))
        .or(() -> at(s, 0, true, UNKNOWN));
  }

  private static Optional<BasicLines> at(Sample s, int from, boolean big, int loaded) {
    List<Line> out = new ArrayList<>();
    int at = from;
    int place = loaded;
    boolean stepped = false;
    int before = -1;
    while (at + 2 <= s.length()) {
      int next = big ? s.word(at) : s.little(at);
      if (next == 0) {
        boolean sure = stepped || !out.isEmpty() && at + 2 == s.length();
        return sure ? Optional.of(new BasicLines(out)) : Optional.empty();
      }
      if (at + 5 > s.length()) return Optional.empty();
      int number = big ? s.word(at + 2) : s.little(at + 2);
      int end = at + 4;
      while (end < s.length() && s.at(end) != 0 && end - at < MOST_LINE) end++;
      if (end >= s.length() || s.at(end) != 0 || number <= before) return Optional.empty();
      int length = end + 1 - at;
      if (place >= 0 && next - place != length) return Optional.empty();
      stepped |= place >= 0;
      out.add(new Line(number, Arrays.copyOfRange(s.head(), at + 4, end)));
      place = next;
      before = number;
      at = end + 1;
    }
    return Optional.empty();
  }
}
