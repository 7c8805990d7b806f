package lanternshed.core.volume.cpm;

import java.io.ByteArrayOutputStream;
import java.util.Map;
import java.util.TreeMap;

/**
 * A second reader from the published structure of the folder alone, sharing no code with the first:
 * it walks a file as the system does, record by record, asking for the entry of each extent.
 */
final class CpmWitness {
  private final byte[] disk;
  private final int block;
  private final int entries;
  private final boolean words;

  CpmWitness(byte[] disk, int block, int entries) {
    this.disk = disk;
    this.block = block;
    this.entries = entries;
    this.words = disk.length / block > 256;
  }

  private String name(int at) {
    StringBuilder s = new StringBuilder();
    for (int i = 1; i <= 11; i++) s.append((char) (disk[at + i] & 127));
    return (disk[at] & 255) + ":" + s;
  }

  Map<String, byte[]> files() {
    Map<String, byte[]> out = new TreeMap<>();
    for (int e = 0; e < entries; e++) {
      int at = e * 32;
      if ((disk[at] & 255) < 16 && !out.containsKey(name(at))) out.put(name(at), content(name(at)));
    }
    return out;
  }

  private byte[] content(String name) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    for (int record = 0; ; record++) {
      int extent = record / 128;
      int found = -1;
      for (int e = 0; e < entries && found < 0; e++) {
        int at = e * 32;
        if ((disk[at] & 255) > 15 || !name(at).equals(name)) continue;
        int last = (disk[at + 14] & 63) * 32 + (disk[at + 12] & 31);
        int per = Math.max(1, block * (words ? 8 : 16) / 16384);
        if (last / per == extent / per && extent <= last) found = at;
      }
      if (found < 0) return out.toByteArray();
      int last = (disk[found + 14] & 63) * 32 + (disk[found + 12] & 31);
      int count = extent < last ? 128 : disk[found + 15] & 255;
      if (record % 128 >= count) return out.toByteArray();
      int slot = record * 128 / block % (words ? 8 : 16);
      int number =
          words
              ? (disk[found + 16 + 2 * slot] & 255) + 256 * (disk[found + 17 + 2 * slot] & 255)
              : disk[found + 16 + slot] & 255;
      out.write(disk, number * block + record * 128 % block, 128);
    }
  }
}
