package lanternshed.core.volume.linkmap;

import java.util.Arrays;
import java.util.Locale;

/**
 * Names of sixteen letters in the machine's own set: its plain letters are capitals here, the
 * shifted ones small, so that no two become one. A file's type is its ending.
 */
final class MapNames {
  private static final int PAD = 0xA0;
  private static final String[] TYPES = {"del", "seq", "prg", "usr", "rel"};
  static final int PROGRAM = 2;
  static final int RELATIVE = 4;

  private MapNames() {}

  /** A title or name as it stands on disk, up to what fills it. */
  static String read(byte[] b, int at, int length) {
    StringBuilder out = new StringBuilder();
    for (int i = at; i < at + length && (b[i] & 0xFF) != PAD; i++) {
      int c = b[i] & 0xFF;
      if (c >= 0xC1 && c <= 0xDA) out.append((char) (c - 0xC1 + 'a'));
      else if (c >= 0x20 && c <= 0x5D && c != '/' && c != '\\') out.append((char) c);
      else out.append('_');
    }
    return out.toString().stripTrailing();
  }

  /** The letters of a name, filled up; what cannot stand is an underline. */
  static byte[] write(String name) {
    byte[] out = new byte[MapLayout.MOST_NAME];
    Arrays.fill(out, (byte) PAD);
    for (int i = 0; i < Math.min(name.length(), out.length); i++) {
      char c = name.charAt(i);
      if (c >= 'a' && c <= 'z') out[i] = (byte) (c - 'a' + 0xC1);
      else out[i] = (byte) (c >= 0x20 && c <= 0x5D ? c : 0xA4);
    }
    return out;
  }

  static boolean can(String name) {
    return !name.isEmpty()
        && name.length() <= MapLayout.MOST_NAME
        && name.chars()
            .allMatch(c -> c >= 'a' && c <= 'z' || c > 0x20 && c <= 0x5D || c == '_' || c == ' ')
        && name.chars().noneMatch(c -> "\"*?,:=/\\".indexOf(c) >= 0);
  }

  /** The ending of a type; "" for one that is none of a file. */
  static String ending(int type) {
    return type < TYPES.length ? "." + TYPES[type] : "";
  }

  /** The type that an ending names, "LOOM.seq"; a program where it names none. */
  static int type(String name) {
    String low = name.toLowerCase(Locale.ROOT);
    for (int i = 0; i < TYPES.length; i++) if (low.endsWith("." + TYPES[i])) return i;
    return PROGRAM;
  }

  /** A name without the ending of its type. */
  static String stem(String name) {
    String low = name.toLowerCase(Locale.ROOT);
    for (String t : TYPES) {
      if (low.endsWith("." + t)) return name.substring(0, name.length() - t.length() - 1);
    }
    return name;
  }
}
