package lanternshed.core.volume.fat;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Field;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Place;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.Mending;
import lanternshed.core.volume.BootFacts;
import lanternshed.core.volume.Maker;
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

  /** Boot sector, FSInfo, more code, and the copies of all three. */
  private static final List<Integer> RESERVED_KNOWN_32 = List.of(0, 1, 2, 6, 7, 8);

  static final int ENTRY = 32;

  /** No folder of these systems holds more; a longer chain is a loop or damage. */
  static final int MOST_FOLDER_BYTES = 65_536 * ENTRY;

  private static final int READ_BYTES = 1 << 20;

  private final Medium medium;
  private final FatBoot boot;
  private final FatLayout layout;
  private final FatCopies copies;
  private final FatTable table;
  private final int perSector;

  /** Read when it is first asked for; everything after the boot sector and the table needs it. */
  private FatTree tree;

  private FatVolume(Medium medium, FatBoot boot) {
    this.medium = medium;
    this.boot = boot;
    this.layout = boot.layout();
    this.perSector = layout.bytesPerSector() / medium.sectorSize();
    this.copies = FatCopies.read(medium, layout);
    this.table = copies.taken();
  }

  /**
   * Opens a volume by its boot sector, or where that is spoiled by the copy that FAT32 has of it.
   *
   * @throws VolumeException with the reason where there is none
   */
  public static FatVolume open(Medium medium) {
    if (medium.sectors() < 4 || medium.sectorSize() != 512) {
      throw new VolumeException(
          "Too small for a FAT volume: " + Say.sectors(medium.sectors()) + ".");
    }
    try {
      return new FatVolume(medium, FatBoot.first(medium));
    } catch (VolumeException e) {
      return new FatVolume(medium, FatBoot.copy(medium, e.getMessage()).orElseThrow(() -> e));
    }
  }

  /** A volume whose fields are known from elsewhere than its first sector. */
  static FatVolume of(Medium medium, FatLayout layout) {
    return new FatVolume(medium, FatBoot.of(layout));
  }

  /**
   * A volume whose FAT has 16 bits an entry whatever its number of clusters, with logical sectors
   * of up to 16 384 bytes: what the family of the DMA bus makes (P-21, P-26).
   *
   * @throws VolumeException with the reason where there is none
   */
  static FatVolume openAlways16(Medium medium) {
    byte[] b = medium.sector(0);
    return new FatVolume(medium, FatBoot.given(b, FatLayout.parseAlways16(b, medium.sectors())));
  }

  /** A volume by its first sector alone; empty where that is no FAT boot sector. */
  public static Optional<FatVolume> recognise(Medium medium) {
    if (medium.sectors() < 4 || medium.sectorSize() != 512) return Optional.empty();
    try {
      return Optional.of(new FatVolume(medium, FatBoot.first(medium)));
    } catch (VolumeException e) {
      return Optional.empty();
    }
  }

  /** A volume by its first sector, or by the copy of it. */
  public static Optional<FatVolume> recogniseDamaged(Medium medium) {
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

  FatBoot boot() {
    return boot;
  }

  FatCopies copies() {
    return copies;
  }

  /** The folders; where the copies of the table differ, files' chains are settled with them. */
  synchronized FatTree tree() {
    if (tree == null) {
      tree = FatTree.read(this);
      if (copies.differ()) {
        for (FatTree.Folder f : tree.folders()) {
          for (FatTree.Slot s : f.slots()) {
            Node n = s.node();
            if (!n.folder()) copies.fitFile(cluster(n), needed(n));
          }
        }
      }
    }
    return tree;
  }

  private static int cluster(Node n) {
    return (int) Math.min(n.first(), Integer.MAX_VALUE);
  }

  long needed(Node file) {
    return (file.bytes() + layout.clusterBytes() - 1) / layout.clusterBytes();
  }

  /** A node's clusters: a folder's as the tree has them, a file's up to the first of a folder. */
  FatChain chainOf(Node n) {
    FatTree t = tree();
    if (n.folder()) return t.at(n.first()).map(FatTree.Folder::chain).orElse(FatChain.NONE);
    return FatChain.follow(table, cluster(n), t::holdsFolder);
  }

  @Override
  public String kind() {
    return layout.kind().name();
  }

  /** The label of the root folder, which is the one that systems show; else the boot sector's. */
  @Override
  public String label() {
    Optional<byte[]> inRoot = rootLabel();
    if (inRoot.isPresent()) {
      return FatNames.safe(new String(inRoot.get(), FatNames.CODE_PAGE).stripTrailing());
    }
    return layout.label().equals("NO NAME") ? "" : FatNames.safe(layout.label());
  }

  /** The eleven bytes of the label in the root folder. */
  Optional<byte[]> rootLabel() {
    FatTree.Folder root = tree().folders().get(0);
    byte[] b = folderBytes(root.node());
    for (int at = 0; at + ENTRY <= b.length && b[at] != 0; at += ENTRY) {
      int marks = b[at + 11] & 0x3F;
      if (b[at] != (byte) 0xE5
          && marks != LONG_NAME
          && (marks & LABEL) != 0
          && (marks & FOLDER) == 0
          && root.slotAt(at).isEmpty()) {
        return Optional.of(Arrays.copyOfRange(b, at, at + 11));
      }
    }
    return Optional.empty();
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
    return tree().at(folder.first()).map(FatTree.Folder::slots).orElse(List.of()).stream()
        .map(FatTree.Slot::node)
        .toList();
  }

  @Override
  public List<Node> all() {
    List<Node> out = new ArrayList<>();
    tree().folders().forEach(f -> f.slots().forEach(s -> out.add(s.node())));
    return out;
  }

  @Override
  public String fold(String name) {
    return FatNames.fold(name);
  }

  /** What an entry keeps beside name, marks, time and place: bytes 0C to 13 of it. */
  static final int KEPT = 0x0C;

  static final int KEPT_BYTES = 8;

  /**
   * Behind those stands its short name, byte for byte: what no system would give it is kept too.
   */
  static final int NAME_BYTES = 11;

  /** The entries of one folder by node, as they were asked for last. */
  private record Entries(String folder, byte[] bytes, Map<Node, Integer> places) {}

  private Entries last = new Entries("", new byte[0], Map.of());

  /**
   * Bytes 0C to 13 of its entry: the case of a short name, when it was made to the hundredth, and
   * when it was last looked at; then the eleven of its name.
   */
  @Override
  public synchronized byte[] own(Node node) {
    if (node.path().isEmpty()) return new byte[0];
    if (!last.folder().equals(node.parent()) || !last.places().containsKey(node)) {
      last = entries(node.parent());
    }
    Integer at = last.places().get(node);
    if (at == null) return new byte[0];
    byte[] own = Arrays.copyOfRange(last.bytes(), at + KEPT, at + KEPT + KEPT_BYTES + NAME_BYTES);
    System.arraycopy(last.bytes(), at, own, KEPT_BYTES, NAME_BYTES);
    return own;
  }

  /** Short names are kept to the byte; the letters of a long one are held against its pieces. */
  @Override
  public synchronized boolean spelledOut(Node node) {
    String shown = node.path().substring(node.path().lastIndexOf('/') + 1);
    if (shown.indexOf('·') < 0) return true;
    own(node);
    Integer at = last.places().get(node);
    return at == null || LongName.before(last.bytes(), at).filter(n -> !n.equals(shown)).isEmpty();
  }

  private Entries entries(String folder) {
    Map<Node, Integer> places = new HashMap<>();
    byte[] bytes = new byte[0];
    for (FatTree.Folder f : tree().folders()) {
      if (!f.node().path().equals(folder)) continue;
      bytes = folderBytes(f.node());
      for (FatTree.Slot s : f.slots()) places.putIfAbsent(s.node(), s.at());
      break;
    }
    return new Entries(folder, bytes, places);
  }

  @Override
  public Optional<String> notWhole(Node n) {
    if (n.folder()) {
      String shut = tree().shut(n.path());
      if (!shut.isEmpty()) return Optional.of(shut);
      FatChain chain = chainOf(n);
      return chain.ending() == FatChain.Ending.PROPER
          ? Optional.empty()
          : Optional.of("its chain " + broken(chain) + "; entries may be missing");
    }
    if (n.bytes() == 0) return Optional.empty();
    FatChain chain = chainOf(n);
    long needed = needed(n);
    if (chain.clusters() < needed) {
      return Optional.of(
          "its chain "
              + broken(chain)
              + " after "
              + Say.count(chain.clusters())
              + " of "
              + Say.plural(needed, "cluster", "clusters"));
    }
    long left = n.bytes();
    for (FatChain.Run run : chain.runs()) {
      long inRun = Math.min(left, run.count() * (long) layout.clusterBytes());
      long end = layout.sectorOf(run.first()) * perSector + (inRun + 511) / 512;
      if (end > medium.sectors()) return Optional.of("the image ends before it does");
      left -= inRun;
      if (left == 0) break;
    }
    return Optional.empty();
  }

  private static String broken(FatChain chain) {
    return switch (chain.ending()) {
      case PROPER -> "ends";
      case FREE -> "runs into a free cluster";
      case BAD -> "runs into a cluster marked bad";
      case OUTSIDE -> "leaves the volume";
      case LOOP -> "comes back to itself";
      case TAKEN -> "runs into a folder";
    };
  }

  /**
   * Entries that were deleted and not written over: their first character is gone, and what their
   * first cluster points to may be somebody else's by now.
   */
  @Override
  public List<Node> deleted() {
    List<Node> out = new ArrayList<>();
    for (FatTree.Folder f : tree().folders()) {
      Node folder = f.node();
      byte[] b = folderBytes(folder);
      for (int at = 0; at + ENTRY <= f.end(b); at += ENTRY) {
        int attributes = b[at + 11] & 0x3F;
        if (b[at] != (byte) 0xE5 || attributes == LONG_NAME || (attributes & LABEL) != 0) continue;
        byte[] e = Arrays.copyOfRange(b, at, at + ENTRY);
        e[0] = '_';
        if (FatNames.fault(e, 0).isEmpty()) out.add(node(folder, e, 0, Optional.empty()));
      }
    }
    return out;
  }

  /** First cluster that an entry names. */
  long firstOf(byte[] b, int at) {
    long first = Bytes.u16(b, at + 26);
    if (layout.kind() == FatKind.FAT32) first |= (long) (Bytes.u16(b, at + 20) & 0x0FFF) << 16;
    return first;
  }

  Node node(Node folder, byte[] b, int at, Optional<String> longName) {
    String name = FatNames.decode(b, at);
    boolean isFolder = (b[at + 11] & FOLDER) != 0;
    String shown = longName.orElse(FatNames.cased(name, b[at + 12]));
    return new Node(
        folder.path().isEmpty() ? shown : folder.path() + "/" + shown,
        name,
        shown,
        isFolder,
        isFolder ? 0 : Bytes.u32(b, at + 28),
        b[at + 11] & 0x3F,
        Bytes.u16(b, at + 24) << 16 | Bytes.u16(b, at + 22),
        firstOf(b, at));
  }

  /** A folder's raw entries; bounded, whatever its chain says. */
  byte[] folderBytes(Node folder) {
    if (folder.path().isEmpty() && layout.rootCluster() == 0) return fixedRoot();
    return clusterBytes(chainOf(folder));
  }

  /** The root folder of a fixed place; what lies past the medium's end stays zero. */
  byte[] fixedRoot() {
    byte[] b = new byte[layout.rootSectors() * layout.bytesPerSector()];
    readWhatIsThere(layout.rootStart() * perSector, layout.rootSectors() * perSector, b, 0);
    return Arrays.copyOf(b, layout.rootEntries() * ENTRY);
  }

  byte[] clusterBytes(FatChain chain) {
    byte[] b = new byte[chain.clusters() * layout.clusterBytes()];
    int at = 0;
    for (FatChain.Run run : chain.runs()) {
      for (int c = run.first(); c < run.first() + run.count(); c++) {
        readCluster(c, b, at);
        at += layout.clusterBytes();
      }
    }
    return b;
  }

  /** Whether the medium goes as far as a cluster's first sector. */
  boolean isThere(int cluster) {
    return layout.sectorOf(cluster) * perSector < medium.sectors();
  }

  void readCluster(int cluster, byte[] into, int at) {
    readWhatIsThere(layout.sectorOf(cluster) * perSector, layout.clusterBytes() / 512, into, at);
  }

  byte[] firstSector(int cluster) {
    byte[] b = new byte[512];
    readWhatIsThere(layout.sectorOf(cluster) * perSector, 1, b, 0);
    return b;
  }

  private void readWhatIsThere(long lba, int count, byte[] into, int at) {
    int there = (int) Math.max(0, Math.min(count, medium.sectors() - lba));
    if (there > 0) medium.read(lba, there, into, at);
  }

  @Override
  public void read(Node file, Sink sink) {
    long left = file.bytes();
    if (left == 0) return;
    FatChain chain = chainOf(file);
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
          int there = (int) Math.max(0, medium.sectors() - lba);
          if (there > 0) {
            medium.read(lba, there, b, 0);
            sink.take(b, 0, there * 512);
          }
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
    for (FatChain.Run run : chainOf(node).runs()) {
      out.add(
          new long[] {
            layout.sectorOf(run.first()) * perSector,
            (long) run.count() * layout.sectorsPerCluster() * perSector
          });
    }
    return out;
  }

  @Override
  public List<long[]> inUse() {
    List<long[]> out = new ArrayList<>();
    // Folders are read here, so that they come first where what is in use is rescued first.
    tree();
    out.add(new long[] {0, layout.firstData() * perSector});
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

  @Override
  public Optional<Mending> mending() {
    return Optional.of(FatRepair.plan(this));
  }

  @Override
  public List<Place> places() {
    List<Place> out = new ArrayList<>();
    long per = perSector;
    out.add(Place.headed("boot sector", 0, layout.reserved() * per, FatFields.BOOT));
    long fats = layout.fats() * layout.fatSectors() * per;
    out.add(Place.of("FAT", "", layout.fatStart() * per, fats, 0));
    long rootAt = layout.rootStart() * per;
    out.add(
        Place.of("root folder", "", rootAt, layout.rootSectors() * per, 0)
            .named(FatFields.ENTRIES));
    try {
      add(out, "root folder", root(), FatFields.ENTRIES);
      for (Node n : all()) {
        add(out, n.folder() ? "folder" : "file", n, n.folder() ? FatFields.ENTRIES : List.of());
      }
    } catch (ShedException e) {
      // What would have named the rest is damaged.
    }
    long data = layout.firstData() * per;
    out.add(Place.of("free space", "", data, layout.total() * per - data, 0));
    return out;
  }

  private void add(List<Place> out, String kind, Node n, List<Field> fields) {
    for (long[] run : sectorsOf(n)) {
      out.add(Place.of(kind, n.path(), run[0], run[1], n.bytes()).named(fields));
    }
  }

  @Override
  public Optional<Maker.Layout> layoutAsItLies() {
    return usual() ? Optional.of(FatMaker.of(layout.anew(label()), true, 0)) : Optional.empty();
  }

  /** Whether FAT32's copy and information sectors stand where the maker puts them. */
  private boolean usual() {
    if (layout.kind() != FatKind.FAT32) return true;
    byte[] b = boot.sector();
    return layout.reserved() > FatBoot.BACKUP + 2
        && Bytes.u16(b, FatLayout.FSINFO_32) == FatLayout.FSINFO_SECTOR
        && Bytes.u16(b, FatLayout.BACKUP_32) == FatBoot.BACKUP;
  }

  @Override
  public boolean remakeable() {
    // What is worked out anew, for a FAT32 of an unusual form, has sectors of 512 bytes.
    if (layout.always16() || !usual() && layout.bytesPerSector() != 512) return false;
    List<Integer> known = layout.kind() == FatKind.FAT32 ? RESERVED_KNOWN_32 : List.of(0);
    for (int s = 0; s < layout.reserved() * perSector; s++) {
      byte[] b = medium.sector(s);
      boolean structure = s % perSector == 0 && known.contains(s / perSector);
      if (!structure && !Bytes.allZero(b, 0, b.length)) return false;
    }
    return true;
  }

  @Override
  public long serial() {
    return layout.serial();
  }

  @Override
  public Optional<BootFacts> bootFacts() {
    boolean possible =
        layout.heads() > 0
            && layout.heads() <= 256
            && layout.sectorsPerTrack() > 0
            && layout.sectorsPerTrack() <= 63;
    List<Node> root = list(root());
    List<String> system =
        root.stream()
            .takeWhile(n -> !n.folder() && (n.attributes() & SYSTEM) != 0)
            .map(Node::name)
            .toList();
    byte[] code = bootCode();
    if (layout.always16()) {
      boolean runs = FatExecutable.is(boot.sector());
      code = runs ? boot.sector() : new byte[0];
      system = runs ? FatExecutable.drivers(root) : List.of();
    }
    return Optional.of(
        new BootFacts(
            possible ? layout.heads() : 0,
            possible ? layout.sectorsPerTrack() : 0,
            // It counts in the volume's own sectors, as all of its fields do.
            layout.always16() ? layout.hidden() : layout.hidden() * perSector,
            code,
            system,
            root.stream().limit(BootFacts.LOOKED_AT).map(this::rootEntry).toList(),
            named(root, code)));
  }

  /**
   * The boot code of its first sector, from where code begins; on FAT32 the code of sector 2 behind
   * it. Empty where there is none.
   */
  private byte[] bootCode() {
    byte[] b = boot.sector();
    byte[] code = Arrays.copyOfRange(b, layout.codeAt(), 510);
    if (Bytes.allZero(code, 0, code.length) || Bytes.u16(b, 510) != 0xAA55) return new byte[0];
    if (layout.kind() != FatKind.FAT32 || layout.reserved() < 3) return code;
    byte[] more = medium.sector(2L * perSector);
    byte[] out = Arrays.copyOf(code, code.length + more.length);
    System.arraycopy(more, 0, out, code.length, more.length);
    return out;
  }

  private BootFacts.RootEntry rootEntry(Node n) {
    int slot =
        tree().folders().get(0).slots().stream()
            .filter(s -> s.node().equals(n))
            .mapToInt(s -> s.at() / ENTRY)
            .findFirst()
            .orElse(-1);
    boolean system = (n.attributes() & SYSTEM) != 0;
    int runs = sectorsOf(n).size();
    return new BootFacts.RootEntry(n.name(), slot, n.folder(), system, n.bytes(), n.first(), runs);
  }

  /** Files of the root whose names stand in the code as they stand in a folder. */
  private static List<String> named(List<Node> root, byte[] code) {
    if (code.length == 0) return List.of();
    String text = new String(code, StandardCharsets.ISO_8859_1);
    List<String> out = new ArrayList<>();
    for (Node n : root) {
      int dot = n.name().lastIndexOf('.');
      String base = dot < 0 ? n.name() : n.name().substring(0, dot);
      String extension = dot < 0 ? "" : n.name().substring(dot + 1);
      if (!n.folder() && text.contains(pad(base, 8) + pad(extension, 3))) out.add(n.name());
    }
    return out;
  }

  private static String pad(String s, int to) {
    return s + " ".repeat(Math.max(0, to - s.length()));
  }
}
