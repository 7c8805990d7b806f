package lanternshed.core.volume.linkmap;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.SmallVolume;

/** A disk of linked blocks, opened for reading. */
final class MapVolume extends SmallVolume {
  private static final int CLOSED = 0x80;
  private static final int LOCKED = 0x40;
  private final MapLayout layout;
  private final List<Finding> findings;

  private MapVolume(
      byte[] disk,
      MapLayout layout,
      List<Held> held,
      List<Structure> own,
      Sum sum,
      List<Finding> f) {
    super(disk, held, own, sum);
    this.layout = layout;
    this.findings = f;
  }

  static MapVolume open(byte[] disk, MapLayout l, Sum sum) {
    List<Structure> structures = new ArrayList<>();
    List<Finding> findings = new ArrayList<>();
    List<Held> held = new ArrayList<>();
    int map = l.at(l.middle(), 0);
    structures.add(new Structure("block map", map, l.firstOfCatalogue() * MapLayout.BLOCK));
    for (int at : catalogue(disk, l, findings)) {
      structures.add(new Structure("catalogue", at, MapLayout.BLOCK));
      for (int i = 0; i < MapLayout.ENTRIES; i++) {
        int entry = at + i * MapLayout.ENTRY;
        if (disk[entry + 2] != 0) held.add(held(disk, l, entry));
      }
    }
    return new MapVolume(disk, l, held, structures, sum, findings);
  }

  /** First bytes of the blocks of the catalogue, along its links and never in a ring. */
  private static List<Integer> catalogue(byte[] disk, MapLayout l, List<Finding> findings) {
    List<Integer> out = new ArrayList<>();
    int track = l.middle();
    int block = l.firstOfCatalogue();
    while (track != 0) {
      if (!l.has(track, block) || out.contains(l.at(track, block))) {
        String what = "The catalogue breaks off: it goes on at track " + track + ", block " + block;
        findings.add(
            Finding.wrong(
                "F-16",
                "catalogue",
                what + ".",
                "Files listed behind it are not seen; copy first."));
        break;
      }
      int at = l.at(track, block);
      out.add(at);
      track = disk[at] & 0xFF;
      block = disk[at + 1] & 0xFF;
    }
    return out;
  }

  private static Held held(byte[] disk, MapLayout l, int entry) {
    int mark = disk[entry + 2] & 0xFF;
    int type = mark & 7;
    String name = MapNames.read(disk, entry + 5, MapLayout.MOST_NAME);
    // Names of dots alone would lead elsewhere on a desktop.
    if (name.isEmpty() || name.matches("\\.+")) name = "_";
    name += MapNames.ending(type);
    List<int[]> pieces = new ArrayList<>();
    List<int[]> taken = new ArrayList<>();
    String broken = chain(disk, l, disk[entry + 3] & 0xFF, disk[entry + 4] & 0xFF, pieces, taken);
    if (type > MapNames.RELATIVE) broken = "it is of a type that is no file";
    else if ((mark & CLOSED) == 0) broken = "it was never closed";
    long bytes = pieces.stream().mapToLong(p -> p[1]).sum();
    int marks = (mark & LOCKED) == 0 ? 0x20 : 0x21;
    if (type == MapNames.RELATIVE) {
      Records.read(disk, l, Arrays.copyOfRange(disk, entry, entry + MapLayout.ENTRY))
          .blocks()
          .forEach(at -> taken.add(new int[] {at, MapLayout.BLOCK}));
    }
    long first = taken.isEmpty() ? 0 : taken.get(0)[0] / MapLayout.BLOCK;
    Node node = new Node(name, name, name, false, bytes, marks, 0, first);
    return new Held(node, pieces, taken, Arrays.copyOfRange(disk, entry, entry + 32), broken);
  }

