package lanternshed.core.rom;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.IntUnaryOperator;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;

/**
 * A chip that was read back after it was programmed, and what the pattern of its differences says
 * (O-7). A pattern is named only where it explains every byte.
 *
 * @param pattern the simplest that explains all; OTHER where none does
 * @param differing bytes
 * @param first the first of them; −1 for none
 * @param sentence what it is
 * @param todo what to do about it
 * @param also further patterns that explain it as well, in words
 * @param out how many patterns were tried and do not explain it
 */
public record ReadBack(
    Pattern pattern,
    int differing,
    int first,
    List<Misread> differences,
    String sentence,
    String todo,
    List<String> also,
    int out) {

  private static final int SHOWN = 8;

  /** What may be wrong with a chip, its socket or its programming. */
  public enum Pattern {
    IDENTICAL,
    BLANK,
    ALL_ZERO,
    STUCK_BIT,
    DATA_LINES_EXCHANGED,
    ADDRESS_TIED,
    ADDRESS_EXCHANGED,
    ADDRESS_SHORTED,
    BYTES_EXCHANGED,
    HALVES_EXCHANGED,
    STOPPED,
    NOT_ERASED,
    NOT_PROGRAMMED,
    OTHER
  }

  public record Misread(int at, int is, int should) {}

  private record Explained(Pattern pattern, String sentence, String todo) {}

  /** Something that would explain it. */
  private interface Guess {
    Optional<Explained> of(byte[] want, byte[] got);
  }

  private static final String SEAT = "Reseat the chip, look for a bent leg, clean the socket.";

  /** The simplest first: a later one explains what an earlier one does, and more. */
  private static final List<Guess> GUESSES =
      List.of(
          ReadBack::blank,
          ReadBack::zero,
          ReadBack::stuck,
          ReadBack::exchangedPairs,
          ReadBack::tied,
          ReadBack::exchangedAddresses,
          ReadBack::exchangedData,
          ReadBack::shorted,
          ReadBack::stopped,
          ReadBack::notErased,
          ReadBack::notProgrammed);

  /**
   * @param want what was to be in the chip
   * @param got what it reads
   */
  public static ReadBack of(byte[] want, byte[] got) {
    if (want.length != got.length) {
      throw new ShedException(
          "The chip reads "
              + Say.bytes(got.length)
              + ", the image in it has "
              + Say.bytes(want.length)
              + "; set the programmer to the chip's own size.");
    }
    List<Misread> differences = new ArrayList<>();
    int count = 0;
    int first = -1;
    for (int i = 0; i < want.length; i++) {
      if (want[i] == got[i]) continue;
      if (first < 0) first = i;
      if (count++ < SHOWN) differences.add(new Misread(i, got[i] & 0xFF, want[i] & 0xFF));
    }
    if (count == 0) {
      String same = Say.count(want.length) + " bytes read back identical.";
      return new ReadBack(Pattern.IDENTICAL, 0, -1, List.of(), same, "", List.of(), 0);
    }
    List<Explained> all = new ArrayList<>();
    for (Guess g : GUESSES) g.of(want, got).ifPresent(all::add);
    int out = GUESSES.size() - all.size();
    if (all.isEmpty()) {
      return new ReadBack(
          Pattern.OTHER,
          count,
          first,
          differences,
          "No one fault explains this: another content, or several faults at once.",
          "Read it once more; where it reads otherwise each time, it has no good contact.",
          List.of(),
          out);
    }
    Explained e = all.get(0);
    List<String> also = all.stream().skip(1).map(Explained::sentence).toList();
    return new ReadBack(e.pattern(), count, first, differences, e.sentence(), e.todo(), also, out);
  }

  private static Optional<Explained> found(Pattern p, String sentence, String todo) {
    return Optional.of(new Explained(p, sentence, todo));
  }

  private static Optional<Explained> blank(byte[] want, byte[] got) {
    for (byte b : got) if (b != -1) return Optional.empty();
    return found(
        Pattern.BLANK,
        "Every byte is FF: nothing was programmed, or the chip is not selected.",
        "Look at the type that the programmer is set to, and at its programming voltage.");
  }

  private static Optional<Explained> zero(byte[] want, byte[] got) {
    for (byte b : got) if (b != 0) return Optional.empty();
    return found(
        Pattern.ALL_ZERO,
        "Every byte is 00: its outputs are held low, or it has no supply.",
        "Look which way round it sits before it gets power again; it may be hot.");
  }

  /** Bits that read one value throughout, and all others as they should be. */
  private static Optional<Explained> stuck(byte[] want, byte[] got) {
    int ones = 0xFF;
    int zeros = 0xFF;
    int wrong = 0;
    for (int i = 0; i < want.length; i++) {
      ones &= got[i];
      zeros &= ~got[i];
      wrong |= want[i] ^ got[i];
    }
    int constant = (ones | zeros) & 0xFF;
    if ((wrong & ~constant & 0xFF) != 0) return Optional.empty();
    List<String> bits = new ArrayList<>();
    for (int b = 0; b < 8; b++) {
      if ((wrong >> b & 1) != 0) bits.add("D" + b + " at " + (ones >> b & 1));
    }
    return found(
        Pattern.STUCK_BIT,
        (bits.size() == 1 ? "Data line " : "Data lines ")
            + String.join(", ", bits)
            + (bits.size() == 1 ? " is stuck;" : " are stuck;")
            + " all other bits are right.",
        SEAT);
  }

  private static boolean through(byte[] want, byte[] got, IntUnaryOperator address) {
    for (int i = 0; i < want.length; i++) {
      int from = address.applyAsInt(i);
      if (from >= want.length || got[i] != want[from]) return false;
    }
    return true;
  }

  /** How many address lines reach within so many bytes. */
  private static int lines(byte[] b) {
    return 32 - Integer.numberOfLeadingZeros(Math.max(1, b.length - 1));
  }

  private static Optional<Explained> tied(byte[] want, byte[] got) {
    for (int a = 0; a < lines(want); a++) {
      int bit = 1 << a;
      boolean low = through(want, got, i -> i & ~bit);
      if (!low && !through(want, got, i -> i | bit)) continue;
      return found(
          Pattern.ADDRESS_TIED,
          "Address line A"
              + a
              + " is held at "
              + (low ? 0 : 1)
              + ": what lies "
              + step(bit)
              + " apart reads the same.",
          SEAT);
    }
    return Optional.empty();
  }

  private static String step(int bit) {
    return String.format(Locale.ROOT, "%04X", bit);
  }

  /** A number with two of its bits exchanged. */
  static int exchanged(int i, int a, int b) {
    int differ = (i >> a ^ i >> b) & 1;
    return i ^ (differ << a | differ << b);
  }

  private static Optional<Explained> exchangedAddresses(byte[] want, byte[] got) {
    for (int a = 0; a < lines(want); a++) {
      for (int b = a + 1; b < lines(want); b++) {
        int x = a;
        int y = b;
        if (!through(want, got, i -> exchanged(i, x, y))) continue;
        return found(
            Pattern.ADDRESS_EXCHANGED,
            "Address lines A"
                + a
                + " and A"
                + b
                + " are exchanged: places "
                + step(1 << b)
                + " and "
                + step(1 << a)
                + " stand for each other.",
            "Not the chip: look at the socket's wiring, the adapter, and the type that was chosen.");
      }
    }
    return Optional.empty();
  }

  /** Two lines that touch: each is 1 only where both are, or where one is. */
  private static Optional<Explained> shorted(byte[] want, byte[] got) {
    for (int a = 0; a < lines(want); a++) {
      for (int b = a + 1; b < lines(want); b++) {
        int both = 1 << a | 1 << b;
        boolean and = through(want, got, i -> (i & both) == both ? i : i & ~both);
        if (!and && !through(want, got, i -> (i & both) == 0 ? i : i | both)) continue;
        return found(
            Pattern.ADDRESS_SHORTED,
            "Address lines A"
                + a
                + " and A"
                + b
                + " touch: both are "
                + (and ? "0 where one of them is." : "1 where one of them is."),
            "Look for a bridge of solder, or legs that touch under the socket.");
      }
    }
    return Optional.empty();
  }

  private static Optional<Explained> exchangedPairs(byte[] want, byte[] got) {
    if (through(want, got, i -> i ^ 1)) {
      return found(
          Pattern.BYTES_EXCHANGED,
          "The bytes of each pair are exchanged: high and low are the wrong way round.",
          "Exchange the two chips, or join the image in the other order.");
    }
    if (through(want, got, i -> i ^ want.length >> 1)) {
      return found(
          Pattern.HALVES_EXCHANGED,
          "Its halves are exchanged: the topmost address line is inverted.",
          "Look at the jumper of that line, or program the halves the other way round.");
    }
    return Optional.empty();
  }

  private static Optional<Explained> exchangedData(byte[] want, byte[] got) {
    for (int a = 0; a < 8; a++) {
      for (int b = a + 1; b < 8; b++) {
        boolean same = true;
        for (int i = 0; same && i < want.length; i++) {
          same = (byte) exchanged(want[i] & 0xFF, a, b) == got[i];
        }
        if (!same) continue;
        return found(
            Pattern.DATA_LINES_EXCHANGED,
            "Data lines D" + a + " and D" + b + " are exchanged in every byte.",
            "Not the chip: look at the adapter and its wiring.");
      }
    }
    return Optional.empty();
  }

  /** Right up to a place, and blank from there. */
  private static Optional<Explained> stopped(byte[] want, byte[] got) {
    int at = 0;
    while (at < want.length && want[at] == got[at]) at++;
    // One byte that did not take is no end.
    if (want.length - at < 16) return Optional.empty();
    for (int i = at; i < got.length; i++) if (got[i] != -1) return Optional.empty();
    return found(
        Pattern.STOPPED,
        String.format(
            Locale.ROOT, "Right up to %04X and blank from there: programming stopped.", at),
        "Program it again over what is there; the bits that are right stay.");
  }

  private static Optional<Explained> notErased(byte[] want, byte[] got) {
    long low = 0;
    for (int i = 0; i < want.length; i++) {
      if ((got[i] & ~want[i] & 0xFF) != 0) return Optional.empty();
      low += Integer.bitCount(want[i] & ~got[i] & 0xFF);
    }
    return found(
        Pattern.NOT_ERASED,
        Say.plural(low, "bit reads", "bits read")
            + " 0 where 1 should be, and none the other way: it was not erased long enough.",
        "Erase it longer, look that every byte is FF, and program it again.");
  }

  private static Optional<Explained> notProgrammed(byte[] want, byte[] got) {
    long high = 0;
    for (int i = 0; i < want.length; i++) {
      if ((want[i] & ~got[i] & 0xFF) != 0) return Optional.empty();
      high += Integer.bitCount(got[i] & ~want[i] & 0xFF);
    }
    return found(
        Pattern.NOT_PROGRAMMED,
        Say.plural(high, "bit reads", "bits read")
            + " 1 where 0 should be, and none the other way: these cells did not take.",
        "Program it again over what is there; look at the programming voltage.");
  }
}
