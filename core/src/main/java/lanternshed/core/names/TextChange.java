package lanternshed.core.names;

import java.nio.ByteBuffer;
import java.nio.CharBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.CharsetEncoder;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;

/**
 * A text as another machine reads it (T-4): line ends, letters, tabs, the mark at its end. Off
 * unless it is asked for, and it says whether the old bytes can be had again from the new ones.
 *
 * @param ends how lines end there
 * @param from code page in which it is now; "" to leave its letters as they are
 * @param to code page there
 * @param tabs columns between tab stops that become spaces; 0 to leave tabs
 * @param mark whether 1A stands at its end, as CP/M and its heirs want it
 */
public record TextChange(Ends ends, String from, String to, int tabs, boolean mark) {

  /** How a line ends. */
  public enum Ends {
    KEEP("", "as they are"),
    CRLF("\r\n", "CR LF"),
    LF("\n", "LF"),
    CR("\r", "CR"),
    OWN_9B("\u009B", "9B");

    private final String letters;
    private final String title;

    Ends(String letters, String title) {
      this.letters = letters;
      this.title = title;
    }

    public String title() {
      return title;
    }
  }

  private static final int MOST_TABS = 16;

  public TextChange {
    for (String page : List.of(from, to)) {
      if (!page.isEmpty() && !PAGES.containsKey(page)) {
        throw new ShedException("There is no code page \"" + page + "\" here.");
      }
    }
    if (tabs < 0 || tabs > MOST_TABS) {
      throw new ShedException("Tabs stand 16 columns apart at most.");
    }
  }

  /** A text longer than this is none that somebody reads on these machines. */
  public static final int MOST = 4 << 20;

  /** Code pages by the names under which people know them. */
  private static final Map<String, Charset> PAGES = new LinkedHashMap<>();

  static {
    PAGES.put("UTF-8", StandardCharsets.UTF_8);
    PAGES.put("1252", Charset.forName("windows-1252"));
    PAGES.put("Latin-1", StandardCharsets.ISO_8859_1);
    PAGES.put("437", Charset.forName("IBM437"));
    PAGES.put("850", Charset.forName("IBM850"));
    PAGES.put("ASCII", StandardCharsets.US_ASCII);
    PAGES.putAll(Letters.all());
  }

  public static final TextChange NONE = new TextChange(Ends.KEEP, "", "", 0, false);

  public static List<String> pages() {
    return List.copyOf(PAGES.keySet());
  }

  /** Whether nothing would be changed. */
  public boolean changesNothing() {
    return ends == Ends.KEEP && (from.isEmpty() || to.isEmpty()) && tabs == 0 && !mark;
  }

  /**
   * @param bytes the new text; the old one where it was left
   * @param says what was changed, in words; "" where nothing was
   * @param lost why the old bytes cannot be had again; "" where they can
   */
  public record Changed(byte[] bytes, String says, String lost) {}

  /**
   * Whether bytes are a text: no control characters but those of lines, pages, tabs and the end,
   * and hardly any that no code page prints.
   */
  public static boolean isText(byte[] b) {
    if (b.length == 0 || b.length > MOST) return false;
    int end = b.length;
    // 1A and what fills the last record behind it.
    while (end > 0 && (b[end - 1] == 0x1A || b[end - 1] == 0)) end--;
    int high = 0;
    for (int i = 0; i < end; i++) {
      int c = b[i] & 0xFF;
      boolean line = c == '\n' || c == '\r' || c == '\t' || c == '\f' || c == 0x9B;
      if (c < 0x20 && !line || c == 0x7F) return false;
      if (c >= 0x80 && !line) high++;
    }
    return end > 0 && (high * 4L <= end || isUtf8(b, end));
  }

  private static boolean isUtf8(byte[] b, int end) {
    try {
      StandardCharsets.UTF_8.newDecoder().decode(ByteBuffer.wrap(b, 0, end));
      return true;
    } catch (CharacterCodingException e) {
      return false;
    }
  }

