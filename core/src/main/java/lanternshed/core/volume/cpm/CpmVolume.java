package lanternshed.core.volume.cpm;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeSet;
import lanternshed.core.measure.Field;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Place;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.medium.Medium;
import lanternshed.core.names.NameList;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Sink;
import lanternshed.core.volume.Volume;
import lanternshed.core.volume.VolumeException;

/**
 * A CP/M volume under one set of parameters, opened for reading. The folder is read once; user
 * areas other than 0 are shown as folders USER1 to USER15.
 */
final class CpmVolume implements Volume {
  private static final List<Field> ENTRIES = entries();

  private final Medium medium;
  private final CpmLayout layout;
  private final int unreadable;
  private final Optional<Sum> inferred;
  private final List<String> guesses;
  private final Map<String, List<CpmEntry>> files = new LinkedHashMap<>();

  /**
   * Reads the folder.
   *
   * @param inferred how the parameters were found; empty where they are known
   * @param guesses those that explain the folder as well where nothing else speaks for these, which
   *     come first; none where something does
   * @throws VolumeException where the medium ends before it
   */
  CpmVolume(Medium medium, CpmLayout layout, Optional<Sum> inferred, List<String> guesses) {
    this.guesses = guesses;
    this.inferred = inferred;
    this.medium = medium;
    this.layout = layout;
    byte[] b = folder(medium, layout);
    int odd = 0;
    for (int slot = 0; slot < layout.entries(); slot++) {
      int at = slot * CpmLayout.ENTRY;
      if ((b[at] & 0xFF) == CpmEntry.FREE) continue;
      if (!CpmEntry.plausible(b, at)) {
        odd++;
        continue;
      }
      CpmEntry e = CpmEntry.of(b, at, slot, layout.wide());
      files.computeIfAbsent(e.path(), p -> new ArrayList<>()).add(e);
    }
    this.unreadable = odd;
    files.values().forEach(l -> l.sort(Comparator.comparingInt(CpmEntry::extent)));
  }

  /** The bytes of the folder. */
  static byte[] folder(Medium m, CpmLayout l) {
    return l.bytes(m, 0, l.entries() * CpmLayout.ENTRY);
  }

  /** Its systems have large letters alone, and find a name that is typed in small ones. */
  @Override
  public String fold(String name) {
    return NameList.fold(name);
  }