  /** Follows links; says why they end before they should, or "". */
  private static String chain(
      byte[] disk, MapLayout l, int track, int block, List<int[]> pieces, List<int[]> taken) {
    BitSet seen = new BitSet();
    while (track != 0) {
      if (!l.has(track, block)) {
        return "its chain leaves the disk, to track " + track + ", block " + block;
      }
      int at = l.at(track, block);
      if (seen.get(at / MapLayout.BLOCK)) return "its chain runs in a ring";
      seen.set(at / MapLayout.BLOCK);
      taken.add(new int[] {at, MapLayout.BLOCK});
      track = disk[at] & 0xFF;
      block = disk[at + 1] & 0xFF;
      int last = track == 0 ? Math.max(0, block - 1) : MapLayout.DATA;
      pieces.add(new int[] {at + 2, last});
    }
    return "";
  }

  @Override
  public String kind() {
    return MapLayout.KIND;
  }

  @Override
  public String label() {
    return layout.title();
  }

  @Override
  public Optional<Maker.Layout> layoutAsItLies() {
    return Optional.of(layout);
  }

  /** The next block of the catalogue, the first of the file, its side block, and one to come. */
  @Override
  protected int[] places(byte[] entry) {
    return new int[] {0, 1, 3, 4, 21, 22, 28, 29};
  }

  /** Of a record of no bytes nothing is known. */
  @Override
  public boolean remakeable() {
    return super.remakeable()
        && held().stream().noneMatch(h -> ofRecords(h) && h.own()[Records.LENGTH] == 0);
  }

  private static boolean ofRecords(Held h) {
    return (h.own()[2] & 7) == MapNames.RELATIVE;
  }

  @Override
  public Use use() {
    long free = 0;
    for (int t = 1; t <= layout.tracks(); t++) {
      int at = BlockMap.entry(layout, t, disk);
      if (t == layout.middle() || at < 0) continue;
      for (int s = 0; s < layout.blocks(t); s++) if (BlockMap.free(disk, at, s)) free++;
    }
    return new Use(MapLayout.DATA, layout.clusterCount(), free, 0);
  }

  @Override
  public List<Finding> check() {
    List<Finding> out = new ArrayList<>(findings);
    out.addAll(twice("F-16"));
    BitSet taken = new BitSet();
    out.addAll(chained("F-16", "block", h -> Bytes.u16(h.own(), 30), taken));
    held().stream().filter(MapVolume::ofRecords).forEach(h -> records(h, out));
    map(taken, out);
    return out;
  }

  /** A program goes by the side blocks, a copy by the chain: they name the same blocks. */
  private void records(Held h, List<Finding> out) {
    List<Integer> chain = h.pieces().stream().map(p -> p[0] - 2).toList();
    byte[] entry = h.own();
    Records.Beside beside = Records.read(disk, layout, entry);
    if (!h.broken().isEmpty() || beside.named().equals(chain)) return;
    String path = h.node().path();
    String what = path + ": its side blocks name other blocks than its chain has.";
    out.add(
        Finding.wrong(
            "F-16",
            path,
            what,
            "A program may find other records in it than a copy has; lay the disk down anew on a"
                + " copy, which makes them from the chain."));
  }

  private void map(BitSet taken, List<Finding> out) {
    int lost = 0;
    int counts = 0;
    for (int t = 1; t <= layout.tracks(); t++) {
      int at = BlockMap.entry(layout, t, disk);
      if (at < 0) continue;
      if (!BlockMap.agrees(disk, at, layout.blocks(t))) counts++;
      for (int s = 0; s < layout.blocks(t); s++) {
        if (BlockMap.free(disk, at, s) && isTaken(taken, layout.at(t, s))) lost++;
      }
    }
    if (lost > 0) {
      String what = Say.plural(lost, "block", "blocks") + " of files stand in the map as free.";
      out.add(
          Finding.wrong("F-16", "block map", what, "Write nothing to it; lay it down anew first."));
    }
    if (counts > 0) {
      String what =
          Say.plural(counts, "track", "tracks") + " of the map count other than their bits.";
      out.add(Finding.wrong("F-16", "block map", what, "Lay the disk down anew on a copy."));
    }
  }
}
