package lanternshed.core.volume.exfat;

import java.io.ByteArrayOutputStream;
import lanternshed.core.measure.Bytes;

/**
 * The upcase table of new volumes: ASCII, as the specification asks for, and the scripts of Europe.
 * It is written down here rather than asked of the runtime, whose tables grow with its versions.
 */
final class Upcase {
  private static final int SAME = 0xFFFF;

  private Upcase() {}

  static char of(char c) {
    if (c >= 'a' && c <= 'z') return (char) (c - 0x20);
    if (c < 0x80) return c;
    if (c >= 0xE0 && c <= 0xFE && c != 0xF7) return (char) (c - 0x20);
    if (c == 0xFF) return 0x178;
    // Latin Extended-A: pairs, the large letter even; from 0139 on odd.
    boolean evenPairs = c >= 0x100 && c <= 0x137 && c != 0x131 || c >= 0x14A && c <= 0x177;
    if (evenPairs) return (char) (c & ~1);
    boolean oddPairs = c >= 0x139 && c <= 0x148 || c >= 0x179 && c <= 0x17E;
    if (oddPairs) return (c & 1) == 0 ? (char) (c - 1) : c;
    if (c >= 0x3B1 && c <= 0x3CB && c != 0x3C2) return (char) (c - 0x20);
    if (c >= 0x430 && c <= 0x44F) return (char) (c - 0x20);
    return c >= 0x450 && c <= 0x45F ? (char) (c - 0x50) : c;
  }

  /** The table, runs of letters that stay as they are compressed (section 7.2.5). */
  static byte[] table() {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    for (int c = 0; c < 0x10000; ) {
      int same = 0;
      while (c + same < 0x10000 && of((char) (c + same)) == c + same) same++;
      if (c >= 0x80 && same > 2) {
        put(out, SAME);
        put(out, same == 0x10000 ? SAME : same);
        c += same;
      } else put(out, of((char) c++));
    }
    return out.toByteArray();
  }

  /** A table as it lies on disk, by letter; what it leaves out stays as it is. */
  static char[] read(byte[] b) {
    char[] out = new char[0x10000];
    for (int c = 0; c < out.length; c++) out[c] = (char) c;
    int c = 0;
    for (int at = 0; at + 2 <= b.length && c < out.length; at += 2) {
      int u = Bytes.u16(b, at);
      if (u == SAME && at + 4 <= b.length) {
        at += 2;
        c += Bytes.u16(b, at);
      } else out[c++] = (char) u;
    }
    return out;
  }

  /**
   * Whether bytes can be a whole table: they tell of every letter once, of ASCII what must be told,
   * and what is in upper case stays so.
   */
  static boolean makesSense(byte[] b) {
    long letters = 0;
    for (int at = 0; at + 2 <= b.length; at += 2) {
      if (Bytes.u16(b, at) == SAME && at + 4 <= b.length) {
        at += 2;
        letters += Bytes.u16(b, at);
      } else letters++;
    }
    // The last run may be one letter short: its count of 16 bits cannot say all of them.
    if (b.length % 2 != 0 || letters < 0xFFFF || letters > 0x10000) return false;
    char[] upper = read(b);
    for (char c = 0; c < 0x80; c++) if (upper[c] != of(c)) return false;
    for (char u : upper) if (upper[u] != u) return false;
    return true;
  }

  private static void put(ByteArrayOutputStream out, int c) {
    out.write(c);
    out.write(c >> 8);
  }
}
