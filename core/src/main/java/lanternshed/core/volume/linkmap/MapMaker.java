package lanternshed.core.volume.linkmap;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Say;
import lanternshed.core.medium.Medium;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.SmallMaker;
import lanternshed.core.volume.VolumeException;

/** Makes disks of linked blocks; a file's blocks are as far apart as the drive expects. */
final class MapMaker implements Maker {
  private static final int[] TRACKS = {35, 40, 80};
  private static final int CATALOGUE_STEP = 3;

  @Override
  public List<Integer> unitSizes() {
    return List.of(MapLayout.DATA);
  }

  @Override
  public long mostSectors(String kind, int clusterBytes) {
    return new MapLayout(80, "", "").sectorCount();
  }

  /** A file without a byte takes a block all the same. */
  @Override
  public long units(String kind, int clusterBytes, long bytes) {
    return Math.max(1, (bytes + MapLayout.DATA - 1) / MapLayout.DATA);
  }

  @Override
  public String label(String wanted) {
    return MapNames.read(MapNames.write(wanted), 0, MapLayout.MOST_NAME);
  }

  @Override
  public MapLayout layout(Wish wish) {
    for (int t : TRACKS) {
      MapLayout l = new MapLayout(t, label(wish.label()), "LS");
      if (l.sectorCount() == wish.sectors()) return l;
    }
    throw new VolumeException(
        "A disk of this kind has 35, 40 or 80 tracks: 342, 384 or 1 600 sectors of 512 B, not "
            + Say.count(wish.sectors())
            + ".");
  }

  @Override
  public Fit fit(Layout layout, FileSet files) {
    MapLayout l = (MapLayout) layout;
    long needed = 0;
    int count = 0;
    for (FileSet.Item i : files.items()) {
      check(i);
      long blocks = units("", MapLayout.DATA, i.bytes());
      needed += blocks + (ofRecords(i) ? Records.beside(l, (int) blocks) : 0);
      count++;
    }
    return SmallMaker.fit(
        "blocks",
        needed,
        l.clusterCount(),
        count,
        l.mostFiles(),
        "A block of 256 B holds 254 of a file; the catalogue stays on its track.");
  }

  private static void check(FileSet.Item i) {
    if (ofRecords(i) && recordBytes(i) == 0) {
      throw new VolumeException(
          "\""
              + i.path()
              + "\" is a file of records, and nothing says how long a record is: only one that stood"
              + " on such a disk can. Bring it in as .seq.");
    }
    if (!i.folder() && MapNames.can(MapNames.stem(i.name()))) return;
    throw new VolumeException(
        "\""
            + i.path()
            + "\" cannot stand on this disk: no folders, names of sixteen"
            + " letters at most with none of \" * ? , : = in them.");
  }

  private static boolean ofRecords(FileSet.Item i) {
    return !i.folder() && MapNames.type(i.name()) == MapNames.RELATIVE;
  }

  /** As its entry said it where it came from; 0 where it did not stand on such a disk. */
  private static int recordBytes(FileSet.Item i) {
    byte[] own = i.own();
    boolean records = own.length == MapLayout.ENTRY && (own[2] & 7) == MapNames.RELATIVE;
    return records ? own[Records.LENGTH] & 0xFF : 0;
  }

  @Override
  public void write(Layout layout, FileSet files, Medium to, byte[] code, Watch watch) {
    MapLayout l = (MapLayout) layout;
    SmallMaker.refuse(fit(l, files));
    byte[] disk = new byte[(int) l.sectorCount() * 512];
    BitSet taken = new BitSet();
    head(l, disk, taken);
    begin(l, disk, catalogueBlocks(l), 0, taken);
    int entry = 0;
    Blocks next = new Blocks(l, taken);
    for (FileSet.Item i : files.items()) {
      int at = catalogue(l, disk, entry++, taken);
      file(l, disk, at, i, next);
      watch.wrote(i.path(), i.bytes());
    }
    BlockMap.write(l, disk, taken);
    to.write(0, disk.length / 512, disk, 0);
  }

  private static void head(MapLayout l, byte[] disk, BitSet taken) {
    int map = l.at(l.middle(), 0);
    disk[map] = (byte) l.middle();
    disk[map + 1] = (byte) l.firstOfCatalogue();
    disk[map + 2] = (byte) (l.large() ? 'D' : 'A');
    int title = map + (l.large() ? 4 : 144);
    Arrays.fill(disk, title, title + 27, (byte) 0xA0);
    System.arraycopy(MapNames.write(l.title()), 0, disk, title, MapLayout.MOST_NAME);
    byte[] id = MapNames.write(l.id());
    System.arraycopy(id, 0, disk, title + 18, 2);
    disk[title + 21] = (byte) (l.large() ? '3' : '2');
    disk[title + 22] = (byte) (l.large() ? 'D' : 'A');
    for (int i = 0; i < l.firstOfCatalogue(); i++) taken.set(map / MapLayout.BLOCK + i);
    if (!l.large()) return;
    for (int half = 0; half < 2; half++) {
      int at = l.at(l.middle(), 1 + half);
      disk[at] = (byte) (half == 0 ? l.middle() : 0);
      disk[at + 1] = (byte) (half == 0 ? 2 : 0xFF);
      disk[at + 2] = 'D';
      disk[at + 3] = ~'D';
      System.arraycopy(id, 0, disk, at + 4, 2);
      disk[at + 6] = (byte) 0xC0;
    }
  }

