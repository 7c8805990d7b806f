package lanternshed.core.volume.fat;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import lanternshed.core.measure.Bytes;
import lanternshed.core.volume.Node;

/**
 * Boot sectors of the family whose ROM executes one when its 256 big-endian words sum to 0x1234: a
 * branch, a serial of 24 bits, the fields that FAT has anywhere, code.
 */
final class FatExecutable {
  private static final int SERIAL = 8;

  /** Behind the fields that this family has: its code begins here. */
  private static final int CODE = 0x1E;

  private static final int SUM_AT = 510;
  private static final int EXECUTABLE = 0x1234;

  private FatExecutable() {}

  static boolean is(byte[] sector) {
    return sum(sector) == EXECUTABLE;
  }

  private static int sum(byte[] b) {
    int sum = 0;
    for (int i = 0; i < 512; i += 2) sum += Bytes.be16(b, i);
    return sum & 0xFFFF;
  }

  /**
   * The boot sector of a new volume.
   *
   * @param old one that is executed, whose branch and code are kept; empty for one that is not
   */
  static byte[] bootSector(FatLayout l, byte[] old) {
    byte[] b = l.bootSector(new byte[0]);
    // Where a desktop reads the volume as well it looks for the fields and the mark of its own kind
    // of FAT16; to the ROM they are code that it does not execute.
    if (old.length == 512 || !bothRead(l)) Arrays.fill(b, CODE, 512, (byte) 0);
    for (int i = 0; i < 3; i++) b[SERIAL + i] = (byte) (l.serial() >> 8 * i);
    if (old.length == 512) {
      System.arraycopy(old, 0, b, 0, 2);
      System.arraycopy(old, CODE, b, CODE, SUM_AT - CODE);
      Bytes.putBe16(b, SUM_AT, EXECUTABLE - (sum(b) & 0xFFFF));
    } else if (is(b)) {
      // By chance it would be executed.
      b[SERIAL] ^= 1;
    }
    return b;
  }

  /** Whether a desktop, which tells the bits of a FAT by the number of clusters, reads it alike. */
  private static boolean bothRead(FatLayout l) {
    long clusters = l.clusters();
    return l.bytesPerSector() == 512
        && clusters > FatKind.FAT12.mostClusters()
        && clusters <= FatKind.FAT16.mostClusters();
  }

  /** Drivers that boot code loads: programs of the root with the system's extension. */
  static List<String> drivers(List<Node> root) {
    return root.stream()
        .filter(n -> !n.folder() && n.name().toUpperCase(Locale.ROOT).endsWith(".SYS"))
        .map(Node::name)
        .toList();
  }
}
