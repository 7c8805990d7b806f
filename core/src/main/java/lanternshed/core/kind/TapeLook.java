package lanternshed.core.kind;

import java.util.Optional;
import lanternshed.core.measure.Say;

/**
 * Tapes as bytes. Of leaders and blocks: at least eight 55, then 3C, type, length, data and a sum;
 * a one is a wave of 2 400 Hz, a nought one of 1 200. Of lengths: each block behind two bytes that
 * say how long it is, with a flag before it and all of it exclusive-ored to nought behind.
 */
final class TapeLook implements Look {
  private static final int LEADER = 8;
  private static final int NAME = 15;
  private static final int HEADER = 19;
  private static final String[] FILES = {"BASIC program", "data", "machine code"};
  private static final String[] KINDS = {"program", "numbers", "letters", "bytes"};

  @Override
  public Optional<Known> look(Sample s) {
    return s.head().length > LEADER && s.at(0) == 0x55 ? leaders(s) : lengths(s);
  }

  private static Optional<Known> leaders(Sample s) {
    int at = leader(s, 0);
    if (at < LEADER || at >= s.head().length || s.at(at) != 0x3C) return Optional.empty();
    int blocks = 0;
    int bad = 0;
    String name = "";
    boolean ended = false;
    while (at + 4 <= s.head().length && s.at(at) == 0x3C) {
      int length = s.at(at + 2);
      if (at + 4 + length > s.head().length) break;
      int sum = s.at(at + 1) + length;
      for (int i = 0; i < length; i++) sum += s.at(at + 3 + i);
      if ((sum & 0xFF) != s.at(at + 3 + length)) bad++;
      if (s.at(at + 1) == 0 && length == NAME) name = named(s, at + 3);
      ended |= s.at(at + 1) == 0xFF;
      blocks++;
      at = leader(s, at + 4 + length);
    }
    Known k =
        new Known(
            Kind.TAPE_IMAGE,
            name + (name.isEmpty() ? "" : ", ") + counted(s, blocks),
            "",
            s.whole() ? waves(s) : 0);
    if (bad > 0) return Optional.of(k.faulty(Say.plural(bad, "sum is", "sums are") + " wrong"));
    return Optional.of(ended || !s.whole() ? k : k.faulty("its last block is missing"));
  }

  private static String counted(Sample s, int blocks) {
    return (s.whole() ? "" : "at least ") + Say.plural(blocks, "block", "blocks");
  }

  /** Behind leader bytes and the gap that recorders left. */
  private static int leader(Sample s, int from) {
    int at = from;
    while (at < s.head().length && (s.at(at) == 0x55 || from > 0 && s.at(at) == 0)) at++;
    return at;
  }

  private static String named(Sample s, int at) {
    int type = s.at(at + 8);
    String what = type < FILES.length ? FILES[type] : "file of type " + type;
    String listed = s.at(at + 9) == 0xFF ? ", as text" : "";
    String starts = type == 2 ? String.format(", starts at %04X", s.word(at + 11)) : "";
    return "“" + s.letters(at, 8) + "”, " + what + listed + starts;
  }

  private static long waves(Sample s) {
    long ones = 0;
    for (byte b : s.head()) ones += Integer.bitCount(b & 0xFF);
    long noughts = 8L * s.head().length - ones;
    return Math.round(ones / 2400.0 + noughts / 1200.0);
  }

  private static Optional<Known> lengths(Sample s) {
    if (s.head().length < HEADER + 2 || s.little(0) != HEADER || s.at(2) != 0) {
      return Optional.empty();
    }
    int at = 0;
    int blocks = 0;
    while (at + 2 <= s.head().length) {
      int length = s.little(at);
      if (length < 2 || at + 2 + length > s.head().length) break;
      int odd = 0;
      for (int i = 0; i < length; i++) odd ^= s.at(at + 2 + i);
      if (odd != 0) break;
      blocks++;
      at += 2 + length;
    }
    if (blocks == 0) return Optional.empty();
    int type = s.at(3);
    String says =
        "“"
            + s.letters(4, 10)
            + "”, "
            + (type < KINDS.length ? KINDS[type] : "type " + type)
            + ", "
            + counted(s, blocks);
    Known k = Known.of(Kind.TAPE_IMAGE, says);
    boolean rest = s.whole() && at < s.head().length;
    return Optional.of(
        rest ? k.faulty("from byte " + Say.count(at) + " on it is no whole block") : k);
  }
}