  /** First byte of an entry; a block of the catalogue is begun where it needs one. */
  private static int catalogue(MapLayout l, byte[] disk, int entry, BitSet taken) {
    List<Integer> blocks = catalogueBlocks(l);
    int nth = entry / MapLayout.ENTRIES;
    int at = l.at(l.middle(), blocks.get(nth));
    if (entry % MapLayout.ENTRIES == 0) begin(l, disk, blocks, nth, taken);
    return at + entry % MapLayout.ENTRIES * MapLayout.ENTRY;
  }

  private static void begin(MapLayout l, byte[] disk, List<Integer> blocks, int nth, BitSet taken) {
    int at = l.at(l.middle(), blocks.get(nth));
    disk[at + 1] = (byte) 0xFF;
    taken.set(at / MapLayout.BLOCK);
    if (nth == 0) return;
    int before = l.at(l.middle(), blocks.get(nth - 1));
    disk[before] = (byte) l.middle();
    disk[before + 1] = (byte) (int) blocks.get(nth);
  }

  /** Blocks of the catalogue in the order in which they are taken: every third, then between. */
  private static List<Integer> catalogueBlocks(MapLayout l) {
    List<Integer> out = new ArrayList<>();
    int step = l.large() ? 1 : CATALOGUE_STEP;
    for (int round = 0; round < step; round++) {
      for (int b = l.firstOfCatalogue() + round; b < l.blocks(l.middle()); b += step) out.add(b);
    }
    return out;
  }

  private static void file(MapLayout l, byte[] disk, int entry, FileSet.Item i, Blocks next) {
    byte[] own = i.own();
    String stem = MapNames.stem(i.name());
    boolean kept =
        own.length == MapLayout.ENTRY && MapNames.read(own, 5, MapLayout.MOST_NAME).equals(stem);
    byte[] name = kept ? Arrays.copyOfRange(own, 5, 21) : MapNames.write(stem);
    int locked = (i.marks() & 0x01) != 0 ? 0x40 : 0;
    disk[entry + 2] = (byte) (0x80 | locked | MapNames.type(i.name()));
    System.arraycopy(name, 0, disk, entry + 5, name.length);
    // What some systems keep there, such as a date.
    if (own.length == MapLayout.ENTRY) System.arraycopy(own, 23, disk, entry + 23, 5);
    byte[] content = SmallMaker.content(i);
    int blocks = Math.max(1, (content.length + MapLayout.DATA - 1) / MapLayout.DATA);
    boolean records = ofRecords(i);
    Bytes.put16(disk, entry + 30, blocks + (records ? Records.beside(l, blocks) : 0));
    List<Integer> all = new ArrayList<>();
    int link = entry + 3;
    for (int b = 0; b < blocks; b++) {
      int at = next.take();
      all.add(at);
      disk[link] = (byte) next.track;
      disk[link + 1] = (byte) next.block;
      int n = Math.min(MapLayout.DATA, content.length - b * MapLayout.DATA);
      System.arraycopy(content, b * MapLayout.DATA, disk, at + 2, n);
      disk[at + 1] = (byte) (n + 1);
      link = at;
    }
    if (records) Records.write(disk, l, entry, recordBytes(i), all, next::take);
  }

  /**
   * Gives out free blocks, from the track beside the middle outward on one side, then the other.
   */
  private static final class Blocks {
    private final MapLayout l;
    private final BitSet taken;
    private int track;
    private int block;

    Blocks(MapLayout l, BitSet taken) {
      this.l = l;
      this.taken = taken;
      this.track = l.middle() - 1;
    }

    /** First byte of the next one. */
    int take() {
      while (full()) {
        track = track >= l.middle() ? track + 1 : track == 1 ? l.middle() + 1 : track - 1;
        block = 0;
      }
      int first = l.at(track, 0) / MapLayout.BLOCK;
      int n = l.blocks(track);
      block = (block + l.interleave()) % n;
      while (taken.get(first + block)) block = (block + 1) % n;
      taken.set(first + block);
      return (first + block) * MapLayout.BLOCK;
    }

    private boolean full() {
      int first = l.at(track, 0) / MapLayout.BLOCK;
      return taken.nextClearBit(first) >= first + l.blocks(track);
    }
  }
}
