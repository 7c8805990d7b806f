package lanternshed.core.work;

import lanternshed.core.measure.ShedException;

/** The marks that FAT and exFAT share, as letters: read-only, hidden, system, archive. */
public final class Marks {
  private static final String LETTERS = "rhsa";
  private static final int[] BITS = {0x01, 0x02, 0x04, 0x20};

  private Marks() {}

  /**
   * The bits of some letters.
   *
   * @throws ShedException where one is none of them
   */
  public static int of(String letters) {
    int out = 0;
    for (char c : letters.toCharArray()) {
      int at = LETTERS.indexOf(c);
      if (at < 0) {
        throw new ShedException("\"" + letters + "\" has a mark that is none of r, h, s, a.");
      }
      out |= BITS[at];
    }
    return out;
  }

  /** The letters of some bits; other bits have none. */
  public static String letters(int marks) {
    StringBuilder out = new StringBuilder();
    for (int i = 0; i < BITS.length; i++) {
      if ((marks & BITS[i]) != 0) out.append(LETTERS.charAt(i));
    }
    return out.toString();
  }
}
