package lanternshed.core.volume.fat;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Search;
import lanternshed.core.volume.VolumeException;

/**
 * FAT volumes that no table names: by their boot sectors, by the backup boot sector of FAT32, and,
 * where no boot sector is left, by two equal FATs that stand behind each other, or by the second
 * alone before a root folder; the fields that are gone are those under which the folders make
 * sense.
 */
final class FatSearch implements Search {
  private static final int[] ROOT_ENTRIES = {512, 224, 112, 240, 256, 64, 1024};
  private static final int MOST_FAT_SECTORS = 256;

  /**
   * Layouts that are tried in each 64 MiB: some hundred a volume whose boot sector is gone, and no
   * more where somebody filled a medium with what looks like the begin of a FAT.
   */
  private static final int MOST_TRIES = 3000;

  private static final int WINDOW = 1 << 17;
  private long window = -1;
  private int tries;

  /** The sector of FAT32's backup boot sector, by the specification's advice. */
  private static final int BACKUP = 6;

  @Override
  public List<Found> see(Medium m, long lba, byte[] b, int at) {
    boolean boot = b[at] == (byte) 0xEB || b[at] == (byte) 0xE9 || Bytes.u16(b, at + 510) == 0xAA55;
    boolean table = (b[at] & 0xFF) >= 0xF0 && b[at + 1] == -1 && b[at + 2] == -1;
    if (!boot && !table) return List.of();
    if (lba / WINDOW != window) {
      window = lba / WINDOW;
      tries = 0;
    }
    return bootSector(m, lba).or(() -> pair(m, lba)).or(() -> second(m, lba)).stream().toList();
  }

  private static Found found(Medium m, long start, long length, String evidence, byte[] boot) {
    boolean there = Arrays.equals(m.sector(start), boot);
    return new Found(
        start, Math.min(length, m.sectors() - start), "", "", evidence, there ? new byte[0] : boot);
  }

  /** What a boot sector at this place says, where it is one. */
  private static Optional<Found> bootSector(Medium m, long lba) {
    byte[] b = m.sector(lba);
    if (!isBoot(b)) return Optional.empty();
    try {
      FatLayout l = FatLayout.parse(b, m.sectors() - lba);
      long length = l.total() * (l.bytesPerSector() / 512);
      // A boot sector alone may be an old copy: its FAT must stand where it says.
      long fat = lba + l.fatStart() * (l.bytesPerSector() / 512);
      if (fat < m.sectors() && isFatStart(m.sector(fat), l.media())) {
        return Optional.of(found(m, lba, length, "its boot sector", b));
      }
      long before = lba - (long) BACKUP * (l.bytesPerSector() / 512);
      if (l.kind() != FatKind.FAT32 || before < 0) return Optional.empty();
      fat = before + l.fatStart() * (l.bytesPerSector() / 512);
      return fat < m.sectors() && isFatStart(m.sector(fat), l.media())
          ? Optional.of(found(m, before, length, "the backup of its boot sector", b))
          : Optional.empty();
    } catch (VolumeException e) {
      return Optional.empty();
    }
  }

  private static boolean isBoot(byte[] b) {
    boolean jump = b[0] == (byte) 0xEB && b[2] == (byte) 0x90 || b[0] == (byte) 0xE9;
    return (jump || Bytes.u16(b, 510) == 0xAA55) && b[FatLayout.MEDIA] < 0;
  }

  /** The two first entries of a table: the media byte, and bits that are set. */
  private static boolean isFatStart(byte[] b, int media) {
    int m = b[0] & 0xFF;
    return (media < 0 ? m >= 0xF0 && m != 0xF1 : m == media)
        && (b[1] & 0xFF) == 0xFF
        && (b[2] & 0xFF) == 0xFF;
  }

  /** Two FATs from this place on, and what the folders behind them say of the volume. */
  private Optional<Found> pair(Medium m, long lba) {
    byte[] first = m.sector(lba);
    if (lba < 1 || !isFatStart(first, -1) || allSet(first)) return Optional.empty();
    for (int size = 1; size <= MOST_FAT_SECTORS && lba + 2L * size < m.sectors(); size++) {
      if (!Arrays.equals(first, m.sector(lba + size))) continue;
      if (++tries > MOST_TRIES) return Optional.empty();
      if (!same(m, lba, size)) continue;
      Optional<Found> f =
          behind(m, lba, size, 2, first[0] & 0xFF, "two equal FATs, and folders that fit them");
      if (f.isPresent()) return f;
    }
    return Optional.empty();
  }

