package lanternshed.core.volume.linkmap;

import java.util.ArrayList;
import java.util.List;
import java.util.function.IntSupplier;

/**
 * Files of records: beside a file's own chain stand side blocks that name its blocks one by one, so
 * that the drive finds a record without walking. Six of them are a group; the large disk has a
 * block above its groups. Source: the published manuals of such drives.
 */
final class Records {
  /** In an entry: first side block, and bytes of a record. */
  static final int SIDE = 21;

  static final int LENGTH = 23;

  private static final int NAMED = 120;
  private static final int FIRST_NAMED = 16;
  private static final int GROUP = 6;
  private static final int GROUPS = 126;
  private static final int ABOVE = 0xFE;

  private Records() {}

  /**
   * What stands beside a file.
   *
   * @param blocks first bytes of the side blocks, the one above them first
   * @param named first bytes of the blocks that they name; −1 for one that is not on the disk
   */
  record Beside(List<Integer> blocks, List<Integer> named) {}

  /** Follows the side blocks from an entry on, never in a ring and never off the disk. */
  static Beside read(byte[] disk, MapLayout l, byte[] entry) {
    Beside out = new Beside(new ArrayList<>(), new ArrayList<>());
    int track = entry[SIDE] & 0xFF;
    int block = entry[SIDE + 1] & 0xFF;
    if (!l.large() || !l.has(track, block) || (disk[l.at(track, block) + 2] & 0xFF) != ABOVE) {
      group(disk, l, track, block, out);
      return out;
    }
    int above = l.at(track, block);
    out.blocks.add(above);
    for (int g = 0; g < GROUPS && disk[above + 3 + 2 * g] != 0; g++) {
      group(disk, l, disk[above + 3 + 2 * g] & 0xFF, disk[above + 4 + 2 * g] & 0xFF, out);
    }
    return out;
  }

  private static void group(byte[] disk, MapLayout l, int first, int firstBlock, Beside out) {
    int track = first;
    int block = firstBlock;
    while (track != 0 && l.has(track, block) && !out.blocks.contains(l.at(track, block))) {
      int at = l.at(track, block);
      out.blocks.add(at);
      track = disk[at] & 0xFF;
      block = disk[at + 1] & 0xFF;
      int end = track == 0 ? Math.min(block + 1, MapLayout.BLOCK) : MapLayout.BLOCK;
      for (int i = FIRST_NAMED; i + 1 < end; i += 2) {
        boolean there = l.has(disk[at + i] & 0xFF, disk[at + i + 1] & 0xFF);
        out.named.add(there ? l.at(disk[at + i] & 0xFF, disk[at + i + 1] & 0xFF) : -1);
      }
    }
  }

  /** How many blocks stand beside a file of so many. */
  static int beside(MapLayout l, int blocks) {
    return (blocks + NAMED - 1) / NAMED + (l.large() ? 1 : 0);
  }

  /**
   * Writes them.
   *
   * @param blocks first bytes of the file's own blocks
   * @param take gives the first byte of a free block
   */
  static void write(
      byte[] disk, MapLayout l, int entry, int length, List<Integer> blocks, IntSupplier take) {
    int above = l.large() ? take.getAsInt() : -1;
    List<Integer> side = new ArrayList<>();
    for (int i = 0; i < (blocks.size() + NAMED - 1) / NAMED; i++) side.add(take.getAsInt());
    disk[entry + LENGTH] = (byte) length;
    l.name(disk, entry + SIDE, above >= 0 ? above : side.get(0));
    if (above >= 0) {
      l.name(disk, above, side.get(0));
      disk[above + 2] = (byte) ABOVE;
      for (int g = 0; g * GROUP < side.size(); g++) {
        l.name(disk, above + 3 + 2 * g, side.get(g * GROUP));
      }
    }
    for (int i = 0; i < side.size(); i++) {
      int at = side.get(i);
      int first = i / GROUP * GROUP;
      List<Integer> group = side.subList(first, Math.min(first + GROUP, side.size()));
      List<Integer> named = blocks.subList(i * NAMED, Math.min((i + 1) * NAMED, blocks.size()));
      if (i + 1 < first + group.size()) l.name(disk, at, side.get(i + 1));
      else disk[at + 1] = (byte) (FIRST_NAMED + 2 * named.size() - 1);
      disk[at + 2] = (byte) (i - first);
      disk[at + 3] = (byte) length;
      for (int k = 0; k < group.size(); k++) l.name(disk, at + 4 + 2 * k, group.get(k));
      for (int k = 0; k < named.size(); k++) l.name(disk, at + FIRST_NAMED + 2 * k, named.get(k));
    }
  }
}
