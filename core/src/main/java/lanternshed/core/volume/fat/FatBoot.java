package lanternshed.core.volume.fat;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.medium.Medium;
import lanternshed.core.volume.VolumeException;

/**
 * The sectors before the FATs: the boot sector, on FAT32 its copy and the information sectors (FAT
 * specification 1.03, chapters 3 and 5). Names what is wrong with them and writes them right.
 */
final class FatBoot {
  /** Where the copy of a FAT32 boot sector lies, by the specification's advice. */
  static final int BACKUP = 6;

  /** Bits of the flag byte that a system sets while it writes, and when a write failed. */
  private static final int FLAGS = 0x03;

  /** What is wrong, and what a mended copy has instead. */
  record Fault(Finding finding, String change) {}

  private final byte[] sector;
  private final FatLayout layout;

  /** Why the first sector was not taken; "" where it was. */
  private final String spoiled;

  private FatBoot(byte[] sector, FatLayout layout, String spoiled) {
    this.sector = sector;
    this.layout = layout;
    this.spoiled = spoiled;
  }

  /** What is known of a volume by other means than its boot sector. */
  static FatBoot of(FatLayout layout) {
    return new FatBoot(new byte[512], layout, "");
  }

  /** A boot sector whose fields were read already. */
  static FatBoot given(byte[] sector, FatLayout layout) {
    return new FatBoot(sector, layout, "");
  }

  /**
   * The boot sector of a volume.
   *
   * @throws VolumeException with the field that makes no sense
   */
  static FatBoot first(Medium m) {
    byte[] b = m.sector(0);
    return new FatBoot(b, FatLayout.parse(b, m.sectors()), "");
  }

  /** The copy of the boot sector, where it is one and a FAT stands where it says. */
  static Optional<FatBoot> copy(Medium m, String whyNotFirst) {
    for (int per = 1; per <= 8; per *= 2) {
      long lba = (long) BACKUP * per;
      if (lba >= m.sectors()) break;
      byte[] b = m.sector(lba);
      try {
        FatLayout l = FatLayout.parse(b, m.sectors());
        byte[] fat = m.sector(l.fatStart() * per);
        boolean right = l.kind() == FatKind.FAT32 && l.bytesPerSector() == 512 * per;
        if (right && (fat[0] & 0xFF) == l.media() && fat[1] == -1) {
          return Optional.of(new FatBoot(b, l, whyNotFirst));
        }
      } catch (VolumeException e) {
        // Not here; the sectors of this volume may be larger.
      }
    }
    return Optional.empty();
  }

  FatLayout layout() {
    return layout;
  }

  byte[] sector() {
    return sector.clone();
  }

  private int flagsAt() {
    return (layout.kind() == FatKind.FAT32 ? FatLayout.TAIL_32 : FatLayout.TAIL_16) + 1;
  }

  private boolean extended() {
    int mark = sector[flagsAt() + 1] & 0xFF;
    return mark == 0x29 || mark == 0x28;
  }

  private long sectorAt(int number) {
    return (long) number * (layout.bytesPerSector() / 512);
  }

  /** Sector of the copy; 0 where there is none. */
  private int backup() {
    int n = layout.kind() == FatKind.FAT32 ? Bytes.u16(sector, FatLayout.BACKUP_32) : 0;
    return n > 0 && n < layout.reserved() ? n : 0;
  }

  /** Number of the information sector; 0 where there is none. */
  private int info() {
    int n = layout.kind() == FatKind.FAT32 ? Bytes.u16(sector, FatLayout.FSINFO_32) : 0;
    return n > 0 && n < layout.reserved() ? n : 0;
  }

  /**
   * @param free free clusters as the table has them
   */
  List<Fault> faults(Medium m, long free) {
    List<Fault> out = new ArrayList<>();
    if (!spoiled.isEmpty()) {
      out.add(
          wrong(
              "boot sector",
              spoiled + " Its copy in sector " + BACKUP + " is read.",
              "The boot sector becomes what its copy in sector " + BACKUP + " says."));
    }
    if (extended() && (sector[flagsAt()] & FLAGS) != 0) {
      out.add(
          wrong(
              String.format("boot sector, byte %02X", flagsAt()),
              "The volume was not closed properly (flag of the boot sector).",
              String.format("The flag at byte %02X of the boot sector becomes 0.", flagsAt())));
    }
    if (spoiled.isEmpty() && backup() > 0 && sectorAt(backup()) < m.sectors()) {
      byte[] copy = m.sector(sectorAt(backup()));
      int differ = 0;
      int first = -1;
      for (int i = 0; i < 512; i++) {
        if (copy[i] == sector[i]) continue;
        if (differ++ == 0) first = i;
      }
      if (differ > 0) {
        out.add(
            wrong(
                "sector " + backup(),
                String.format(
                    "The boot sector and its copy in sector %d differ in %s, first at byte %02X.",
                    backup(), Say.plural(differ, "byte", "bytes"), first),
                "The copy in sector " + backup() + " becomes the same as the boot sector."));
      }
    }
    information(m, info(), free, false, out);
    if (backup() > 0 && info() > 0 && backup() + info() < layout.reserved()) {
      information(m, backup() + info(), free, true, out);
    }
    return out;
  }

  private void information(Medium m, int number, long free, boolean copy, List<Fault> out) {
    if (number == 0 || sectorAt(number) >= m.sectors()) return;
    byte[] b = m.sector(sectorAt(number));
    String name = copy ? "The copy of FSInfo in sector " + number : "FSInfo";
    if (!FsInfo.isOne(b)) {
      // Not every system writes the copy.
      if (copy && Bytes.allZero(b, 0, 512)) return;
      out.add(
          wrong(
              copy ? "sector " + number : "FSInfo",
              name + " lacks its marks: systems count the free clusters anew each time.",
              name + " gets its marks."));
      return;
    }
    long said = FsInfo.free(b);
    // No system keeps the copy's count up to date.
    if (copy || said == free || said == FsInfo.UNKNOWN) return;
    out.add(
        wrong(
            "FSInfo",
            "FSInfo says "
                + Say.count(said)
                + " free clusters, the FAT has "
                + Say.count(free)
                + ": systems show the wrong free space.",
            "The free count becomes " + Say.count(free) + " clusters, as the FAT has them."));
  }

  private static Fault wrong(String where, String what, String change) {
    return new Fault(Finding.wrong("F-9", where, what, "A mended copy has it right."), change);
  }

  /**
   * Writes all of it as it should be.
   *
   * @param label eleven bytes of the root folder's label; empty to keep what stands there
   */
  void write(Medium m, Optional<byte[]> label, long free) {
    byte[] b = sector.clone();
    if (extended()) {
      b[flagsAt()] &= ~FLAGS;
      if (b[flagsAt() + 1] == 0x29 && label.isPresent() && !layout.label().equals("NO NAME")) {
        System.arraycopy(label.get(), 0, b, flagsAt() + 6, 11);
      }
    }
    boolean same = java.util.Arrays.equals(b, m.sector(0));
    if (!same) m.write(0, 1, b, 0);
    if (backup() > 0) m.write(sectorAt(backup()), 1, b, 0);
    if (info() == 0) return;
    FsInfo.write(m, sectorAt(info()), free);
    long copy = sectorAt(backup() + info());
    boolean there = backup() > 0 && backup() + info() < layout.reserved();
    // No system keeps the copy's count: one that has its marks stays as it is.
    byte[] second = there ? m.sector(copy) : new byte[512];
    if (!Bytes.allZero(second, 0, 512) && !FsInfo.isOne(second)) FsInfo.write(m, copy, free);
  }
}
