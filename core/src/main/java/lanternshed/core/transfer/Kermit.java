package lanternshed.core.transfer;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/**
 * The packets of Kermit's base form: a mark, then only printable characters, so that a line which
 * keeps control characters for itself, or has no eighth bit, still carries them.
 *
 * <p>MARK, LEN, SEQ, TYPE, data and CHECK as the protocol manual publishes them (sixth edition,
 * 1986, sections 6 and 8): one packet at a time, a check of one character, and the eighth bit as a
 * prefix where both ends agree on it.
 */
final class Kermit {
  static final int MARK = 0x01;
  static final int END = 0x0D;

  static final byte SEND = 'S';
  static final byte FILE = 'F';
  static final byte DATA = 'D';
  static final byte EOF = 'Z';
  static final byte BREAK = 'B';
  static final byte YES = 'Y';
  static final byte NO = 'N';
  static final byte ERROR = 'E';

  /** Control characters go over as this and a printable one. */
  static final int QUOTE = '#';

  /** Before a character whose eighth bit is set, where the line has no eighth bit. */
  static final int EIGHTH = '&';

  /** LEN is one printable character: 94 is the most it counts. */
  static final int LONGEST = 94;

  /** SEQ, TYPE and CHECK are counted by LEN too. */
  static final int AROUND = 3;

  /** A packet is said again so often before an end gives up. */
  static final int TRIES = 10;

  /** Nothing for so long, and it is asked for again. */
  static final long PATIENCE = 10_000;

  private Kermit() {}

  /** A packet without its mark and end. */
  record Packet(int number, byte type, byte[] data) {
    String text() {
      return new String(data, StandardCharsets.US_ASCII);
    }
  }

  /**
   * What one end says of itself in its first packet.
   *
   * @param longest that it takes, as LEN counts
   * @param pads characters that it needs before each packet
   * @param end that it needs behind each packet
   * @param quote that it puts before control characters
   * @param eighth its wish for the eighth bit: Y agrees to the other's, N cannot
   */
  record Wishes(int longest, int pads, int pad, int end, int quote, int eighth) {
    static Wishes mine(int eighth) {
      return new Wishes(LONGEST, 0, 0, END, QUOTE, eighth);
    }

    byte[] data() {
      return new byte[] {
        (byte) printable(longest),
        (byte) printable((int) (PATIENCE / 1000)),
        (byte) printable(pads),
        (byte) control(pad),
        (byte) printable(end),
        (byte) quote,
        (byte) eighth,
        '1'
      };
    }

    /** What is left out, or a blank, stands for what the manual takes then. */
    static Wishes of(byte[] data) {
      int longest = at(data, 0, 80);
      return new Wishes(
          longest < 10 || longest > LONGEST ? 80 : longest,
          at(data, 2, 0),
          data.length > 3 && data[3] != ' ' ? control(data[3]) : 0,
          at(data, 4, END),
          data.length > 5 && data[5] != ' ' ? data[5] : QUOTE,
          data.length > 6 && data[6] != ' ' ? data[6] : 'N');
    }

    private static int at(byte[] data, int i, int otherwise) {
      boolean said = data.length > i && data[i] > ' ';
      return said ? data[i] - ' ' : otherwise;
    }

    /** The prefix for the eighth bit that both agree on; 0 for none. */
    static int agreed(int mine, int theirs) {
      if (isPrefix(mine) && (theirs == 'Y' || theirs == mine)) return mine;
      return isPrefix(theirs) && mine == 'Y' ? theirs : 0;
    }

    private static boolean isPrefix(int c) {
      return c > ' ' && c < '?' || c > '_' && c < 0x7F;
    }
  }

  static int printable(int n) {
    return n + ' ';
  }

  static int control(int c) {
    return c ^ 0x40;
  }

  /** The packet as it goes over, behind the padding that the other end needs. */
  static byte[] over(int number, byte type, byte[] data, Wishes theirs) {
    byte[] b = new byte[theirs.pads() + AROUND + data.length + 3];
    Arrays.fill(b, 0, theirs.pads(), (byte) theirs.pad());
    int at = theirs.pads();
    b[at] = MARK;
    b[at + 1] = (byte) printable(data.length + AROUND);
    b[at + 2] = (byte) printable(number & 0x3F);
    b[at + 3] = type;
    System.arraycopy(data, 0, b, at + 4, data.length);
    b[at + 4 + data.length] = (byte) check(b, at + 1, AROUND + data.length);
    b[at + 5 + data.length] = (byte) theirs.end();
    return b;
  }

