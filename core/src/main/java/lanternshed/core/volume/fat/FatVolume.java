package lanternshed.core.volume.fat;

import java.nio.charset.StandardCharsets;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Deque;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.medium.Medium;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Sink;
import lanternshed.core.volume.Volume;
import lanternshed.core.volume.VolumeException;

/** A FAT volume on a medium whose sector 0 is its boot sector; opened for reading. */
public final class FatVolume implements Volume {
  static final int READ_ONLY = 0x01;
  static final int HIDDEN = 0x02;
  static final int SYSTEM = 0x04;
  static final int LABEL = 0x08;
  static final int FOLDER = 0x10;
  static final int ARCHIVE = 0x20;
  static final int LONG_NAME = 0x0F;
  static final int ENTRY = 32;

  /** No folder of these systems holds more; a longer chain is a loop or damage. */
  private static final int MOST_FOLDER_BYTES = 65_536 * ENTRY;

  private static final int MOST_NODES = 1_000_000;
  private static final int READ_BYTES = 1 << 20;

  private final Medium medium;
  private final FatLayout layout;
  private final FatTable table;
  private final int perSector;

  private FatVolume(Medium medium, FatLayout layout) {
    this.medium = medium;
    this.layout = layout;
    this.perSector = layout.bytesPerSector() / medium.sectorSize();
    this.table = FatTable.read(medium, layout, 0);
  }

  /**
   * Opens a volume.
   *
   * @throws VolumeException with the reason where there is none
   */
  public static FatVolume open(Medium medium) {
    if (medium.sectors() < 4 || medium.sectorSize() != 512) {
      throw new VolumeException(
          "Too small for a FAT volume: " + Say.sectors(medium.sectors()) + ".");
    }
    return new FatVolume(medium, FatLayout.parse(medium.sector(0), medium.sectors()));
  }

  /** A volume where the first sector is a FAT boot sector; empty otherwise. */
  public static Optional<FatVolume> recognise(Medium medium) {
    try {
      return Optional.of(open(medium));
    } catch (VolumeException e) {
      return Optional.empty();
    }
  }

  public FatLayout layout() {
    return layout;
  }

  Medium medium() {
    return medium;
  }

  FatTable table() {
    return table;
  }

  @Override
  public String kind() {
    return layout.kind().name();
  }

  /** The label of the root folder, which is the one that systems show; else the boot sector's. */
  @Override
  public String label() {
    byte[] b = folderBytes(root());
    for (int at = 0; at + ENTRY <= b.length && b[at] != 0; at += ENTRY) {
      int a = b[at + 11] & 0x3F;
      if (b[at] != (byte) 0xE5 && a != LONG_NAME && (a & LABEL) != 0) {
        return FatNames.safe(new String(b, at, 11, FatNames.CODE_PAGE).stripTrailing());
      }
    }
    return layout.label().equals("NO NAME") ? "" : FatNames.safe(layout.label());
  }

  @Override
  public Use use() {
    long free = 0;
    long bad = 0;
    for (int n = 2; n <= table.last(); n++) {
      int e = table.get(n);
      if (e == 0) free++;
      else if (table.isBad(e)) bad++;
    }
    return new Use(layout.clusterBytes(), layout.clusters(), free, bad);
  }

  @Override
  public Node root() {
    return new Node("", "", "", true, 0, FOLDER, 0, layout.rootCluster());
  }

  @Override
  public List<Node> list(Node folder) {
    return entries(folder).stream().map(Slot::node).filter(n -> !n.name().startsWith(".")).toList();
  }

  @Override
  public List<Node> all() {
    List<Node> out = new ArrayList<>();
    walk((folder, slots) -> slots.forEach(s -> out.add(s.node())));
    return out;
  }

  /** What the walk calls for each folder, with its entries less "." and "..". */
  interface Visit {
    void folder(Node folder, List<Slot> entries);
  }

  /** An entry with its place: byte {@code at} of its folder's data. */
  record Slot(Node node, int at) {}

