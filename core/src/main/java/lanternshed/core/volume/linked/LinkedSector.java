package lanternshed.core.volume.linked;

import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Sum;
import lanternshed.core.medium.Medium;
import lanternshed.core.names.NameRule;
import lanternshed.core.volume.Filesystem;
import lanternshed.core.volume.Hint;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Recognised;

/**
 * Small 8-bit disks of 720 sectors of 128 or 256 bytes, each of which names the next: map in sector
 * 360, 64 files in the eight behind it. Told by the map's first bytes and a catalogue that makes
 * sense.
 */
public final class LinkedSector implements Filesystem {
  private static final int CODE = 2;

  @Override
  public String key() {
    return "linked-sector";
  }

  @Override
  public List<String> kinds() {
    return List.of(LinkedLayout.KIND);
  }

  @Override
  public String unit() {
    return "sector";
  }

  @Override
  public List<NameRule> names() {
    return List.of(NameRule.of("capitals-8.3"));
  }

  @Override
  public boolean speaksForItself() {
    return false;
  }

  @Override
  public Optional<Maker> maker() {
    return Optional.of(new LinkedMaker());
  }

  /** The ways in which 720 sectors lie in an image; of 256 bytes there are two. */
  static List<LinkedLayout> ways() {
    byte[] none = new byte[LinkedLayout.BOOT * LinkedLayout.SHORT];
    return List.of(
        new LinkedLayout(LinkedLayout.SHORT, false, none),
        new LinkedLayout(256, true, none),
        new LinkedLayout(256, false, none));
  }

  @Override
  public Optional<Recognised> recognise(Medium m, Hint hint) {
    if (!hint.whole() || m.sectorSize() != 512) return Optional.empty();
    for (LinkedLayout l : ways()) {
      if (m.sectors() != l.sectorCount()) continue;
      byte[] disk = m.sectors(0, (int) m.sectors());
      int map = l.at(LinkedLayout.MAP);
      int there = Bytes.u16(disk, map + 1);
      boolean says = disk[map] == CODE && there == LinkedLayout.FOR_FILES;
      if (!says || Bytes.u16(disk, map + 3) > there || !sensible(disk, l)) continue;
      LinkedLayout read = new LinkedLayout(l.sectorBytes(), l.shortHead(), boot(disk, l));
      Sum sum =
          Sum.of("F-16", LinkedLayout.KIND)
              .line("", "sectors of " + l.sectorBytes() + " B", LinkedLayout.SECTORS)
              .line("", "sectors for files, as its map says", there)
              .because("Sector 360 begins as a map does, and every entry behind it makes sense.")
              .done();
      return Optional.of(
          new Recognised(
              LinkedLayout.KIND,
              "",
              read.sectorCount(),
              sum,
              Optional.of(LinkedVolume.open(disk, read, sum))));
    }
    return Optional.empty();
  }

  private static byte[] boot(byte[] disk, LinkedLayout l) {
    byte[] out = new byte[LinkedLayout.BOOT * LinkedLayout.SHORT];
    for (int s = 0; s < LinkedLayout.BOOT; s++) {
      System.arraycopy(disk, l.at(s + 1), out, s * LinkedLayout.SHORT, LinkedLayout.SHORT);
    }
    return out;
  }

  private static boolean sensible(byte[] disk, LinkedLayout l) {
    for (int i = 0; i < LinkedLayout.MOST_FILES; i++) {
      byte[] e = entry(disk, l, i);
      if (e[0] == 0) return true;
      boolean there = (e[0] & LinkedVolume.THERE) != 0;
      for (int k = 5; there && k < LinkedLayout.ENTRY; k++) {
        if (e[k] < 0x20 || e[k] == 0x7F) return false;
      }
    }
    return true;
  }

  static byte[] entry(byte[] disk, LinkedLayout l, int i) {
    int sector = LinkedLayout.CATALOGUE + i / LinkedLayout.ENTRIES;
    int at = l.at(sector) + i % LinkedLayout.ENTRIES * LinkedLayout.ENTRY;
    return Arrays.copyOfRange(disk, at, at + LinkedLayout.ENTRY);
  }
}
