package lanternshed.core.volume.linked;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Say;
import lanternshed.core.medium.Medium;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.SmallMaker;
import lanternshed.core.volume.VolumeException;

/** Makes disks of linked sectors, each file's sectors one behind the other. */
final class LinkedMaker implements Maker {
  private static final int CREATED = 0x02;

  /** Where the start sector says that a system file follows, and at which sector. */
  private static final int SYSTEM_FLAG = 14;

  private static final int SYSTEM_SECTOR = 15;
  private static final String SYSTEM = "DOS.SYS";

  @Override
  public List<Integer> unitSizes() {
    return List.of(LinkedLayout.SHORT - LinkedLayout.TRAIL, 256 - LinkedLayout.TRAIL);
  }

  @Override
  public long mostSectors(String kind, int clusterBytes) {
    return LinkedSector.ways().get(1).sectorCount();
  }

  /** A file without a byte takes a sector all the same. */
  @Override
  public long units(String kind, int clusterBytes, long bytes) {
    return Math.max(1, (bytes + clusterBytes - 1) / clusterBytes);
  }

  /** These disks have no label. */
  @Override
  public String label(String wanted) {
    return "";
  }

  @Override
  public LinkedLayout layout(Wish wish) {
    return LinkedSector.ways().stream()
        .filter(l -> l.sectorCount() == wish.sectors())
        .findFirst()
        .orElseThrow(
            () ->
                new VolumeException(
                    "A disk of this kind has 720 sectors of 128 or 256 B: 180 or 360 sectors of"
                        + " 512 B, not "
                        + Say.count(wish.sectors())
                        + "."));
  }

  @Override
  public Fit fit(Layout layout, FileSet files) {
    int data = ((LinkedLayout) layout).data();
    long needed = 0;
    int count = 0;
    for (FileSet.Item i : files.items()) {
      check(i);
      needed += units("", data, i.bytes());
      count++;
    }
    return SmallMaker.fit(
        "sectors",
        needed,
        layout.clusterCount(),
        count,
        LinkedLayout.MOST_FILES,
        "A sector holds " + data + " B of a file and three that link it.");
  }

  /** Whether its system gives such a name and finds it again. */
  static boolean isName(String name) {
    return name.matches("[A-Z][A-Z0-9]{0,7}(\\.[A-Z0-9]{1,3})?");
  }

  private static void check(FileSet.Item i) {
    if (!i.folder() && isName(i.name())) return;
    throw new VolumeException(
        "\""
            + i.path()
            + "\" cannot stand on this disk: no folders; names are capitals and digits, eight and"
            + " three, and begin with a letter.");
  }

  @Override
  public void write(Layout layout, FileSet files, Medium to, byte[] code, Watch watch) {
    LinkedLayout l = (LinkedLayout) layout;
    SmallMaker.refuse(fit(l, files));
    byte[] disk = new byte[(int) l.sectorCount() * 512];
    for (int s = 0; s < LinkedLayout.BOOT; s++) {
      System.arraycopy(l.boot(), s * LinkedLayout.SHORT, disk, l.at(s + 1), LinkedLayout.SHORT);
    }
    int next = LinkedLayout.BOOT + 1;
    int number = 0;
    for (FileSet.Item i : files.items()) {
      if (i.name().equals(SYSTEM) && disk[SYSTEM_FLAG] != 0) Bytes.put16(disk, SYSTEM_SECTOR, next);
      next = file(l, disk, i, number++, next);
      watch.wrote(i.path(), i.bytes());
    }
    map(l, disk, next);
    to.write(0, disk.length / 512, disk, 0);
  }

  /** Writes a file and its entry; gives the next free sector. */
  private static int file(LinkedLayout l, byte[] disk, FileSet.Item i, int number, int first) {
    byte[] content = SmallMaker.content(i);
    int sectors = Math.max(1, (content.length + l.data() - 1) / l.data());
    int sector = first;
    for (int k = 0; k < sectors; k++) {
      int at = l.at(sector);
      int n = Math.min(l.data(), content.length - k * l.data());
      System.arraycopy(content, k * l.data(), disk, at, n);
      int next = after(sector);
      int link = k == sectors - 1 ? 0 : next;
      int trail = at + l.data();
      disk[trail] = (byte) (number << 2 | link >> 8);
      disk[trail + 1] = (byte) link;
      disk[trail + 2] = (byte) n;
      sector = next;
    }
    int at =
        l.at(LinkedLayout.CATALOGUE + number / LinkedLayout.ENTRIES)
            + number % LinkedLayout.ENTRIES * LinkedLayout.ENTRY;
    int locked = (i.marks() & 0x01) != 0 ? LinkedVolume.LOCKED : 0;
    disk[at] = (byte) (LinkedVolume.THERE | CREATED | locked);
    Bytes.put16(disk, at + 1, sectors);
    Bytes.put16(disk, at + 3, first);
    Arrays.fill(disk, at + 5, at + LinkedLayout.ENTRY, (byte) ' ');
    String[] parts = i.name().split("\\.");
    for (int p = 0; p < parts.length; p++) {
      byte[] letters = parts[p].getBytes(StandardCharsets.US_ASCII);
      System.arraycopy(letters, 0, disk, at + (p == 0 ? 5 : 13), letters.length);
    }
    return sector;
  }

  /** The sector behind one; map and catalogue are passed over. */
  private static int after(int sector) {
    return sector + 1 == LinkedLayout.MAP
        ? LinkedLayout.CATALOGUE + LinkedLayout.CATALOGUE_SECTORS
        : sector + 1;
  }

  private static void map(LinkedLayout l, byte[] disk, int next) {
    int at = l.at(LinkedLayout.MAP);
    int free = 0;
    for (int s = next; s < LinkedLayout.SECTORS; s++) {
      boolean own = s >= LinkedLayout.MAP && s < LinkedLayout.CATALOGUE + 8;
      if (own) continue;
      disk[at + 10 + s / 8] |= (byte) (1 << 7 - s % 8);
      free++;
    }
    disk[at] = 2;
    Bytes.put16(disk, at + 1, LinkedLayout.FOR_FILES);
    Bytes.put16(disk, at + 3, free);
  }
}
