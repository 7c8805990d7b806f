package lanternshed.core.kind;

import java.util.Arrays;

/**
 * The beginning of a file, and how long it is. Its name is not asked: what a file is follows from
 * its bytes.
 *
 * @param head its first bytes, {@link #wanted} of them
 * @param length of the file in bytes
 */
public record Sample(byte[] head, long length) {
  /** Programs of small machines are whole within it; of long files the structures come first. */
  private static final int MOST = 256 << 10;

  /** Of what is longer only structures at its beginning are looked for. */
  private static final int FIRST = 8 << 10;

  /** So many first bytes of a file are looked at. */
  public static int wanted(long length) {
    return length <= MOST ? (int) length : FIRST;
  }

  boolean whole() {
    return head.length == length;
  }

  int at(int i) {
    return head[i] & 0xFF;
  }

  /** Big end first. */
  int word(int i) {
    return at(i) << 8 | at(i + 1);
  }

  /** Little end first. */
  int little(int i) {
    return at(i) | at(i + 1) << 8;
  }

  long little32(int i) {
    return little(i) | (long) little(i + 2) << 16;
  }

  boolean begins(int from, String mark) {
    if (from < 0 || from + mark.length() > head.length) return false;
    for (int i = 0; i < mark.length(); i++) if (at(from + i) != mark.charAt(i)) return false;
    return true;
  }

  /** Letters of a name in the file, without what no screen shows. */
  String letters(int from, int count) {
    StringBuilder out = new StringBuilder();
    for (byte b : Arrays.copyOfRange(head, from, from + count)) {
      out.append(b >= ' ' && b < 0x7F ? (char) b : ' ');
    }
    return out.toString().strip();
  }
}