  /** The text as it is wanted; what is no text comes back as it is. */
  public Changed of(byte[] b) {
    if (changesNothing() || !isText(b)) return new Changed(b, "", "");
    StringBuilder says = new StringBuilder();
    StringBuilder lost = new StringBuilder();
    boolean paged = !from.isEmpty() && !to.isEmpty() && !from.equals(to);
    Charset in = charset(paged ? from : "Latin-1");
    Charset out = charset(paged ? to : "Latin-1");
    String text = new String(b, in);
    if (paged && text.indexOf('\uFFFD') >= 0) {
      // Somebody else's code page: its bytes are left, which loses nothing.
      return new Changed(b, "left as it is: not " + from, "");
    }
    int cut = text.length();
    while (cut > 0 && (text.charAt(cut - 1) == 0x1A || text.charAt(cut - 1) == 0)) cut--;
    String tail = text.substring(cut);
    text = text.substring(0, cut);
    if (ends != Ends.KEEP) text = lined(text, says, lost);
    if (tabs > 0) text = untabbed(text, says, lost);
    if (mark && tail.isEmpty()) {
      tail = "\u001A";
      add(says, "1A at its end");
    }
    byte[] letters = paged ? encoded(text, out, says, lost) : text.getBytes(out);
    byte[] last = tail.getBytes(StandardCharsets.ISO_8859_1);
    byte[] all = java.util.Arrays.copyOf(letters, letters.length + last.length);
    System.arraycopy(last, 0, all, letters.length, last.length);
    return new Changed(all, says.toString(), lost.toString());
  }

  /** The first bytes of a text in a code page; what it does not have is U+FFFD. */
  public static String read(byte[] b, int most, String page) {
    return new String(b, 0, most, charset(page));
  }

  private static Charset charset(String page) {
    return PAGES.getOrDefault(page, StandardCharsets.ISO_8859_1);
  }

  private String lined(String text, StringBuilder says, StringBuilder lost) {
    boolean crlf = text.contains("\r\n");
    String rest = text.replace("\r\n", "");
    // 9B is a letter of some code pages: it ends lines only where nothing else does.
    boolean cr = rest.indexOf('\r') >= 0;
    boolean lf = rest.indexOf('\n') >= 0;
    boolean own = !crlf && !cr && !lf && rest.indexOf('\u009B') >= 0;
    String was = crlf ? "CR LF" : cr ? "CR" : lf ? "LF" : own ? "9B" : "";
    if (was.isEmpty()) return text;
    if ((crlf ? 1 : 0) + (cr ? 1 : 0) + (lf ? 1 : 0) > 1) add(lost, "its line ends were mixed");
    String plain = text.replace("\r\n", "\n").replace('\r', '\n');
    if (own) plain = plain.replace('\u009B', '\n');
    String now = plain.replace("\n", ends.letters);
    if (!now.equals(text)) add(says, was + " → " + ends.title);
    return now;
  }

  private String untabbed(String text, StringBuilder says, StringBuilder lost) {
    if (text.indexOf('\t') < 0) return text;
    StringBuilder out = new StringBuilder(text.length() + 64);
    int column = 0;
    for (char c : text.toCharArray()) {
      if (c == '\t') {
        int n = tabs - column % tabs;
        out.append(" ".repeat(n));
        column += n;
        continue;
      }
      out.append(c);
      column = c == '\n' || c == '\r' || c == '\u009B' ? 0 : column + 1;
    }
    add(says, "tabs → spaces");
    add(lost, "where its tabs were");
    return out.toString();
  }

  private byte[] encoded(String text, Charset out, StringBuilder says, StringBuilder lost) {
    CharsetEncoder e =
        out.newEncoder()
            .onMalformedInput(CodingErrorAction.REPLACE)
            .onUnmappableCharacter(CodingErrorAction.REPLACE);
    long gone = text.codePoints().filter(c -> !e.canEncode(Character.toString(c))).count();
    if (text.chars().anyMatch(c -> c > 0x7E)) add(says, from + " → " + to);
    if (gone > 0)
      add(lost, Say.plural(gone, "letter", "letters") + " that " + to + " does not have");
    try {
      ByteBuffer b = e.encode(CharBuffer.wrap(text));
      byte[] bytes = new byte[b.remaining()];
      b.get(bytes);
      return bytes;
    } catch (CharacterCodingException x) {
      throw new IllegalStateException("What cannot be said is replaced", x);
    }
  }

  private static void add(StringBuilder to, String what) {
    if (to.length() > 0) to.append(", ");
    to.append(what);
  }
}
