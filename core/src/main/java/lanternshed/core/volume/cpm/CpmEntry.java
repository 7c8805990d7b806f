package lanternshed.core.volume.cpm;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Locale;

/**
 * One entry of the folder (C-4): user, name with attributes in its high bits, extent, records,
 * block numbers.
 *
 * @param slot its place in the folder
 * @param marks high bits of the eleven letters, the first in bit 0
 * @param extent number of the last logical extent that it describes
 * @param s1 bytes in the last record; 0 for all
 * @param records of the last logical extent
 */
record CpmEntry(
    int slot, int user, String name, int marks, int extent, int s1, int records, int[] blocks) {
  static final int FREE = 0xE5;
  static final int MOST_USER = 15;
  static final int EX = 12;
  static final int S1 = 13;
  static final int S2 = 14;
  static final int RC = 15;
  static final int BLOCKS = 16;
  static final int NAME = 11;
  static final int MOST_RECORDS = 128;
  private static final int LOW_EXTENTS = 32;
  private static final String REFUSED = "<>.,;:=?*[]";

  /** Which of the eleven letters carries the mark. */
  static final int READ_ONLY = 8;

  static final int SYSTEM = 9;
  static final int ARCHIVED = 10;

  /** Whether 32 bytes may be an entry in use. */
  static boolean plausible(byte[] b, int at) {
    boolean fields =
        (b[at] & 0xFF) <= MOST_USER
            && (b[at + EX] & 0xFF) < LOW_EXTENTS
            && (b[at + S2] & 0xFF) < 64
            && (b[at + RC] & 0xFF) <= MOST_RECORDS
            && (b[at + S1] & 0xFF) <= CpmLayout.RECORD;
    return fields && named(b, at);
  }

  static boolean named(byte[] b, int at) {
    if ((b[at + 1] & 0x7F) <= 0x20) return false;
    for (int i = 1; i <= NAME; i++) {
      int c = b[at + i] & 0x7F;
      if (c < 0x20 || c > 0x5F || REFUSED.indexOf(c) >= 0) return false;
    }
    return true;
  }

  static CpmEntry of(byte[] b, int at, int slot, boolean wide) {
    byte[] letters = Arrays.copyOfRange(b, at + 1, at + 1 + NAME);
    int marks = 0;
    for (int i = 0; i < NAME; i++) {
      if (letters[i] < 0) marks |= 1 << i;
      letters[i] &= 0x7F;
    }
    String stem = new String(letters, 0, 8, StandardCharsets.US_ASCII).stripTrailing();
    String type = new String(letters, 8, 3, StandardCharsets.US_ASCII).stripTrailing();
    int[] blocks = new int[wide ? 8 : 16];
    for (int i = 0; i < blocks.length; i++) {
      blocks[i] =
          wide
              ? b[at + BLOCKS + 2 * i] & 0xFF | (b[at + BLOCKS + 2 * i + 1] & 0xFF) << 8
              : b[at + BLOCKS + i] & 0xFF;
    }
    return new CpmEntry(
        slot,
        b[at] & 0xFF,
        (type.isEmpty() ? stem : stem + "." + type).replace('/', '_'),
        marks,
        (b[at + S2] & 0x3F) * LOW_EXTENTS + (b[at + EX] & 0x1F),
        b[at + S1] & 0xFF,
        b[at + RC] & 0xFF,
        blocks);
  }

  /** The entry as it stands on disk. */
  void put(byte[] b, int at) {
    b[at] = (byte) user;
    String[] parts = name.split("\\.", 2);
    String letters =
        String.format(Locale.ROOT, "%-8s%-3s", parts[0], parts.length > 1 ? parts[1] : "");
    for (int i = 0; i < NAME; i++) {
      b[at + 1 + i] = (byte) (letters.charAt(i) | ((marks >> i & 1) != 0 ? 0x80 : 0));
    }
    b[at + EX] = (byte) (extent % LOW_EXTENTS);
    b[at + S1] = (byte) s1;
    b[at + S2] = (byte) (extent / LOW_EXTENTS);
    b[at + RC] = (byte) records;
    boolean wide = blocks.length == 8;
    for (int i = 0; i < blocks.length; i++) {
      if (wide) {
        b[at + BLOCKS + 2 * i] = (byte) blocks[i];
        b[at + BLOCKS + 2 * i + 1] = (byte) (blocks[i] >> 8);
      } else {
        b[at + BLOCKS + i] = (byte) blocks[i];
      }
    }
  }

  /** Which file it belongs to; user areas other than 0 are shown as folders. */
  String path() {
    return user == 0 ? name : folder(user) + "/" + name;
  }

  static String folder(int user) {
    return "USER" + user;
  }

  /** The place of its last block number; −1 for none. */
  int lastBlock() {
    for (int i = blocks.length - 1; i >= 0; i--) if (blocks[i] != 0) return i;
    return -1;
  }

  /** Records of the file up to the end of this entry. */
  long upTo() {
    return (long) extent * MOST_RECORDS + records;
  }

  /** Which run of entries of the file it is, counted from 0. */
  int index(CpmLayout l) {
    return extent / l.extents();
  }

  boolean marked(int letter) {
    return (marks >> letter & 1) != 0;
  }
}
