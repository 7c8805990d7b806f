package lanternshed.core.volume.exfat;

import java.nio.charset.StandardCharsets;
import java.util.Optional;
import lanternshed.core.measure.Bytes;
import lanternshed.core.volume.VolumeException;

/** Folder entries of 32 bytes and the sets they form (specification, sections 6 and 7). */
final class ExfatEntries {
  static final int ENTRY = 32;
  static final int BITMAP = 0x81;
  static final int UPCASE = 0x82;
  static final int LABEL = 0x83;
  static final int FILE = 0x85;
  static final int STREAM = 0xC0;
  static final int NAME = 0xC1;

  /** The bit of an entry's first byte that says it is in use. */
  static final int IN_USE = 0x80;

  static final int FOLDER = 0x10;

  /** A stream's flags: its clusters may be given; they follow each other, whatever the FAT says. */
  static final int POSSIBLE = 1;

  static final int NO_CHAIN = 2;

  // Of the file entry.
  static final int MORE = 1;
  static final int SET_SUM = 2;
  static final int ATTRIBUTES = 4;
  static final int CREATED = 8;
  static final int MODIFIED = 12;
  static final int ACCESSED = 16;

  /** Bytes of all times from {@link #CREATED} on, their hundredths and zones among them. */
  static final int TIMES = 17;

  private static final int MODIFIED_HUNDREDTHS = 21;
  private static final int MODIFIED_ZONE = 23;

  // Of the stream entry, and of bitmap and upcase table where they have the same.
  static final int FLAGS = 1;
  static final int NAME_LENGTH = 3;
  static final int NAME_HASH = 4;
  static final int VALID = 8;
  static final int FIRST = 20;
  static final int LENGTH = 24;

  /** Of the entry of the upcase table. */
  static final int TABLE_SUM = 4;

  private static final char[] OWN_UPPER = Upcase.read(Upcase.table());
  private static final int LETTERS = 15;
  private static final int MOST_LETTERS = 255;

  private ExfatEntries() {}

  static int kind(byte[] b, int at) {
    return b[at] & 0xFF;
  }

  /** The checksum of an entry set; its own two bytes are left out. */
  static int sum(byte[] b, int from, int to) {
    int s = 0;
    for (int i = from; i < to; i++) {
      if (i == from + 2 || i == from + 3) continue;
      s = ((s & 1) << 15) + (s >> 1) + (b[i] & 0xFF) & 0xFFFF;
    }
    return s;
  }

  /** The checksum of a table in the heap. */
  static long tableSum(byte[] b) {
    long s = 0;
    for (byte x : b) s = ((s & 1) << 31) + (s >> 1) + (x & 0xFF) & 0xFFFF_FFFFL;
    return s;
  }

  /** The hash of a name in upper case. */
  static int hash(String name) {
    return hash(name, OWN_UPPER);
  }

  /**
   * The hash of a name under a volume's own upcase table.
   *
   * @param upper by letter
   */
  static int hash(String name, char[] upper) {
    int h = 0;
    for (char c : name.toCharArray()) {
      char u = upper[c];
      h = ((h & 1) << 15) + (h >> 1) + (u & 0xFF) & 0xFFFF;
      h = ((h & 1) << 15) + (h >> 1) + (u >> 8) & 0xFFFF;
    }
    return h;
  }

  /** Bytes of the set of a name. */
  static int setBytes(String name) {
    return (2 + (name.length() + LETTERS - 1) / LETTERS) * ENTRY;
  }

  /**
   * What is wrong with a name.
   *
   * @throws VolumeException in a sentence
   */
  static void check(String name) {
    odd(name)
        .ifPresent(
            why -> {
              throw new VolumeException("\"" + name + "\" " + why + ".");
            });
  }

  /** Why no system takes a name: "has the character ":""; empty where it is one. */
  static Optional<String> odd(String name) {
    String why = "";
    if (name.isEmpty()) why = "is empty";
    else if (name.length() > MOST_LETTERS) why = "has more than 255 characters";
    else if (name.equals(".") || name.equals("..")) why = "is not a name";
    for (char c : name.toCharArray()) {
      if (c < 0x20 || "\"*/:<>?\\|".indexOf(c) >= 0) why = "has the character \"" + c + "\"";
    }
    return why.isEmpty() ? Optional.empty() : Optional.of(why);
  }

  /**
   * Writes the set of a file or folder whose clusters follow each other.
   *
   * @param stamp packed date and time
   * @param times what an entry of the same kind had from {@link #CREATED} on; empty where it is new
   * @param upper the volume's upcase table, by letter
   * @return where the next set begins
   */
  static int put(
      byte[] b,
      int at,
      String name,
      int attributes,
      int stamp,
      byte[] times,
      char[] upper,
      long first,
      long bytes) {
    int length = setBytes(name);
    b[at] = (byte) FILE;
    b[at + MORE] = (byte) (length / ENTRY - 1);
    Bytes.put16(b, at + ATTRIBUTES, attributes);
    if (times.length == TIMES) System.arraycopy(times, 0, b, at + CREATED, TIMES);
    else {
      for (int t : new int[] {CREATED, MODIFIED, ACCESSED}) {
        Bytes.put32(b, at + t, stamp & 0xFFFF_FFFFL);
      }
    }
    // A time that was set since counts more; its hundredths and its zone are not known.
    if ((int) Bytes.u32(b, at + MODIFIED) != stamp) {
      Bytes.put32(b, at + MODIFIED, stamp & 0xFFFF_FFFFL);
      b[at + MODIFIED_HUNDREDTHS] = 0;
      b[at + MODIFIED_ZONE] = 0;
    }
    int s = at + ENTRY;
    b[s] = (byte) STREAM;
    b[s + FLAGS] = (byte) (bytes > 0 ? POSSIBLE | NO_CHAIN : POSSIBLE);
    b[s + NAME_LENGTH] = (byte) name.length();
    Bytes.put16(b, s + NAME_HASH, hash(name, upper));
    Bytes.put64(b, s + VALID, bytes);
    Bytes.put32(b, s + FIRST, first);
    Bytes.put64(b, s + LENGTH, bytes);
    for (int i = 0; i < name.length(); i += LETTERS) {
      int n = s + ENTRY + i / LETTERS * ENTRY;
      b[n] = (byte) NAME;
      for (int k = i; k < Math.min(name.length(), i + LETTERS); k++) {
        Bytes.put16(b, n + 2 + (k - i) * 2, name.charAt(k));
      }
    }
    Bytes.put16(b, at + SET_SUM, sum(b, at, at + length));
    return at + length;
  }

  /** Writes the entry of the bitmap or of the upcase table. */
  static void putTable(byte[] b, int at, int kind, long first, long bytes) {
    b[at] = (byte) kind;
    Bytes.put32(b, at + FIRST, first);
    Bytes.put64(b, at + LENGTH, bytes);
  }

  static void putLabel(byte[] b, int at, String label) {
    String text = label.length() > 11 ? label.substring(0, 11) : label;
    b[at] = (byte) LABEL;
    b[at + 1] = (byte) text.length();
    byte[] t = text.getBytes(StandardCharsets.UTF_16LE);
    System.arraycopy(t, 0, b, at + 2, t.length);
  }
}
