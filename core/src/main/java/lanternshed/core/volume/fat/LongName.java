package lanternshed.core.volume.fat;

import java.util.Optional;
import lanternshed.core.measure.Bytes;
import lanternshed.core.volume.VolumeException;

/**
 * A long name in pieces of thirteen characters, which stand before their entry in reverse order
 * (FAT specification 1.03, chapter 7): collected when a folder is read, put when one is written.
 */
final class LongName {
  private static final int LETTERS = 13;
  private static final int MOST_LETTERS = 255;
  private static final int LAST = 0x40;

  private static final int[] PLACES = {1, 3, 5, 7, 9, 14, 16, 18, 20, 22, 24, 28, 30};
  private final StringBuilder text = new StringBuilder();
  private final char[] piece = new char[LETTERS];
  private int expect = -1;
  private int sum;

  void clear() {
    text.setLength(0);
    expect = -1;
  }

  void add(byte[] b, int at) {
    int order = b[at] & 0xFF;
    if ((order & 0x40) != 0) {
      clear();
      expect = order & 0x3F;
      sum = b[at + 13] & 0xFF;
    }
    if (expect < 1 || expect > 20 || (order & 0x3F) != expect || (b[at + 13] & 0xFF) != sum) {
      clear();
      return;
    }
    // Plain letters of 16 bits: the two halves of a pair may stand in two pieces.
    int n = 0;
    while (n < LETTERS) {
      char c = (char) Bytes.u16(b, at + PLACES[n]);
      if (c == 0) break;
      piece[n++] = c;
    }
    text.insert(0, piece, 0, n);
    expect--;
  }

  /** The name, if all its pieces came and its sum is the entry's. */
  Optional<String> forEntry(byte[] b, int at) {
    return sum(b, at) == sum ? whole() : Optional.empty();
  }

  /**
   * The letters on disk of the long name that stands before an entry; empty where there is none.
   */
  static Optional<String> before(byte[] folder, int entry) {
    LongName n = new LongName();
    int from = entry;
    while (from >= FatVolume.ENTRY && folder[from - FatVolume.ENTRY + 11] == FatVolume.LONG_NAME) {
      from -= FatVolume.ENTRY;
    }
    for (int at = from; at < entry; at += FatVolume.ENTRY) n.add(folder, at);
    return n.forEntry(folder, entry).map(safe -> n.text.toString());
  }

  /** The name before an entry whose first character is gone, and its sum with it. */
  Optional<String> forSpoiled(byte[] b, int at) {
    return b[at] == 0 ? whole() : forEntry(b, at);
  }

  /** The first character of a short name that is gone, by the sum in the long one; 0 for none. */
  byte firstCharacter(byte[] b, int at) {
    byte[] e = java.util.Arrays.copyOfRange(b, at, at + 11);
    for (int c = 0x21; c < 0x100 && expect == 0; c++) {
      e[0] = (byte) c;
      if (sum(e, 0) == sum && FatNames.fault(e, 0).isEmpty()) return e[0];
    }
    return 0;
  }

  private Optional<String> whole() {
    if (expect != 0 || text.isEmpty()) return Optional.empty();
    String safe = FatNames.safe(text.toString());
    return safe.equals(".") || safe.equals("..") ? Optional.empty() : Optional.of(safe);
  }

  /** The specification's sum over the eleven bytes of a short name. */
  static int sum(byte[] b, int at) {
    int s = 0;
    for (int i = 0; i < 11; i++) s = ((s & 1) << 7 | s >> 1) + (b[at + i] & 0xFF) & 0xFF;
    return s;
  }

  /** How many entries a long name takes before its short one. */
  static int pieces(String name) {
    return (name.length() + LETTERS - 1) / LETTERS;
  }

  /**
   * Whether a name can stand as a long one.
   *
   * @throws VolumeException saying why it cannot
   */
  static void check(String name) {
    String why = "";
    if (name.length() > MOST_LETTERS) why = "has more than 255 characters";
    else if (name.endsWith(".") || name.endsWith(" ")) why = "ends with a point or a space";
    for (char c : name.toCharArray()) {
      if (c < 0x20 || "\"*/:<>?\\|".indexOf(c) >= 0) why = "has the character \"" + c + "\"";
    }
    if (!why.isEmpty()) throw new VolumeException("\"" + name + "\" " + why + "; rename it.");
  }

  /**
   * Writes the pieces of a name, the last one first.
   *
   * @param sum of the short name that follows
   * @return where the short entry comes
   */
  static int put(byte[] b, int at, String name, int sum) {
    int pieces = pieces(name);
    for (int p = pieces; p >= 1; p--) {
      b[at] = (byte) (p == pieces ? p | LAST : p);
      b[at + 11] = FatVolume.LONG_NAME;
      b[at + 13] = (byte) sum;
      for (int i = 0; i < LETTERS; i++) {
        int letter = (p - 1) * LETTERS + i;
        // After the name one zero, then all bits set.
        int c = letter < name.length() ? name.charAt(letter) : letter == name.length() ? 0 : 0xFFFF;
        Bytes.put16(b, at + PLACES[i], c);
      }
      at += FatVolume.ENTRY;
    }
    return at;
  }
}
