package lanternshed.core.volume.linked;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.names.NameList;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.SmallVolume;

/** A disk of linked sectors, opened for reading. */
final class LinkedVolume extends SmallVolume {
  static final int THERE = 0x40;
  static final int LOCKED = 0x20;
  static final int OPEN = 0x01;
  private final LinkedLayout layout;

  /** The first sector. */
  @Override
  protected int[] places(byte[] entry) {
    return new int[] {3, 4};
  }

  private LinkedVolume(
      byte[] disk, LinkedLayout layout, List<Held> held, List<Structure> own, Sum sum) {
    super(disk, held, own, sum);
    this.layout = layout;
  }

  static LinkedVolume open(byte[] disk, LinkedLayout l, Sum sum) {
    List<Held> held = new ArrayList<>();
    for (int i = 0; i < LinkedLayout.MOST_FILES; i++) {
      byte[] e = LinkedSector.entry(disk, l, i);
      if (e[0] == 0) break;
      if ((e[0] & THERE) != 0) held.add(held(disk, l, e, i));
    }
    int map = l.at(LinkedLayout.MAP);
    int catalogue = l.at(LinkedLayout.CATALOGUE);
    List<Structure> own =
        List.of(
            new Structure("start", 0, l.at(LinkedLayout.BOOT + 1)),
            new Structure("sector map", map, l.sectorBytes()),
            new Structure(
                "catalogue", catalogue, LinkedLayout.CATALOGUE_SECTORS * l.sectorBytes()));
    return new LinkedVolume(disk, l, held, own, sum);
  }

  private static String name(byte[] e) {
    String stem = new String(e, 5, 8, StandardCharsets.US_ASCII).strip();
    String ending = new String(e, 13, 3, StandardCharsets.US_ASCII).strip();
    String name = (stem + (ending.isEmpty() ? "" : "." + ending)).replaceAll("[/\\\\]", "_");
    return name.isEmpty() || name.equals(".") || name.equals("..") ? "_" : name;
  }

  private static Held held(byte[] disk, LinkedLayout l, byte[] e, int number) {
    List<int[]> pieces = new ArrayList<>();
    List<int[]> taken = new ArrayList<>();
    String broken = chain(disk, l, Bytes.u16(e, 3), number, pieces, taken);
    if ((e[0] & OPEN) != 0) broken = "it was never closed";
    long bytes = pieces.stream().mapToLong(p -> p[1]).sum();
    int marks = (e[0] & LOCKED) == 0 ? 0x20 : 0x21;
    String name = name(e);
    Node node = new Node(name, name, name, false, bytes, marks, 0, Bytes.u16(e, 3));
    return new Held(node, pieces, taken, e, broken);
  }

  /** Follows links; says why they end before they should, or "". */
  private static String chain(
      byte[] disk, LinkedLayout l, int sector, int number, List<int[]> pieces, List<int[]> taken) {
    BitSet seen = new BitSet();
    while (sector != 0) {
      if (sector > LinkedLayout.SECTORS) return "its chain leaves the disk, to sector " + sector;
      if (seen.get(sector)) return "its chain runs in a ring";
      seen.set(sector);
      int at = l.at(sector);
      int bytes =
          sector > LinkedLayout.BOOT || !l.shortHead() ? l.sectorBytes() : LinkedLayout.SHORT;
      int trail = at + bytes - LinkedLayout.TRAIL;
      if ((disk[trail] & 0xFF) >> 2 != number) {
        return "sector " + sector + " of its chain says that it belongs to another file";
      }
      taken.add(new int[] {at, bytes});
      int used = Math.min(disk[trail + 2] & 0xFF, bytes - LinkedLayout.TRAIL);
      pieces.add(new int[] {at, used});
      sector = (disk[trail] & 3) << 8 | disk[trail + 1] & 0xFF;
    }
    return "";
  }

  /** Its systems have large letters alone, and find a name that is typed in small ones. */
  @Override
  public String fold(String name) {
    return NameList.fold(name);
  }

  @Override
  public String kind() {
    return LinkedLayout.KIND;
  }

  @Override
  public String label() {
    return "";
  }

  @Override
  public Optional<Maker.Layout> layoutAsItLies() {
    return Optional.of(layout);
  }

  @Override
  public Use use() {
    long free = 0;
    for (int s = 1; s < LinkedLayout.SECTORS; s++) if (free(s)) free++;
    return new Use(layout.data(), LinkedLayout.FOR_FILES, free, 0);
  }

  /** The map's bit, the highest first. */
  private boolean free(int sector) {
    int at = layout.at(LinkedLayout.MAP) + 10 + sector / 8;
    return (disk[at] >> 7 - sector % 8 & 1) != 0;
  }

  /** What a file's entry and the ends of its sectors say that no system of these disks writes. */
  private void said(Held h, List<Finding> out) {
    String path = h.node().path();
    if (!LinkedMaker.isName(path)) {
      String what = path + " is no name that its system finds: it takes capitals and digits alone.";
      out.add(Finding.wrong("F-16", path, what, "Copy it out, and in again under another name."));
    }
    for (int[] t : h.taken()) {
      int room = t[1] - LinkedLayout.TRAIL;
      int used = disk[t[0] + t[1] - 1] & 0xFF;
      if (used <= room) continue;
      String what =
          "A sector of " + path + " says that it holds " + used + " bytes of " + room + ".";
      out.add(Finding.wrong("F-16", path, what, "All of it is read; look at the file's end."));
      return;
    }
  }

  @Override
  public List<Finding> check() {
    List<Finding> out = new ArrayList<>(twice("F-16"));
    BitSet taken = new BitSet();
    take(taken, 0, layout.at(LinkedLayout.BOOT + 1));
    int own = LinkedLayout.CATALOGUE + LinkedLayout.CATALOGUE_SECTORS;
    for (int s = LinkedLayout.MAP; s < own; s++) take(taken, layout.at(s), layout.sectorBytes());
    out.addAll(chained("F-16", "sector", h -> Bytes.u16(h.own(), 1), taken));
    held().forEach(h -> said(h, out));
    int lost = 0;
    for (int s = 1; s < LinkedLayout.SECTORS; s++) {
      if (isTaken(taken, layout.at(s)) && free(s)) lost++;
    }
    if (lost > 0) {
      String what = Say.plural(lost, "sector", "sectors") + " in use stand in the map as free.";
      out.add(
          Finding.wrong(
              "F-16", "sector map", what, "Write nothing to it; lay it down anew first."));
    }
    long free = use().free();
    int said = Bytes.u16(disk, layout.at(LinkedLayout.MAP) + 3);
    if (said != free) {
      String what = "The map says " + said + " free sectors and shows " + free + ".";
      out.add(Finding.note("F-16", "sector map", what));
    }
    return out;
  }
}
