package lanternshed.core.rom;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.zip.CRC32;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sha256;
import lanternshed.core.measure.ShedException;
import lanternshed.core.measure.Sum;

/**
 * What an image of a ROM is, by its bytes (O-1).
 *
 * @param kilobits of the smallest chip that takes it
 * @param option absent where it is no option ROM
 * @param stretches what lies where, from the first byte to the last, without gaps
 * @param texts that stand in it, the first of them
 * @param fields bytes that have a name
 */
public record RomFacts(
    int bytes,
    int kilobits,
    Optional<OptionRom> option,
    List<RomStretch> stretches,
    List<RomWords> texts,
    List<RomField> fields,
    String sha256,
    String crc32,
    List<Finding> findings) {

  /** A code that fills a chip is rarely so long without a byte of another value. */
  private static final int BLANK = 64;

  private static final int MOST_STRETCHES = 48;
  private static final int MOST_TEXTS = 40;
  private static final int LEAST_TEXT = 6;
  private static final int UNIT = 512;
  private static final Pattern TELLING =
      Pattern.compile("(?i)\\b(v|ver|version|rev)?\\.? ?\\d+\\.\\d+|\\d\\d[/-]\\d\\d[/-]\\d\\d");

  /**
   * The header of an option ROM.
   *
   * @param length in bytes, as its third byte says
   * @param sum of all bytes over that length, modulo 256; 0 is right
   * @param entry how the code is entered, in words
   * @param last the byte that is corrected, as it is
   * @param right that byte so that the sum is 0
   */
  public record OptionRom(int length, int sum, String entry, int last, int right) {}

  /** What a stretch is made of. */
  public enum Kind {
    USED,
    FF,
    ZERO
  }

  /**
   * @param start its first byte
   */
  public record RomStretch(Kind kind, int start, int length) {}

  /**
   * @param telling whether it looks like a version or a date
   */
  public record RomWords(int at, String text, boolean telling) {}

  public static RomFacts of(byte[] b) {
    CRC32 crc = new CRC32();
    crc.update(b);
    Optional<OptionRom> option = option(b);
    List<RomWords> texts = texts(b);
    return new RomFacts(
        b.length,
        Chip.holding(b.length).map(Chip::kilobits).orElse(0),
        option,
        stretches(b),
        texts,
        RomField.of(b, option, texts),
        Sha256.of(b),
        String.format(Locale.ROOT, "%08X", crc.getValue()),
        findings(b, option));
  }

  /** In two words, for a list. */
  public String what() {
    return option.map(o -> "option ROM, " + Say.size(o.length())).orElse("no option ROM");
  }

  /** The first thing that is wrong with it; "" where nothing is. */
  public String fault() {
    return findings.stream()
        .filter(f -> f.weight() != Finding.Weight.NOTE)
        .map(Finding::what)
        .findFirst()
        .orElse("");
  }

  private static boolean marked(byte[] b) {
    return b.length >= 4 && b[0] == 0x55 && (b[1] & 0xFF) == 0xAA;
  }

  private static Optional<OptionRom> option(byte[] b) {
    if (!marked(b)) return Optional.empty();
    int length = (b[2] & 0xFF) * UNIT;
    int within = Math.min(length, b.length);
    int sum = 0;
    for (int i = 0; i < within; i++) sum += b[i] & 0xFF;
    sum &= 0xFF;
    int last = within == 0 ? 0 : b[within - 1] & 0xFF;
    return Optional.of(new OptionRom(length, sum, entry(b), last, last - sum & 0xFF));
  }

  private static String entry(byte[] b) {
    int op = b[3] & 0xFF;
    if (op == 0xCB) return "returns at once";
    if (op == 0xEB && b.length > 4) return jump(b, 5 + b[4]);
    if (op == 0xE9 && b.length > 5) {
      return jump(b, 6 + (short) (b[4] & 0xFF | b[5] << 8));
    }
    return op == 0xFF || op == 0 ? "no code" : "code begins at 0003";
  }

  private static String jump(byte[] b, int to) {
    boolean inside = to >= 0 && to < b.length;
    return inside ? String.format(Locale.ROOT, "jumps to %04X", to) : "jumps out of the image";
  }

  private static List<Finding> findings(byte[] b, Optional<OptionRom> option) {
    List<Finding> out = new ArrayList<>();
    if (option.isEmpty()) {
      noMark(b).ifPresent(out::add);
      return out;
    }
    OptionRom o = option.get();
    if (o.length() == 0) {
      out.add(
          Finding.wrong(
              "O-1",
              "byte 0002",
              "The length byte is 00: the firmware takes nothing of it.",
              "Look whether the image is whole, or is to be configured first."));
    } else if (o.length() > b.length) {
      out.add(
          Finding.stops(
              "O-1",
              "byte 0002",
              "It says that it has "
                  + Say.bytes(o.length())
                  + ", and there are "
                  + Say.bytes(b.length)
                  + ": its end is missing.",
              "Bring the whole image, or join its parts."));
    } else if (o.sum() != 0) {
      out.add(sum(o));
    }
    if (o.entry().contains("out of") || o.entry().equals("no code")) {
      out.add(
          Finding.wrong(
              "O-1",
              "byte 0003",
              "Where the firmware enters it: " + o.entry() + ".",
              "Look whether the image is whole, or its halves are exchanged."));
    }
    return out;
  }

  private static Finding sum(OptionRom o) {
    Sum because =
        Sum.of("O-1", "Sum of an option ROM")
            .line("", "bytes by its length byte", o.length())
            .note("their sum, modulo 256", hex(o.sum()))
            .note("the last of them is", hex(o.last()))
            .note("it must be", hex(o.right()))
            .because(
                "The firmware adds all bytes over the length and enters the ROM only where nothing"
                    + " is left modulo 256. Configuring an image changes bytes, so the last one is"
                    + " corrected.")
            .done();
    return Finding.wrong(
            "O-1",
            String.format(Locale.ROOT, "byte %04X", o.length() - 1),
            "The sum of its "
                + Say.count(o.length())
                + " bytes is "
                + hex(o.sum())
                + ", not 00: the firmware skips it without a word.",
            "Correct the last byte, " + hex(o.last()) + " → " + hex(o.right()) + ".")
        .because(because);
  }

  static String hex(int b) {
    return String.format(Locale.ROOT, "%02X", b);
  }

  /** Why it has no mark of an option ROM, where its first bytes tell. */
  private static Optional<Finding> noMark(byte[] b) {
    if (b.length < 4) return Optional.empty();
    int first = b[0] & 0xFF;
    int second = b[1] & 0xFF;
    if (first == 0xAA && second == 0x55) {
      return Optional.of(
          Finding.wrong(
              "O-4",
              "byte 0000",
              "It begins with AA 55: the bytes of each pair are exchanged.",
              "Join the two chips in the other order."));
    }
    if (first == 0x55 || first == 0xAA) {
      String half = first == 0x55 ? "the even bytes (low)" : "the odd bytes (high)";
      return Optional.of(
          Finding.note(
              "O-4",
              "byte 0000",
              "It begins with " + hex(first) + " alone: these may be " + half + " of a pair."));
    }
    return Optional.of(
        Finding.note(
            "O-1",
            "byte 0000",
            "No mark 55 AA: no option ROM. It may be a system ROM, one of a set, or another"
                + " machine's."));
  }

  /** Runs of one value are blank; short ones belong to what is around them. */
  private static List<RomStretch> stretches(byte[] b) {
    List<RomStretch> out = new ArrayList<>();
    int from = 0;
    for (int at = 0; at < b.length; ) {
      int end = at + 1;
      boolean blank = b[at] == -1 || b[at] == 0;
      while (blank && end < b.length && b[end] == b[at]) end++;
      if (blank && end - at >= BLANK && out.size() < MOST_STRETCHES - 2) {
        if (at > from) out.add(new RomStretch(Kind.USED, from, at - from));
        out.add(new RomStretch(b[at] == 0 ? Kind.ZERO : Kind.FF, at, end - at));
        from = end;
      }
      at = end;
    }
    if (from < b.length) out.add(new RomStretch(Kind.USED, from, b.length - from));
    return out;
  }

  private static List<RomWords> texts(byte[] b) {
    List<RomWords> out = new ArrayList<>();
    for (int at = 0; at < b.length && out.size() < MOST_TEXTS; ) {
      int end = at;
      while (end < b.length && end - at < 120 && b[end] >= 0x20 && b[end] < 0x7F) end++;
      String s = new String(b, at, end - at, StandardCharsets.US_ASCII);
      // Code is printable by chance; words have letters side by side.
      if (s.length() >= LEAST_TEXT && s.matches(".*([A-Za-z]{4}|\\d\\d[/-]\\d\\d).*")) {
        out.add(new RomWords(at, s.strip(), TELLING.matcher(s).find()));
      }
      at = Math.max(end, at + 1);
    }
    return out;
  }

  /**
   * The image with its sum made right by the last byte of its length.
   *
   * @throws ShedException where it is no whole option ROM
   */
  public static byte[] corrected(byte[] b) {
    OptionRom o =
        option(b)
            .filter(x -> x.length() > 0 && x.length() <= b.length)
            .orElseThrow(
                () ->
                    new ShedException(
                        "This is no whole option ROM; there is no sum that could be corrected."));
    byte[] out = b.clone();
    out[o.length() - 1] = (byte) o.right();
    return out;
  }
}
