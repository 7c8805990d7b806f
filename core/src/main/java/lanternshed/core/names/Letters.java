package lanternshed.core.names;

import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.CharBuffer;
import java.nio.charset.Charset;
import java.nio.charset.CharsetDecoder;
import java.nio.charset.CharsetEncoder;
import java.nio.charset.CoderResult;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/**
 * The letters of a family of machines, a byte each, as data: a published code page and what is
 * otherwise in it. A byte that stands for nothing, or for two things, is no letter, so that a text
 * with it is left as it is.
 */
final class Letters extends Charset {
  private static final char NONE = '\uFFFD';

  /**
   * @param key name of the disks' format on which such texts lie
   * @param base name of the code page that it changes
   * @param changes by byte in hexadecimal the letter; "" for none
   */
  private record Set(String key, String base, Map<String, String> changes) {}

  private final char[] letters = new char[256];
  private final Map<Character, Byte> bytes = new HashMap<>();

  private Letters(Set s) {
    super("X-SHED-" + s.key().toUpperCase(Locale.ROOT).replace(' ', '-'), null);
    Charset base = Charset.forName(s.base());
    for (int i = 0; i < letters.length; i++) {
      String known = new String(new byte[] {(byte) i}, base);
      String letter = s.changes().getOrDefault(String.format(Locale.ROOT, "%02X", i), known);
      letters[i] = letter.length() == 1 ? letter.charAt(0) : NONE;
      if (letters[i] != NONE) bytes.putIfAbsent(letters[i], (byte) i);
    }
    // What could not be had again is none of its letters.
    for (int i = 0; i < letters.length; i++) {
      if (letters[i] != NONE && bytes.get(letters[i]) != (byte) i) letters[i] = NONE;
    }
  }

  /** All of them by their keys, in the order of the data. */
  static Map<String, Charset> all() {
    try (InputStream in = Letters.class.getResourceAsStream("/names/letters.json")) {
      Map<String, Charset> out = new LinkedHashMap<>();
      for (Set s : JsonMapper.shared().readValue(in, new TypeReference<List<Set>>() {})) {
        out.put(s.key(), new Letters(s));
      }
      return out;
    } catch (IOException e) {
      throw new IllegalStateException("The letters ship with the program", e);
    }
  }

  @Override
  public boolean contains(Charset other) {
    return other.equals(this);
  }

  @Override
  public CharsetDecoder newDecoder() {
    return new CharsetDecoder(this, 1, 1) {
      @Override
      protected CoderResult decodeLoop(ByteBuffer in, CharBuffer out) {
        while (in.hasRemaining()) {
          if (!out.hasRemaining()) return CoderResult.OVERFLOW;
          out.put(letters[in.get() & 0xFF]);
        }
        return CoderResult.UNDERFLOW;
      }
    };
  }

  @Override
  public CharsetEncoder newEncoder() {
    byte[] instead = {bytes.getOrDefault('?', (byte) '?')};
    return new CharsetEncoder(this, 1, 1, instead) {
      @Override
      protected CoderResult encodeLoop(CharBuffer in, ByteBuffer out) {
        while (in.hasRemaining()) {
          Byte b = bytes.get(in.get(in.position()));
          boolean pair = Character.isSurrogate(in.get(in.position()));
          if (b == null) return CoderResult.unmappableForLength(pair && in.remaining() > 1 ? 2 : 1);
          if (!out.hasRemaining()) return CoderResult.OVERFLOW;
          in.get();
          out.put(b);
        }
        return CoderResult.UNDERFLOW;
      }
    };
  }
}