  /** Visits every folder once, however they are linked, parents first, in the order on disk. */
  void walk(Visit visit) {
    Set<Long> seen = new HashSet<>();
    Deque<Node> todo = new ArrayDeque<>();
    todo.push(root());
    int count = 0;
    while (!todo.isEmpty()) {
      Node folder = todo.pop();
      if (!folder.path().isEmpty() && !seen.add(folder.first())) continue;
      List<Slot> entries =
          entries(folder).stream().filter(s -> !s.node().name().startsWith(".")).toList();
      count += entries.size();
      if (count > MOST_NODES) return;
      visit.folder(folder, entries);
      for (int i = entries.size() - 1; i >= 0; i--) {
        Node n = entries.get(i).node();
        if (n.folder()) todo.push(n);
      }
    }
  }

  /** All live entries of a folder, "." and ".." among them, labels left out. */
  List<Slot> entries(Node folder) {
    byte[] b = folderBytes(folder);
    List<Slot> out = new ArrayList<>();
    LongName longName = new LongName();
    for (int at = 0; at + ENTRY <= b.length && b[at] != 0; at += ENTRY) {
      if (b[at] == (byte) 0xE5) {
        longName.clear();
        continue;
      }
      int attributes = b[at + 11] & 0x3F;
      if (attributes == LONG_NAME) {
        longName.add(b, at);
        continue;
      }
      if ((attributes & LABEL) == 0) out.add(new Slot(node(folder, b, at, longName), at));
      longName.clear();
    }
    return out;
  }

  /**
   * Entries that were deleted and not written over: their first character is gone, and what their
   * first cluster points to may be somebody else's by now.
   */
  public List<Node> deleted() {
    List<Node> out = new ArrayList<>();
    List<Node> folders = new ArrayList<>(List.of(root()));
    all().stream().filter(Node::folder).forEach(folders::add);
    Set<Long> seen = new HashSet<>();
    for (Node folder : folders) {
      if (!folder.path().isEmpty() && !seen.add(folder.first())) continue;
      byte[] b = folderBytes(folder);
      for (int at = 0;
          at + ENTRY <= b.length && b[at] != 0 && out.size() < MOST_NODES;
          at += ENTRY) {
        int attributes = b[at + 11] & 0x3F;
        if (b[at] != (byte) 0xE5 || attributes == LONG_NAME || (attributes & LABEL) != 0) continue;
        byte[] e = Arrays.copyOfRange(b, at, at + ENTRY);
        e[0] = '_';
        if (FatNames.fault(e, 0).isEmpty()) out.add(node(folder, e, 0, new LongName()));
      }
    }
    return out;
  }

  private Node node(Node folder, byte[] b, int at, LongName longName) {
    String name = FatNames.decode(b, at);
    boolean isFolder = (b[at + 11] & FOLDER) != 0;
    long first = Bytes.u16(b, at + 26);
    if (layout.kind() == FatKind.FAT32) first |= (long) (Bytes.u16(b, at + 20) & 0x0FFF) << 16;
    String shown = longName.forEntry(b, at).orElse(name);
    return new Node(
        folder.path().isEmpty() ? shown : folder.path() + "/" + shown,
        name,
        shown,
        isFolder,
        isFolder ? 0 : Bytes.u32(b, at + 28),
        b[at + 11] & 0x3F,
        Bytes.u16(b, at + 24) << 16 | Bytes.u16(b, at + 22),
        first);
  }

  /** A folder's raw entries; bounded, whatever its chain says. */
  byte[] folderBytes(Node folder) {
    if (folder.path().isEmpty() && layout.rootCluster() == 0) {
      byte[] b = new byte[layout.rootSectors() * layout.bytesPerSector()];
      int count = layout.rootSectors() * perSector;
      long at = layout.rootStart() * perSector;
      long there = Math.max(0, Math.min(count, medium.sectors() - at));
      if (there > 0) medium.read(at, (int) there, b, 0);
      return Arrays.copyOf(b, layout.rootEntries() * ENTRY);
    }
    FatChain chain = FatChain.follow(table, (int) folder.first());
    int most = MOST_FOLDER_BYTES / layout.clusterBytes();
    byte[] b = new byte[Math.min(chain.clusters(), Math.max(1, most)) * layout.clusterBytes()];
    int at = 0;
    for (FatChain.Run run : chain.runs()) {
      int n = (int) Math.min(run.count() * (long) layout.clusterBytes(), b.length - at);
      if (n <= 0) break;
      readClusters(run.first(), n, b, at);
      at += n;
    }
    return b;
  }

