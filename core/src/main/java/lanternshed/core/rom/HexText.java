package lanternshed.core.rom;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Iterator;
import java.util.Locale;
import java.util.Optional;
import lanternshed.core.measure.ShedException;

/**
 * The two published texts in which programmers take images: records of hexadecimal digits with an
 * address and a sum, in the forms that begin with ":" and with "S".
 */
public final class HexText {
  private static final int A_LINE = 16;
  private static final int MOST_LINES = 1_000_000;

  private HexText() {}

  /** The forms of a file. */
  public enum Form {
    RAW,
    /** ":" records, data 00, end 01, segments 02, upper halves 04. */
    INTEL,
    /** "S" records, data S1 to S3, ends S7 to S9. */
    MOTOROLA
  }

  /** In which form a file is, by its first characters. */
  public static Form form(byte[] file) {
    int at = 0;
    while (at < file.length && (file[at] == '\r' || file[at] == '\n' || file[at] == ' ')) at++;
    if (at + 10 > file.length) return Form.RAW;
    String head = new String(file, at, 10, StandardCharsets.ISO_8859_1);
    if (head.matches(":[0-9A-Fa-f]{9}")) return Form.INTEL;
    return head.matches("S[0-9][0-9A-Fa-f]{8}") ? Form.MOTOROLA : Form.RAW;
  }

  /**
   * The bytes of a file in whichever form it is; gaps are FF, the first address that is used is the
   * first byte.
   *
   * @throws ShedException where a record is broken, with its line
   */
  public static byte[] read(byte[] file) {
    Form form = form(file);
    if (form == Form.RAW) return file;
    return new Reader().read(new String(file, StandardCharsets.ISO_8859_1), form);
  }

  private static final class Reader {
    private final byte[] all = new byte[2 * Chip.MOST];
    private long upper;
    private long base = -1;
    private int end;

    byte[] read(String text, Form form) {
      Arrays.fill(all, (byte) 0xFF);
      int number = 0;
      boolean ended = false;
      // One after the other: a file of nothing but line ends makes no list of them.
      for (Iterator<String> lines = text.lines().iterator(); lines.hasNext(); ) {
        String line = lines.next();
        if (++number > MOST_LINES) throw broken(number, "there are too many lines");
        String l = line.strip();
        if (l.isEmpty()) continue;
        if (ended) throw broken(number, "something follows the record of the end");
        ended = form == Form.INTEL ? intel(l, number) : motorola(l, number);
      }
      if (!ended) throw broken(number, "the record of the end is missing, so the file is cut off");
      if (base < 0) throw broken(number, "there is no data");
      return Arrays.copyOf(all, end);
    }

    private boolean intel(String l, int number) {
      byte[] b = bytes(l, 1, ':', number);
      if (b.length < 5 || b.length != (b[0] & 0xFF) + 5)
        throw broken(number, "its length is not so");
      int sum = 0;
      for (byte x : b) sum += x;
      if ((sum & 0xFF) != 0) throw broken(number, "its sum is not so");
      int address = (b[1] & 0xFF) << 8 | b[2] & 0xFF;
      int two = b.length >= 7 ? (b[4] & 0xFF) << 8 | b[5] & 0xFF : 0;
      switch (b[3]) {
        case 0 -> put(upper + address, b, 4, b.length - 5, number);
        case 1 -> {
          return true;
        }
        case 2 -> upper = (long) two << 4;
        case 4 -> upper = (long) two << 16;
        case 3, 5 -> {
          // Where a program would start; no byte of the image.
        }
        default -> throw broken(number, "its type " + b[3] + " is not known");
      }
      return false;
    }

    private boolean motorola(String l, int number) {
      byte[] b = bytes(l, 2, 'S', number);
      if (b.length < 4 || b.length != (b[0] & 0xFF) + 1)
        throw broken(number, "its length is not so");
      int sum = 0;
      for (byte x : b) sum += x;
      if ((sum & 0xFF) != 0xFF) throw broken(number, "its sum is not so");
      int type = l.charAt(1) - '0';
      if (type >= 7) return true;
      if (type < 1 || type > 3) return false;
      int wide = type + 1;
      if (b.length < wide + 2) throw broken(number, "its length is not so");
      long address = 0;
      for (int i = 1; i <= wide; i++) address = address << 8 | b[i] & 0xFF;
      put(address, b, 1 + wide, b.length - wide - 2, number);
      return false;
    }

    private void put(long address, byte[] b, int from, int count, int number) {
      if (count == 0) return;
      // Records come from low to high nearly always; a lower one later moves what is there.
      if (base < 0) base = address;
      if (address < base) {
        long by = base - address;
        if (by + end > Chip.MOST) throw broken(number, "its address lies too far from the others");
        System.arraycopy(all, 0, all, (int) by, end);
        Arrays.fill(all, 0, (int) by, (byte) 0xFF);
        end += (int) by;
        base = address;
      }
      long at = address - base;
      if (at + count > Chip.MOST) throw broken(number, "its address lies too far from the others");
      System.arraycopy(b, from, all, (int) at, count);
      end = Math.max(end, (int) at + count);
    }

    private static byte[] bytes(String l, int from, char mark, int number) {
      if (l.charAt(0) != mark || (l.length() - from) % 2 != 0 || l.length() > 600) {
        throw broken(number, "it is no record");
      }
      byte[] out = new byte[(l.length() - from) / 2];
      for (int i = 0; i < out.length; i++) {
        int high = Character.digit(l.charAt(from + 2 * i), 16);
        int low = Character.digit(l.charAt(from + 2 * i + 1), 16);
        if (high < 0 || low < 0) throw broken(number, "it is no record");
        out[i] = (byte) (high << 4 | low);
      }
      return out;
    }

    private static ShedException broken(int line, String what) {
      return new ShedException(
          "Line " + line + " of this hexadecimal text: " + what + ". Bring the file again.");
    }
  }

  /** The image as a text in which it can be read back, from address 0. */
  public static Optional<String> write(byte[] image, Form form) {
    if (form == Form.RAW) return Optional.empty();
    StringBuilder out = new StringBuilder();
    for (int at = 0; at < image.length; at += A_LINE) {
      if (form == Form.INTEL && at > 0 && (at & 0xFFFF) == 0) {
        record(out, form, 4, 0, new byte[] {(byte) (at >> 24), (byte) (at >> 16)});
      }
      byte[] some = Arrays.copyOfRange(image, at, Math.min(image.length, at + A_LINE));
      record(out, form, form == Form.INTEL ? 0 : 2, at, some);
    }
    out.append(form == Form.INTEL ? ":00000001FF\n" : "S804000000FB\n");
    return Optional.of(out.toString());
  }

  private static void record(StringBuilder out, Form form, int type, int at, byte[] data) {
    int sum;
    if (form == Form.INTEL) {
      out.append(String.format(Locale.ROOT, ":%02X%04X%02X", data.length, at & 0xFFFF, type));
      sum = data.length + (at >> 8 & 0xFF) + (at & 0xFF) + type;
    } else {
      out.append(String.format(Locale.ROOT, "S2%02X%06X", data.length + 4, at));
      sum = data.length + 4 + (at >> 16 & 0xFF) + (at >> 8 & 0xFF) + (at & 0xFF);
    }
    for (byte b : data) {
      out.append(String.format(Locale.ROOT, "%02X", b));
      sum += b & 0xFF;
    }
    int last = form == Form.INTEL ? -sum : ~sum;
    out.append(String.format(Locale.ROOT, "%02X\n", last & 0xFF));
  }
}