  /**
   * The second FAT alone, where the first is spoiled together with the boot sector: a root folder
   * stands behind it. The volume is given from the sector before it, as one with a single FAT.
   */
  private Optional<Found> second(Medium m, long lba) {
    byte[] first = m.sector(lba);
    if (lba < 2 || !isFatStart(first, -1) || allSet(first)) return Optional.empty();
    for (int size = 1; size <= MOST_FAT_SECTORS && lba + size < m.sectors(); size++) {
      if (!isFolder(m.sector(lba + size))) continue;
      Optional<Found> f =
          behind(m, lba, size, 1, first[0] & 0xFF, "its second FAT, and folders that fit it");
      if (f.isPresent()) return f;
    }
    return Optional.empty();
  }

  /** Whether the first entry may be one of a folder: a name, and marks that there are. */
  private static boolean isFolder(byte[] b) {
    int marks = b[11] & 0xFF;
    if (b[0] == 0 || marks >= 0x40) return false;
    if (marks == FatVolume.LONG_NAME) return true;
    for (int i = 1; i < 11; i++) if ((b[i] & 0xFF) < 0x20) return false;
    return true;
  }

  private static boolean allSet(byte[] b) {
    for (byte x : b) if (x != (byte) 0xFF) return false;
    return true;
  }

  private static boolean same(Medium m, long lba, int size) {
    byte[] a = m.sectors(lba, size);
    byte[] b = m.sectors(lba + size, size);
    int differ = 0;
    for (int i = 0; i < a.length; i++) if (a[i] != b[i]) differ++;
    return differ * 50 < a.length;
  }

  private record Try(FatLayout layout, long good, long bad) {}

  /** Tries root folder and cluster sizes; the ones under which folders begin with "." are right. */
  private Optional<Found> behind(
      Medium m, long lba, int size, int fats, int media, String evidence) {
    List<Try> tried = new ArrayList<>();
    for (int root : ROOT_ENTRIES) {
      for (int spc = 1; spc <= 64; spc *= 2) {
        for (FatKind kind : List.of(FatKind.FAT12, FatKind.FAT16)) {
          long entries = (long) size * 512 * 8 / kind.bits() - 2;
          long clusters = Math.min(entries, kind.mostClusters());
          long data = 1 + (long) fats * size + root * 32L / 512;
          long total = Math.min(data + clusters * spc, m.sectors() - lba + 1);
          if (FatKind.of((total - data) / spc) != kind) continue;
          if (++tries > MOST_TRIES) return Optional.empty();
          tried.add(attempt(m, lba, layout(size, fats, root, spc, total, media)));
        }
      }
    }
    return tried.stream()
        .filter(t -> t.good() > 0 && t.bad() * 4 < t.good())
        .max(Comparator.comparingLong(t -> t.good() - 4 * t.bad()))
        .map(
            t ->
                found(
                    m, lba - 1, t.layout().total(), evidence, t.layout().bootSector(new byte[0])));
  }

  private static FatLayout layout(int size, int fats, int root, int spc, long total, int media) {
    Geometry none = new Geometry(1, 16, 63);
    return new FatLayout(
        "",
        512,
        spc,
        1,
        fats,
        root,
        total,
        media,
        size,
        none.sectors(),
        none.heads(),
        0,
        0x80,
        0,
        "",
        0,
        false);
  }

  private static Try attempt(Medium m, long lba, FatLayout l) {
    try {
      long length = Math.min(l.total(), m.sectors() - lba + 1);
      FatVolume v = FatVolume.of(new SliceMedium(m, lba - 1, length), l);
      long good = 0;
      long bad = v.tree().folders().stream().mapToLong(FatTree.Folder::refused).sum();
      for (Node n : v.all()) {
        if (v.notWhole(n).isEmpty()) good += n.folder() ? 8 : 1;
        else bad++;
      }
      return new Try(l, good, bad);
    } catch (VolumeException e) {
      return new Try(l, 0, 1);
    }
  }
}