  /** The check of one character: the sum's highest bits folded into its lowest six. */
  static int check(byte[] b, int from, int length) {
    int s = 0;
    for (int i = from; i < from + length; i++) s += b[i] & 0xFF;
    return printable(s + ((s & 0xC0) >> 6) & 0x3F);
  }

  /**
   * As much of a file from a place as a packet holds, quoted.
   *
   * @param eighth the prefix that was agreed on, or 0
   * @return the data, and how many bytes of the file they are
   */
  static Quoted quoted(byte[] file, int from, int room, int quote, int eighth) {
    ByteArrayOutputStream out = new ByteArrayOutputStream(room);
    int at = from;
    while (at < file.length) {
      byte[] one = quoted(file[at] & 0xFF, quote, eighth);
      if (out.size() + one.length > room) break;
      out.writeBytes(one);
      at++;
    }
    return new Quoted(out.toByteArray(), at - from);
  }

  /**
   * @param bytes of the file that it stands for
   */
  record Quoted(byte[] data, int bytes) {}

  private static byte[] quoted(int value, int quote, int eighth) {
    byte[] b = new byte[3];
    int n = 0;
    int c = value;
    if (eighth != 0 && c > 0x7F) {
      b[n++] = (byte) eighth;
      c &= 0x7F;
    }
    int low = c & 0x7F;
    if (low < ' ' || low == 0x7F) {
      b[n++] = (byte) quote;
      c = control(c);
    } else if (low == quote || eighth != 0 && low == eighth) {
      b[n++] = (byte) quote;
    }
    b[n++] = (byte) c;
    return Arrays.copyOf(b, n);
  }

  /** The bytes that quoted data stands for; null where it ends within a prefix. */
  static byte[] plain(byte[] data, int quote, int eighth) {
    ByteArrayOutputStream out = new ByteArrayOutputStream(data.length);
    int at = 0;
    while (at < data.length) {
      int high = 0;
      if (eighth != 0 && data[at] == eighth) {
        high = 0x80;
        if (++at == data.length) return null;
      }
      int c = data[at++] & 0xFF;
      if (c == quote) {
        if (at == data.length) return null;
        c = data[at++] & 0xFF;
        int low = c & 0x7F;
        // A prefix that is quoted stands for itself; all else that is quoted is a control.
        if (low >= '?' && low <= '_') c = control(c);
      }
      out.write(c | high);
    }
    return out.toByteArray();
  }

  /** Packets out of what comes: noise between them is passed over, a mark begins a new one. */
  static final class Reader {
    private final byte[] held = new byte[AROUND + LONGEST + 2];
    private int have;
    private boolean inside;

    /** The last that was no packet, as it came. */
    private byte[] bad = new byte[0];

    private String fault = "";

    /** What a byte brought about. */
    enum Came {
      NOTHING,
      PACKET,
      SPOILED
    }

    Came came(int value) {
      if (value == MARK) {
        have = 0;
        inside = true;
        held[have++] = (byte) value;
        return Came.NOTHING;
      }
      if (!inside) return Came.NOTHING;
      held[have++] = (byte) value;
      int length = (held[1] & 0xFF) - ' ';
      if (have == 2 && (length < AROUND || length > LONGEST)) {
        return spoiled("its length is no length");
      }
      if (have < length + 2) return Came.NOTHING;
      inside = false;
      if ((held[have - 1] & 0xFF) != check(held, 1, length)) return spoiled("its check is wrong");
      return Came.PACKET;
    }

    private Came spoiled(String why) {
      keep();
      fault = why;
      inside = false;
      return Came.SPOILED;
    }

    /** What has come of a packet when no more comes. */
    String unfinished() {
      if (!inside) return "";
      keep();
      inside = false;
      return "only " + have + " bytes of it came";
    }

    private void keep() {
      bad = Arrays.copyOf(held, have);
    }

    Packet packet() {
      return new Packet(held[2] - ' ' & 0x3F, held[3], Arrays.copyOfRange(held, 4, have - 1));
    }

    String fault() {
      return fault;
    }

    byte[] bad() {
      return bad.clone();
    }
  }
}
