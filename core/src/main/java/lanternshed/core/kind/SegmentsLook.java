package lanternshed.core.kind;

import java.util.Optional;
import lanternshed.core.measure.Say;

/**
 * Programs in segments, each with the place where it is loaded: all of them must lie in 64 KiB, and
 * the last must end with the file.
 */
final class SegmentsLook implements Look {
  private static final int TOP = 0x10000;

  @Override
  public Optional<Known> look(Sample s) {
    if (!s.whole() || s.length() < 6) return Optional.empty();
    if (s.at(0) == 0) return counted(s);
    return s.little(0) == 0xFFFF ? bounded(s) : Optional.empty();
  }

  /** 00, length, place, bytes; at the end FF, 0000 and the place to start at; big end first. */
  private static Optional<Known> counted(Sample s) {
    int at = 0;
    Span all = new Span();
    while (at + 5 <= s.length()) {
      int length = s.word(at + 1);
      int place = s.word(at + 3);
      if (s.at(at) == 0xFF) {
        boolean ends = length == 0 && at + 5 == s.length() && all.segments > 0;
        return ends ? Optional.of(all.known(place)) : Optional.empty();
      }
      if (s.at(at) != 0 || length == 0 || place + length > TOP) return Optional.empty();
      if (at + 5 + length > s.length()) return Optional.empty();
      all.add(place, place + length - 1);
      at += 5 + length;
    }
    return Optional.empty();
  }

  /** FFFF once, first and last place, bytes; the place to start at lies in 02E0; little end. */
  private static Optional<Known> bounded(Sample s) {
    int at = 0;
    int start = -1;
    Span all = new Span();
    while (at + 4 <= s.length()) {
      if (s.little(at) == 0xFFFF) at += 2;
      if (at + 4 > s.length()) return Optional.empty();
      int first = s.little(at);
      int last = s.little(at + 2);
      if (last < first || at + 4 + (last - first + 1) > s.length()) return Optional.empty();
      if (first == 0x2E0 && last > first) start = s.little(at + 4);
      else all.add(first, last);
      at += 4 + last - first + 1;
    }
    return at == s.length() && all.segments > 0 ? Optional.of(all.known(start)) : Optional.empty();
  }

  private static final class Span {
    private int segments;
    private int low = TOP;
    private int high;

    void add(int first, int last) {
      segments++;
      low = Math.min(low, first);
      high = Math.max(high, last);
    }

    Known known(int start) {
      String starts = start < 0 ? "" : String.format(", starts at %04X", start);
      return Known.of(
          Kind.SEGMENTS,
          Say.plural(segments, "segment", "segments")
              + String.format(", %04X to %04X", low, high)
              + starts);
    }
  }
}
