package lanternshed.core.volume.ffs;

import java.io.ByteArrayOutputStream;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;

/**
 * A second reader, from the published structures alone and sharing no code with the first: it looks
 * a path up by its hash, as the machine does, and refuses every block whose sum is not zero.
 */
final class FfsWitness {
  private final ByteBuffer disk;
  private final int blocks;
  private final int flag;

  FfsWitness(byte[] image) {
    disk = ByteBuffer.wrap(image);
    blocks = image.length / 512;
    if (image[0] != 'D' || image[1] != 'O' || image[2] != 'S') throw new AssertionError("no DOS");
    flag = image[3];
  }

  private int at(int block, int word) {
    return disk.getInt(block * 512 + word * 4);
  }

  private void sum(int block) {
    int sum = 0;
    for (int i = 0; i < 128; i++) sum += at(block, i);
    if (sum != 0) throw new AssertionError("checksum of block " + block);
  }

  private String name(int block) {
    byte[] b = new byte[disk.get(block * 512 + 432)];
    for (int i = 0; i < b.length; i++) b[i] = disk.get(block * 512 + 433 + i);
    return new String(b, StandardCharsets.ISO_8859_1);
  }

  private char capital(char c) {
    if (c >= 'a' && c <= 'z') return (char) (c - 32);
    return flag > 1 && c >= 224 && c != 247 && c != 255 ? (char) (c - 32) : c;
  }

  private String capitals(String s) {
    StringBuilder out = new StringBuilder();
    for (char c : s.toCharArray()) out.append(capital(c));
    return out.toString();
  }

  /** The header block of a path. */
  int find(String path) {
    int block = (blocks + 1) / 2;
    sum(block);
    if (at(block, 0) != 2 || at(block, 127) != 1) throw new AssertionError("no root");
    for (String part : path.split("/")) {
      int hash = part.length();
      for (char c : capitals(part).toCharArray()) hash = (hash * 13 + c) % 2048;
      int folder = block;
      block = at(folder, 6 + hash % 72);
      while (block != 0 && !capitals(name(block)).equals(capitals(part))) block = at(block, 124);
      if (block == 0) throw new AssertionError(path + " is not found");
      sum(block);
      if (at(block, 1) != block || at(block, 125) != folder) throw new AssertionError(path);
    }
    return block;
  }

  byte[] content(String path) {
    int header = find(path);
    if (at(header, 127) != -3) throw new AssertionError(path + " is no file");
    int left = at(header, 81);
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    int list = header;
    int place = 77;
    int number = 1;
    while (left > 0) {
      if (place < 6) {
        list = at(list, 126);
        sum(list);
        if (at(list, 0) != 16 || at(list, 125) != header) throw new AssertionError("extension");
        place = 77;
      }
      int block = at(list, place--);
      int most = (flag & 1) == 1 ? 512 : 488;
      int n = Math.min(left, most);
      if (most == 488) {
        sum(block);
        if (at(block, 0) != 8 || at(block, 1) != header || at(block, 2) != number++) {
          throw new AssertionError("data block " + block);
        }
        if (at(block, 3) != n) throw new AssertionError("length in block " + block);
      }
      out.write(disk.array(), block * 512 + 512 - most, n);
      left -= n;
    }
    return out.toByteArray();
  }

  String comment(String path) {
    int header = find(path);
    byte[] b = new byte[disk.get(header * 512 + 328)];
    for (int i = 0; i < b.length; i++) b[i] = disk.get(header * 512 + 329 + i);
    return new String(b, StandardCharsets.ISO_8859_1);
  }

  /** Whether the map says that a block is free. */
  boolean free(int block) {
    int root = (blocks + 1) / 2;
    int bit = block - 2;
    int page = bit / (127 * 32);
    int at;
    if (page < 25) {
      at = at(root, 79 + page);
    } else {
      int extension = at(root, 104);
      for (page -= 25; page >= 127; page -= 127) extension = at(extension, 127);
      at = at(extension, page);
    }
    sum(at);
    int rest = bit % (127 * 32);
    return (at(at, 1 + rest / 32) >>> rest % 32 & 1) == 1;
  }
}
