package lanternshed.core.volume.fat;

import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import lanternshed.core.volume.VolumeException;

/**
 * 8.3 names as they stand in a folder entry (F-7): code page 437, upper case, no reserved names.
 */
final class FatNames {
  static final Charset CODE_PAGE = Charset.forName("IBM437");

  /** The code page by byte: a folder of thousands asks for nothing else. */
  private static final char[] LETTERS = letters();

  static final String FORBIDDEN = "\"*+,./:;<=>?[\\]|";
  private static final String ALLOWED = "!#$%&'()-@^_`{}~";
  private static final Set<String> RESERVED =
      Set.of(
          "CON", "PRN", "AUX", "NUL", "CLOCK$", "COM1", "COM2", "COM3", "COM4", "LPT1", "LPT2",
          "LPT3", "LPT4");

  private FatNames() {}

  private static char[] letters() {
    byte[] all = new byte[256];
    for (int i = 0; i < all.length; i++) all[i] = (byte) i;
    return new String(all, CODE_PAGE).toCharArray();
  }

  /**
   * The name in an entry's first 11 bytes, "HERON.PAT"; the byte 05 stands for E5. What a file
   * system of today would take for a path or a control becomes "·", so that no name leads outside.
   */
  static String decode(byte[] b, int at) {
    char[] raw = new char[11];
    for (int i = 0; i < raw.length; i++) raw[i] = LETTERS[b[at + i] & 0xFF];
    if (b[at] == 0x05) raw[0] = LETTERS[0xE5];
    String base = safe(new String(raw, 0, 8).stripTrailing());
    String extension = safe(new String(raw, 8, 3).stripTrailing());
    return extension.isEmpty() ? base : base + "." + extension;
  }

  /**
   * A short name in the letters that its entry's byte 0C asks for: bit 3 small before the point,
   * bit 4 after it. NT-generation systems keep a name that is all small in this way, without a long
   * one.
   */
  static String cased(String name, int flags) {
    int dot = name.lastIndexOf('.');
    String base = dot < 0 ? name : name.substring(0, dot);
    String extension = dot < 0 ? "" : name.substring(dot);
    return ((flags & 0x08) != 0 ? base.toLowerCase(Locale.ROOT) : base)
        + ((flags & 0x10) != 0 ? extension.toLowerCase(Locale.ROOT) : extension);
  }

  /** Replaces what could be a path, a drive or a control character, and halves of no pair. */
  static String safe(String name) {
    char[] letters = name.toCharArray();
    boolean changed = false;
    for (int i = 0; i < letters.length; i++) {
      char c = letters[i];
      if (c >= 0x20 && c < 0x7F && c != '/' && c != '\\' && c != ':') continue;
      if (c > 0x7F && c != 0xFFFD && !half(letters, i)) continue;
      letters[i] = '·';
      changed = true;
    }
    return changed ? new String(letters) : name;
  }

  /** Whether a letter is the half of a pair whose other half is not beside it. */
  private static boolean half(char[] letters, int i) {
    if (Character.isHighSurrogate(letters[i])) {
      return i + 1 == letters.length || !Character.isLowSurrogate(letters[i + 1]);
    }
    return Character.isLowSurrogate(letters[i])
        && (i == 0 || !Character.isHighSurrogate(letters[i - 1]));
  }

  /** What is wrong with the 11 bytes of a label, which may hold spaces anywhere but first. */
  static String labelFault(byte[] b, int at) {
    if (b[at] == ' ') return "begins with a space";
    for (int i = at; i < at + 11; i++) {
      int c = b[i] & 0xFF;
      if (c < 0x20 && !(i == at && c == 0x05) || c == 0x7F) {
        return String.format("has the control character %02X", c);
      }
      if (FORBIDDEN.indexOf(c) >= 0) return "has the character " + (char) c;
    }
    return "";
  }

  /** Whether the label of the root folder is the one of the boot sector, byte for byte. */
  static boolean sameLabel(Optional<byte[]> inRoot, String inBoot) {
    return inRoot.isPresent()
        && new String(inRoot.get(), StandardCharsets.ISO_8859_1).stripTrailing().equals(inBoot);
  }

  /** What is wrong with the 11 bytes, or "" when nothing is. */
  static String fault(byte[] b, int at) {
    if (b[at] == ' ') return "begins with a space";
    for (int part = 0; part < 2; part++) {
      int from = at + (part == 0 ? 0 : 8);
      int to = at + (part == 0 ? 8 : 11);
      boolean ended = false;
      for (int i = from; i < to; i++) {
        int c = b[i] & 0xFF;
        if (i == at && c == 0x05) continue;
        // DOS itself keeps what it was given: a space inside is legal on disk, a lower-case letter
        // is
        // not found by any system.
        if (c >= 'a' && c <= 'z') return "has a lower-case letter";
        if (c < 0x20 || c == 0x7F) return String.format("has the control character %02X", c);
        if (FORBIDDEN.indexOf(c) >= 0) return "has the character " + (char) c;
        if (c == ' ') ended = true;
        else if (ended && part == 1) return "has a space inside its extension";
      }
    }
    return "";
  }

  /**
   * The 11 bytes of a name.
   *
   * @throws VolumeException where it is no 8.3 name; says which rule it breaks
   */
  static byte[] encode(String name) {
    int dot = name.lastIndexOf('.');
    String base = dot < 0 ? name : name.substring(0, dot);
    String extension = dot < 0 ? "" : name.substring(dot + 1);
    String why = "";
    if (base.isEmpty()) why = "has nothing before its point";
    else if (base.length() > 8) why = "has more than 8 characters before its point";
    else if (extension.length() > 3) why = "has more than 3 characters after its point";
    else if (RESERVED.contains(base)) why = "is the name of a device";
    byte[] b = new byte[11];
    java.util.Arrays.fill(b, (byte) ' ');
    if (why.isEmpty()) why = put(b, 0, base);
    if (why.isEmpty()) why = put(b, 8, extension);
    if (!why.isEmpty()) {
      throw new VolumeException("\"" + name + "\" " + why + "; 8.3 names only are written.");
    }
    if (b[0] == (byte) 0xE5) b[0] = 0x05;
    return b;
  }

  /** Whether a short name may have this character. */
  static boolean isLegal(char c) {
    boolean plain = c >= 'A' && c <= 'Z' || c >= '0' && c <= '9' || ALLOWED.indexOf(c) >= 0;
    return plain || c > 0x7F && CODE_PAGE.newEncoder().canEncode(c);
  }

  private static String put(byte[] b, int at, String part) {
    for (char c : part.toCharArray()) {
      if (!isLegal(c)) {
        return c >= 'a' && c <= 'z' ? "has a lower-case letter" : "has the character \"" + c + "\"";
      }
      b[at++] = String.valueOf(c).getBytes(CODE_PAGE)[0];
    }
    return "";
  }

  /** The key under which two names on one volume are the same. */
  static String key(String name) {
    return name.toUpperCase(Locale.ROOT);
  }

  /**
   * A name as systems tell long names apart: letter by letter in upper case. No letter beyond ASCII
   * becomes one of it: the dotless i is no I, the long s no S.
   */
  static String fold(String name) {
    char[] letters = name.toCharArray();
    for (int i = 0; i < letters.length; i++) {
      char upper = Character.toUpperCase(letters[i]);
      if (letters[i] < 0x80 || upper >= 0x80) letters[i] = upper;
    }
    return new String(letters);
  }
}
