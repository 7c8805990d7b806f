package lanternshed.core.kind;

import java.util.HashMap;
import java.util.Map;
import lanternshed.core.measure.ShedException;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * What the tokens of a BASIC stand for, as data that somebody brings: {@code {"tokens":
 * {"80":"FOR","FF81":"INT"}}}, one or two bytes in hexadecimal.
 */
public final class TokenTable {
  /** Lists tokens by their numbers only. */
  public static final TokenTable NONE = new TokenTable(Map.of());

  private static final int MOST_TOKENS = 1000;
  private static final int MOST_WORD = 40;
  private static final int QUOTE = '"';
  private static final JsonMapper JSON = JsonMapper.builder().build();

  private final Map<Integer, String> words;

  private TokenTable(Map<Integer, String> words) {
    this.words = words;
  }

  /**
   * Reads a table.
   *
   * @throws ShedException with what is wrong and where
   */
  public static TokenTable read(String text) {
    JsonNode tokens;
    try {
      tokens = JSON.readTree(text).path("tokens");
    } catch (JacksonException e) {
      throw new ShedException("The token table is not JSON: " + e.getOriginalMessage() + ".");
    }
    if (!tokens.isObject() || tokens.size() == 0 || tokens.size() > MOST_TOKENS) {
      throw new ShedException(
          "A token table has \"tokens\": between one and 1 000 of them, like \"80\": \"FOR\".");
    }
    Map<Integer, String> words = new HashMap<>();
    for (Map.Entry<String, JsonNode> e : tokens.properties()) {
      String key = e.getKey();
      boolean right = key.matches("[89A-Fa-f][0-9A-Fa-f]([0-9A-Fa-f]{2})?");
      if (!right || !e.getValue().isString() || e.getValue().asString().length() > MOST_WORD) {
        throw new ShedException(
            "\""
                + key
                + "\" is no token: it has one or two bytes from 80 on in hexadecimal, and a word.");
      }
      words.put(Integer.parseInt(key, 16), e.getValue().asString());
    }
    return new TokenTable(words);
  }

  /** So many tokens it has a word for. */
  public int words() {
    return words.size();
  }

  /** The program as text; what stands for nothing here is shown as its number, {A7}. */
  public String listing(BasicLines program) {
    StringBuilder out = new StringBuilder();
    for (BasicLines.Line l : program.lines()) {
      out.append(l.number()).append(' ');
      line(l.tokens(), out);
      out.append('\n');
    }
    return out.toString();
  }

  private void line(byte[] b, StringBuilder out) {
    boolean quoted = false;
    for (int i = 0; i < b.length; i++) {
      int c = b[i] & 0xFF;
      if (c == QUOTE) quoted = !quoted;
      if (quoted || c < 0x80) {
        out.append(c >= ' ' && c < 0x7F ? Character.toString(c) : String.format("{%02X}", c));
        continue;
      }
      int two = i + 1 < b.length ? c << 8 | b[i + 1] & 0xFF : -1;
      if (words.containsKey(two)) {
        out.append(words.get(two));
        i++;
      } else {
        out.append(words.getOrDefault(c, String.format("{%02X}", c)));
      }
    }
  }
}