  private void readClusters(int cluster, int bytes, byte[] into, int at) {
    long lba = layout.sectorOf(cluster) * perSector;
    int count = (bytes + 511) / 512;
    if (lba + count > medium.sectors()) {
      throw new VolumeException(
          "Cluster "
              + cluster
              + " lies past the end of the medium, at "
              + Say.sectors(medium.sectors())
              + ".");
    }
    medium.read(lba, count, into, at);
  }

  @Override
  public void read(Node file, Sink sink) {
    long left = file.bytes();
    if (left == 0) return;
    FatChain chain = FatChain.follow(table, (int) file.first());
    // Only as large as the file needs: a volume of small files would else clear a megabyte for
    // each.
    int most = (int) Math.min(READ_BYTES, (left + 511) / 512 * 512);
    byte[] b = new byte[most];
    for (FatChain.Run run : chain.runs()) {
      long inRun = Math.min(left, run.count() * (long) layout.clusterBytes());
      long lba = layout.sectorOf(run.first()) * perSector;
      for (long done = 0; done < inRun; ) {
        int n = (int) Math.min(most, inRun - done);
        int count = (n + 511) / 512;
        if (lba + count > medium.sectors()) {
          throw new VolumeException(
              file.path() + " reaches past the end of the medium, at sector " + lba + ".");
        }
        medium.read(lba, count, b, 0);
        sink.take(b, 0, n);
        done += n;
        lba += count;
      }
      left -= inRun;
      if (left == 0) return;
    }
    throw new VolumeException(
        file.path()
            + " is "
            + Say.bytes(file.bytes())
            + " long by its folder, but its chain ends "
            + Say.bytes(left)
            + " before that.");
  }

  @Override
  public List<long[]> sectorsOf(Node node) {
    List<long[]> out = new ArrayList<>();
    if (node.first() == 0) return out;
    for (FatChain.Run run : FatChain.follow(table, (int) node.first()).runs()) {
      out.add(
          new long[] {
            layout.sectorOf(run.first()) * perSector,
            (long) run.count() * layout.sectorsPerCluster() * perSector
          });
    }
    return out;
  }

  /** The clusters that are taken, as runs of sectors of the medium. */
  public List<long[]> usedSectors() {
    List<long[]> out = new ArrayList<>();
    int start = 0;
    for (int n = 2; n <= table.last() + 1; n++) {
      boolean used = n <= table.last() && table.get(n) != 0 && !table.isBad(table.get(n));
      if (used && start == 0) start = n;
      if (!used && start != 0) {
        out.add(
            new long[] {
              layout.sectorOf(start) * perSector,
              (long) (n - start) * layout.sectorsPerCluster() * perSector
            });
        start = 0;
      }
    }
    return out;
  }

  @Override
  public List<Finding> check() {
    return new FatCheck(this).run();
  }

  /** Collects the pieces of a long name, which stand before their entry in reverse order. */
  private static final class LongName {
    private static final int[] PLACES = {1, 3, 5, 7, 9, 14, 16, 18, 20, 22, 24, 28, 30};
    private final StringBuilder text = new StringBuilder();
    private int expect = -1;
    private int sum;

    void clear() {
      text.setLength(0);
      expect = -1;
    }

    void add(byte[] b, int at) {
      int order = b[at] & 0xFF;
      if ((order & 0x40) != 0) {
        clear();
        expect = order & 0x3F;
        sum = b[at + 13] & 0xFF;
      }
      if (expect < 1 || expect > 20 || (order & 0x3F) != expect || (b[at + 13] & 0xFF) != sum) {
        clear();
        return;
      }
      byte[] piece = new byte[26];
      int n = 0;
      for (int p : PLACES) {
        int c = Bytes.u16(b, at + p);
        if (c == 0) break;
        Bytes.put16(piece, n, c);
        n += 2;
      }
      text.insert(0, new String(piece, 0, n, StandardCharsets.UTF_16LE));
      expect--;
    }

    /** The name, if all its pieces came and its sum is the entry's. */
    Optional<String> forEntry(byte[] b, int at) {
      if (expect != 0 || text.isEmpty()) return Optional.empty();
      int s = 0;
      for (int i = 0; i < 11; i++) s = ((s & 1) << 7 | s >> 1) + (b[at + i] & 0xFF) & 0xFF;
      String safe = FatNames.safe(text.toString());
      return s == sum && !safe.equals(".") && !safe.equals("..")
          ? Optional.of(safe)
          : Optional.empty();
    }
  }
}
