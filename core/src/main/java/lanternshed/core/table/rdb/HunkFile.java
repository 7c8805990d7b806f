package lanternshed.core.table.rdb;

import java.nio.charset.StandardCharsets;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.table.TableDrivers;

/**
 * A loadable file of hunks, walked as the machine's loader walks it: a head with the length of each
 * hunk, then their content, relocations and names. Big endian, in longs. Source: the published
 * manual of the system, binary file structure.
 */
final class HunkFile {
  private static final int HEADER = 0x3F3;
  private static final int NAME = 0x3E8;
  private static final int CODE = 0x3E9;
  private static final int DATA = 0x3EA;
  private static final int BSS = 0x3EB;
  private static final int RELOC = 0x3EC;
  private static final int SYMBOL = 0x3F0;
  private static final int DEBUG = 0x3F1;
  private static final int END = 0x3F2;
  private static final int OVERLAY = 0x3F5;

  /** Relocations by words, under the number that loaders took by mistake, and under its own. */
  private static final int SHORT_RELOC_OLD = 0x3F7;

  private static final int SHORT_RELOC = 0x3FC;

  /** The upper bits say in which memory; both of them, that a long with more follows. */
  private static final long VALUE = 0x3FFF_FFFF;

  /** No driver is in more pieces, and none asks for more memory. */
  private static final int MOST_HUNKS = 64;

  private static final long MOST_LONGS = 1 << 20;

  /** "$VER: name 40.1 (1.2.93)", up to a zero or the line's end. */
  private static final Pattern VERSION =
      Pattern.compile("\\$VER:\\s*([^\\x00-\\x1F]{1,80}?)(?:\\x00|[\\r\\n]|$)");

  private static final Pattern NUMBER = Pattern.compile("\\b(\\d{1,4}\\.\\d{1,4})\\b");

  private final String name;
  private final byte[] file;
  private int at;

  private HunkFile(String name, byte[] file) {
    this.name = name;
    this.file = file;
  }

  /**
   * @throws ShedException where the machine would not load it, with the place
   */
  static String version(String name, byte[] file) {
    new HunkFile(name, file).walk();
    Matcher said = VERSION.matcher(new String(file, StandardCharsets.ISO_8859_1));
    if (!said.find()) return "";
    Matcher number = NUMBER.matcher(said.group(1));
    return number.find() ? number.group(1) : "";
  }

  private void walk() {
    if (file.length > TableDrivers.MOST_BYTES) {
      throw no("it has " + Say.bytes(file.length) + ", and a driver has a few dozen KiB");
    }
    if (file.length < 4 || Bytes.be32(file, 0) != HEADER) {
      throw no("it does not begin with 000003F3, as every loadable file of these machines does");
    }
    at = 4;
    if (next() != 0) throw no("it asks for libraries by name, which no loader of a table gives");
    long[] lengths = lengths();
    for (int i = 0; i < lengths.length; i++) hunk(i, lengths);
  }

  /** The longs that each hunk takes in memory. */
  private long[] lengths() {
    long count = next();
    long first = next();
    long last = next();
    if (first != 0 || count < 1 || count > MOST_HUNKS || last != count - 1) {
      throw no("its head counts hunks " + first + " to " + last + " of " + count);
    }
    long[] out = new long[(int) count];
    for (int i = 0; i < count; i++) {
      long l = next();
      if (l > VALUE && (l & ~VALUE) == 0xC000_0000L) next();
      out[i] = l & VALUE;
      if (out[i] > MOST_LONGS) throw no("hunk " + i + " asks for " + Say.count(out[i]) + " longs");
    }
    return out;
  }

  private void hunk(int number, long[] lengths) {
    boolean filled = false;
    while (true) {
      int kind = (int) (next() & VALUE);
      switch (kind) {
        case CODE, DATA, BSS -> {
          long longs = next() & VALUE;
          if (filled || longs > lengths[number]) {
            throw no("hunk " + number + " holds more than its head has room for");
          }
          if (number == 0 && kind != CODE) throw no("its first hunk is no code, which is started");
          filled = true;
          if (kind != BSS) skip(4 * longs);
        }
        case NAME, DEBUG -> skip(4 * next());
        case RELOC -> relocations(4, number, lengths);
        case SHORT_RELOC, SHORT_RELOC_OLD -> {
          relocations(2, number, lengths);
          at += at % 4;
        }
        case SYMBOL -> {
          for (long n = next() & 0xFF_FFFF; n > 0; n = next() & 0xFF_FFFF) skip(4 * n + 4);
        }
        case END -> {
          if (!filled) throw no("hunk " + number + " is empty");
          return;
        }
        case OVERLAY -> throw no("it is loaded in parts, and a driver is loaded whole");
        default -> throw no(String.format("hunk %d has a part of kind %X", number, kind));
      }
    }
  }

  /** By hunk: how many, to which hunk, and where; each place is a long inside its own hunk. */
  private void relocations(int width, int inside, long[] lengths) {
    for (long n = number(width); n > 0; n = number(width)) {
      long to = number(width);
      if (to >= lengths.length) throw no("a relocation names hunk " + to + ", and there is none");
      for (long i = 0; i < n; i++) {
        long place = number(width);
        if (place > 4 * lengths[inside] - 4) {
          throw no("a relocation lies at byte " + place + ", past the end of hunk " + inside);
        }
      }
    }
  }

  private long number(int width) {
    if (width == 4) return next();
    skip(2);
    return Bytes.be16(file, at - 2);
  }

  private long next() {
    skip(4);
    return Bytes.be32(file, at - 4);
  }

  private void skip(long bytes) {
    if (bytes < 0 || bytes > file.length - at) {
      throw no("it ends in the middle, after " + Say.bytes(file.length) + ": a part is missing");
    }
    at += (int) bytes;
  }

  private ShedException no(String why) {
    return new ShedException(
        name
            + " is no driver that the machine would load: "
            + why
            + ". Take it from a disk of the system, where such files lie in the folder L.");
  }
}
