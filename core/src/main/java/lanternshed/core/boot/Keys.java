package lanternshed.core.boot;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import lanternshed.core.measure.ShedException;

/**
 * What somebody types while a machine starts, key after key.
 *
 * @param codes as a PC's firmware hands them out: the scan code above the character (published with
 *     INT 16h)
 */
public record Keys(List<Integer> codes) {
  /** Nobody touches the keyboard. */
  public static final Keys NONE = new Keys(List.of());

  private static final int MOST = 200;
  private static final String ROWS =
      "\0\0331234567890-=\b\tqwertyuiop[]\r\0asdfghjkl;'`\0\\zxcvbnm,./\0*\0 ";
  private static final String SHIFTED =
      "\0\0!@#$%^&*()_+\0\0QWERTYUIOP{}\0\0ASDFGHJKL:\"~\0|ZXCVBNM<>?";
  private static final int FIRST_FUNCTION = 0x3B;
  private static final int FUNCTIONS = 10;
  private static final Map<String, Integer> NAMED =
      Map.of(
          "enter", 0x1C0D,
          "esc", 0x011B,
          "space", 0x3920,
          "tab", 0x0F09,
          "up", 0x4800,
          "down", 0x5000,
          "left", 0x4B00,
          "right", 0x4D00);

  public Keys {
    codes = List.copyOf(codes);
  }

  /**
   * Keys as they are written: characters and the names Enter, Esc, Space, Tab, Up, Down, Left,
   * Right and F1 to F10, a blank between each.
   */
  public static Keys of(String text) {
    List<Integer> out = new ArrayList<>();
    for (String word : text.strip().split("\\s+")) {
      if (!word.isEmpty()) out.add(code(word));
    }
    if (out.size() > MOST) {
      throw new ShedException("More than " + MOST + " keys are not typed; name fewer.");
    }
    return new Keys(out);
  }

  private static int code(String word) {
    Integer named = NAMED.get(word.toLowerCase(Locale.ROOT));
    if (named != null) return named;
    if (word.matches("[Ff]([1-9]|10)")) {
      return FIRST_FUNCTION + Integer.parseInt(word.substring(1)) - 1 << 8;
    }
    char c = word.charAt(0);
    int scan = ROWS.indexOf(c) > 0 ? ROWS.indexOf(c) : SHIFTED.indexOf(c);
    if (word.length() > 1 || scan <= 0) {
      throw new ShedException(
          "“"
              + word
              + "” is no key: name single characters, Enter, Esc, Space, Tab, the arrows Up, Down,"
              + " Left, Right, or F1 to F"
              + FUNCTIONS
              + ", with a blank between each.");
    }
    return scan << 8 | c;
  }
}
