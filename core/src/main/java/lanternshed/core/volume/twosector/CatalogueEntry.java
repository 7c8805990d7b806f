package lanternshed.core.volume.twosector;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import lanternshed.core.measure.Bytes;

/**
 * One file of the catalogue: its name in the first sector, its figures at the same place in the
 * second. Load and start address have 18 bits, as the length has.
 *
 * @param letter the folder of one letter; "$" where a file stands by itself
 */
record CatalogueEntry(
    String name, char letter, boolean locked, int load, int start, int bytes, int first) {
  static final char ROOT = '$';
  private static final int NAME = 7;

  /** Entry {@code i}, counted from 0, of a catalogue of 512 bytes. */
  static CatalogueEntry of(byte[] b, int i) {
    int at = CatalogueLayout.ENTRY * (i + 1);
    int to = CatalogueLayout.SECTOR + at;
    byte[] letters = Arrays.copyOfRange(b, at, at + NAME);
    for (int k = 0; k < NAME; k++) letters[k] &= 0x7F;
    int high = b[to + 6] & 0xFF;
    return new CatalogueEntry(
        new String(letters, StandardCharsets.US_ASCII).stripTrailing(),
        (char) (b[at + NAME] & 0x7F),
        b[at + NAME] < 0,
        Bytes.u16(b, to) | (high >> 2 & 3) << 16,
        Bytes.u16(b, to + 2) | (high >> 6 & 3) << 16,
        Bytes.u16(b, to + 4) | (high >> 4 & 3) << 16,
        b[to + 7] & 0xFF | (high & 3) << 8);
  }

  void put(byte[] b, int i) {
    int at = CatalogueLayout.ENTRY * (i + 1);
    int to = CatalogueLayout.SECTOR + at;
    Arrays.fill(b, at, at + NAME, (byte) ' ');
    byte[] letters = name.getBytes(StandardCharsets.US_ASCII);
    System.arraycopy(letters, 0, b, at, letters.length);
    b[at + NAME] = (byte) (letter | (locked ? 0x80 : 0));
    Bytes.put16(b, to, load);
    Bytes.put16(b, to + 2, start);
    Bytes.put16(b, to + 4, bytes);
    b[to + 6] =
        (byte) (first >> 8 & 3 | (load >> 16 & 3) << 2 | (bytes >> 16 & 3) << 4 | start >> 16 << 6);
    b[to + 7] = (byte) first;
  }

  /** Sectors of 256 bytes that it takes. */
  int length() {
    return (bytes + CatalogueLayout.SECTOR - 1) / CatalogueLayout.SECTOR;
  }

  int end() {
    return first + length();
  }

  /** Whether its letters can be shown, and it lies on a disk of so many sectors. */
  boolean sensible(int sectors) {
    boolean shown = !name.isEmpty() && name.chars().allMatch(c -> c > 0x20 && c < 0x7F);
    return shown
        && letter > 0x20
        && letter < 0x7F
        && first >= CatalogueLayout.CATALOGUE
        && end() <= sectors;
  }

  String path() {
    String safe = name.replace('/', '_').replace('\\', '_');
    if (safe.equals(".") || safe.equals("..")) safe = "_";
    return letter == ROOT ? safe : folder() + "/" + safe;
  }

  String folder() {
    return letter == '/' || letter == '\\' || letter == '.' ? "_" : String.valueOf(letter);
  }
}
