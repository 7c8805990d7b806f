package lanternshed.core.volume.linkmap;

import java.util.BitSet;
import lanternshed.core.measure.Bytes;

/**
 * The map of free blocks: of each track a count and a bit a block, 1 for free. Thirty-five tracks
 * stand in one block beside the title; tracks 36 to 40 stand behind it, in one of the two places
 * that drives with forty tracks took; eighty tracks stand in two blocks of their own.
 */
final class BlockMap {
  private static final int TRACKS = 35;

  /** Where entries of tracks 36 to 40 begin: the two schools. */
  private static final int[] BEHIND = {0xC0, 0xAC};

  private BlockMap() {}

  /** First byte of a track's entry on the disk; −1 where the map does not speak of it. */
  static int entry(MapLayout l, int track, byte[] disk) {
    if (l.large()) {
      int half = (track - 1) / 40;
      return l.at(l.middle(), 1 + half) + 16 + 6 * ((track - 1) % 40);
    }
    int map = l.at(l.middle(), 0);
    if (track <= TRACKS) return map + 4 * track;
    int at = behind(l, disk);
    return at < 0 ? -1 : map + at + 4 * (track - TRACKS - 1);
  }

  /** The school whose counts agree with its bits on all five tracks, and that says anything. */
  private static int behind(MapLayout l, byte[] disk) {
    int map = l.at(l.middle(), 0);
    for (int at : BEHIND) {
      if (Bytes.allZero(disk, map + at, map + at + 20)) continue;
      boolean agrees = true;
      for (int t = 0; t < 5; t++) agrees &= agrees(disk, map + at + 4 * t, 17);
      if (agrees) return at;
    }
    return -1;
  }

  /** Whether the count of an entry is that of its bits. */
  static boolean agrees(byte[] disk, int entry, int blocks) {
    int bits = 0;
    for (int s = 0; s < blocks; s++) if (free(disk, entry, s)) bits++;
    return bits == (disk[entry] & 0xFF);
  }

  static boolean free(byte[] disk, int entry, int block) {
    return (disk[entry + 1 + block / 8] >> block % 8 & 1) != 0;
  }

  /** Writes the map of what is taken, a bit a block of the whole disk. */
  static void write(MapLayout l, byte[] disk, BitSet taken) {
    int map = l.at(l.middle(), 0);
    for (int t = 1; t <= l.tracks(); t++) {
      int at =
          t > TRACKS && !l.large() ? map + BEHIND[0] + 4 * (t - TRACKS - 1) : entry(l, t, disk);
      int first = l.at(t, 0) / MapLayout.BLOCK;
      for (int s = 0; s < l.blocks(t); s++) {
        if (taken.get(first + s)) continue;
        disk[at]++;
        disk[at + 1 + s / 8] |= (byte) (1 << s % 8);
      }
    }
  }
}