  @Override
  public String kind() {
    return CpmLayout.KIND;
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
  public boolean remakeable() {
    return unreadable == 0;
  }

  /** Reserved tracks hold the system; behind the last block a track may go on. */
  @Override
  public boolean keepsAround() {
    return !layout.wholeMedium();
  }

  @Override
  public Optional<Sum> inferred() {
    return inferred;
  }

  @Override
  public List<String> guesses() {
    return guesses;
  }

  @Override
  public int marks() {
    return 0x25;
  }

  @Override
  public boolean keepsTimes() {
    return false;
  }

  @Override
  public Use use() {
    BitSet taken = taken();
    long free = layout.clusterCount() - taken.cardinality();
    return new Use(layout.block(), layout.clusterCount(), Math.max(0, free), 0);
  }

  private BitSet taken() {
    BitSet out = new BitSet();
    for (List<CpmEntry> l : files.values()) {
      for (CpmEntry e : l) {
        for (int b : e.blocks()) if (b >= layout.folderBlocks() && b < layout.blocks()) out.set(b);
      }
    }
    return out;
  }

  @Override
  public Node root() {
    return new Node("", "", "", true, 0, 0, 0, 0);
  }

  @Override
  public List<Node> list(Node folder) {
    return all().stream().filter(n -> n.parent().equals(folder.path())).toList();
  }

  @Override
  public List<Node> all() {
    List<Node> out = new ArrayList<>();
    TreeSet<Integer> users = new TreeSet<>();
    files.values().forEach(l -> users.add(l.get(0).user()));
    users.remove(0);
    for (int u : users) {
      String name = CpmEntry.folder(u);
      out.add(new Node(name, name, name, true, 0, 0, 0, 0));
    }
    files.forEach((path, l) -> out.add(node(path, l)));
    return out;
  }

  private Node node(String path, List<CpmEntry> l) {
    CpmEntry first = l.get(0);
    int marks =
        (first.marked(CpmEntry.READ_ONLY) ? 0x01 : 0)
            | (first.marked(CpmEntry.SYSTEM) ? 0x04 : 0)
            | (first.marked(CpmEntry.ARCHIVED) ? 0 : 0x20);
    return new Node(path, first.name(), first.name(), false, bytes(l), marks, 0, first.blocks()[0]);
  }

  /** In records, less what the last one has too many where S1 tells (C-6). */
  private static long bytes(List<CpmEntry> l) {
    CpmEntry last = l.get(l.size() - 1);
    long records = last.upTo();
    boolean told = last.s1() > 0 && last.s1() < CpmLayout.RECORD && records > 0;
    return records * CpmLayout.RECORD - (told ? CpmLayout.RECORD - last.s1() : 0);
  }

  @Override
  public byte[] own(Node node) {
    List<CpmEntry> l = files.get(node.path());
    if (l == null) return new byte[0];
    int marks = l.get(0).marks();
    return new byte[] {(byte) marks, (byte) (marks >> 8)};
  }

  /** The block of a place in a file; 0 for a hole or what is not there. */
  private int blockAt(List<CpmEntry> l, long index) {
    int entry = (int) (index / layout.pointers());
    for (CpmEntry e : l) {
      if (e.index(layout) != entry) continue;
      int b = e.blocks()[(int) (index % layout.pointers())];
      if (b != 0) return b;
    }
    return 0;
  }

  @Override
  public void read(Node file, Sink sink) {
    List<CpmEntry> l = files.getOrDefault(file.path(), List.of());
    long left = file.bytes();
    byte[] block = new byte[layout.block()];
    for (long i = 0; left > 0; i++) {
      int number = blockAt(l, i);
      if (number != 0) content(file, number, block);
      else Arrays.fill(block, (byte) 0);
      int n = (int) Math.min(left, block.length);
      sink.take(block, 0, n);
      left -= n;
    }
  }

  private void content(Node file, int number, byte[] into) {
    long at = layout.offset() + (long) number * layout.block();
    if (number >= layout.blocks() || at + into.length > medium.bytes()) {
      throw new VolumeException(file.path() + ": " + outside(number) + ".");
    }
    System.arraycopy(
        layout.bytes(medium, (long) number * layout.block(), into.length), 0, into, 0, into.length);
  }

  @Override
  public List<long[]> sectorsOf(Node node) {
    List<long[]> out = new ArrayList<>();
    List<CpmEntry> l = files.get(node.path());
    if (l == null) return out;
    long blocks = (node.bytes() + layout.block() - 1) / layout.block();
    for (long i = 0; i < blocks; i++) {
      int number = blockAt(l, i);
      if (number == 0 || number >= layout.blocks()) continue;
      for (long[] run : layout.runs((long) number * layout.block(), layout.block())) {
        if (run[0] + run[1] > medium.sectors()) continue;
        long[] last = out.isEmpty() ? null : out.get(out.size() - 1);
        if (last != null && last[0] + last[1] == run[0]) last[1] += run[1];
        else out.add(run);
      }
    }
    return out;
  }

  @Override
  public Optional<String> notWhole(Node node) {
    List<CpmEntry> l = files.get(node.path());
    if (l == null) return Optional.empty();
    for (CpmEntry e : l) {
      for (int b : e.blocks()) {
        long end = layout.offset() + (b + 1L) * layout.block();
        if (b >= layout.blocks() || end > medium.bytes()) return Optional.of(outside(b));
      }
    }
    int entries = l.get(l.size() - 1).index(layout) + 1;
    long there = l.stream().mapToInt(e -> e.index(layout)).distinct().count();
    if (there < entries) {
      return Optional.of((entries - there) + " of its " + entries + " entries are not there");
    }
    return Optional.empty();
  }

  @Override
  public List<Finding> check() {
    List<Finding> out = new ArrayList<>();
    if (unreadable > 0) {
      out.add(
          wrong(
              "folder",
              Say.plural(unreadable, "entry makes", "entries make") + " no sense.",
              "Look at the folder; another set of parameters may fit better."));
    }
    Map<Integer, String> owner = new LinkedHashMap<>();
    for (Map.Entry<String, List<CpmEntry>> f : files.entrySet()) {
      String path = f.getKey();
      Node n = node(path, f.getValue());
      Optional<String> why = notWhole(n);
      if (why.isPresent()) {
        out.add(wrong(path, path + " is not whole: " + why.get() + ".", "Look at what came."));
      }
      TreeSet<Integer> indexes = new TreeSet<>();
      for (CpmEntry e : f.getValue()) {
        if (!indexes.add(e.index(layout))) {
          String what = path + " has entry " + (e.index(layout) + 1) + " twice.";
          out.add(wrong(path, what, "One of the two is old; copy both out and look."));
        }
        for (int b : e.blocks()) claim(b, path, owner, out);
      }
    }
    return out;
  }

  private void claim(int block, String path, Map<Integer, String> owner, List<Finding> out) {
    if (block == 0) return;
    if (block < layout.folderBlocks()) {
      out.add(wrong(path, path + " claims block " + block + ", the folder's own.", "Rescue it."));
    }
    String other = owner.putIfAbsent(block, path);
    if (other == null) return;
    out.add(
        wrong(
            path,
            "Block " + block + " belongs to " + other + " and to " + path + ".",
            "One of the two is damaged; copy both out and look."));
  }

  @Override
  public List<Place> places() {
    List<Place> out = new ArrayList<>();
    long folder = layout.offset() / 512;
    if (folder > 0) out.add(Place.of("reserved tracks", "", 0, folder, 0));
    for (long[] run : layout.runs(0, layout.entries() * (long) CpmLayout.ENTRY)) {
      out.add(Place.of("CP/M folder", "", run[0], run[1], 0).named(ENTRIES));
    }
    for (Node n : all()) {
      for (long[] run : sectorsOf(n)) {
        out.add(Place.of("file", n.path(), run[0], run[1], n.bytes()));
      }
    }
    long end = Math.min(medium.sectors(), layout.sectorCount());
    out.add(Place.of("free space", "", 0, end, 0));
    return out;
  }

  @Override
  public List<long[]> inUse() {
    List<long[]> out = new ArrayList<>();
    out.add(new long[] {0, Math.max(1, layout.offset() / 512)});
    for (long[] run : layout.runs(0, (long) layout.folderBlocks() * layout.block())) {
      if (run[0] < medium.sectors()) {
        out.add(new long[] {run[0], Math.min(run[1], medium.sectors() - run[0])});
      }
    }
    for (Node n : all()) out.addAll(sectorsOf(n));
    return out;
  }

  private static List<Field> entries() {
    List<Field> out = new ArrayList<>();
    for (int e = 0; e < 512 / CpmLayout.ENTRY; e++) {
      int at = e * CpmLayout.ENTRY;
      String entry = "entry " + (e + 1) + ": ";
      out.add(new Field(at, 1, entry + "user"));
      out.add(new Field(at + 1, CpmEntry.NAME, entry + "name"));
      out.add(new Field(at + CpmEntry.EX, 1, entry + "extent"));
      out.add(new Field(at + CpmEntry.S1, 1, entry + "bytes in the last record"));
      out.add(new Field(at + CpmEntry.S2, 1, entry + "extent, high"));
      out.add(new Field(at + CpmEntry.RC, 1, entry + "records"));
      out.add(new Field(at + CpmEntry.BLOCKS, 16, entry + "blocks"));
    }
    return List.copyOf(out);
  }

  // ---- sentences --------------------------------------------------------------------------------

  private String outside(int block) {
    return "its block " + block + " lies past the last, " + (layout.blocks() - 1);
  }

  private static Finding wrong(String where, String what, String todo) {
    return Finding.wrong("C-4", where, what, todo);
  }
}
