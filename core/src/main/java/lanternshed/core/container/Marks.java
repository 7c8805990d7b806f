package lanternshed.core.container;

import java.util.Arrays;
import java.util.HexFormat;

/** The first bytes that name a form. */
public final class Marks {
  private Marks() {}

  /** Whether a head begins with those bytes, "1F8B". */
  public static boolean begins(byte[] head, String mark) {
    byte[] m = HexFormat.of().parseHex(mark);
    return head.length >= m.length && Arrays.equals(head, 0, m.length, m, 0, m.length);
  }
}
