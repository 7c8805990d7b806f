package lanternshed.core.volume.exfat;

import static lanternshed.core.volume.exfat.ExfatEntries.ENTRY;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Place;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.Mending;
import lanternshed.core.volume.Bounded;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Sink;
import lanternshed.core.volume.Volume;
import lanternshed.core.volume.VolumeException;

/**
 * An exFAT volume, opened for reading (exFAT file system specification, August 2019). The tree is
 * read once, when something of it is first asked for; a node of another opening reads the same.
 */
public final class ExfatVolume implements Volume {
  private static final int MOST_FOLDER_BYTES = 16 << 20;
  private static final int MOST_TABLE = 0x20000;

  private final Medium medium;
  private final ExfatLayout layout;

  /** Whether the copy of the boot region was taken, because the first makes no sense. */
  private final boolean byCopy;

  /**
   * What stands in an entry alone.
   *
   * @param valid bytes that were written; what follows up to the length reads as zeros
   */
  record Stream(int flags, long first, long valid, long bytes) {
    static final Stream NONE = new Stream(0, 0, 0, 0);

    boolean plain() {
      return (flags & ExfatEntries.NO_CHAIN) != 0;
    }
  }

  /**
   * A set of entries in its folder's data.
   *
   * @param name as it stands on disk
   * @param length bytes of the set
   */
  record EntrySet(Node node, String name, int at, int length, Stream stream, boolean sumRight) {}

  /**
   * A folder with what is in it.
   *
   * @param odd places of entries that belong to no set
   */
  record Folder(Node node, Stream stream, byte[] bytes, List<EntrySet> sets, List<Integer> odd) {}

  /** By path. */
  private final Map<String, Stream> streams = new HashMap<>();

  private final Map<String, Folder> folders = new LinkedHashMap<>();

  /** Folders that cannot be gone into, by path, with the reason. */
  private final Map<String, String> shut = new LinkedHashMap<>();

  private boolean bounded;
  private char[] upper;
  private String lastFolder = "";
  private Map<Node, Integer> lastPlaces = Map.of();

  private List<Node> all;

  private ExfatVolume(Medium m, ExfatLayout layout, boolean byCopy) {
    this.medium = m;
    this.layout = layout;
    this.byCopy = byCopy;
  }

  /**
   * A volume where the boot sector or its copy says so and its figures fit the medium; empty
   * otherwise.
   */
  public static Optional<ExfatVolume> recognise(Medium m) {
    if (m.sectors() < 2 * ExfatLayout.REGION) return Optional.empty();
    Optional<ExfatLayout> first = ExfatLayout.parse(m.sector(0), m);
    if (first.isPresent()) return Optional.of(new ExfatVolume(m, first.get(), false));
    for (int per = 1; per <= 8; per *= 2) {
      long lba = (long) ExfatLayout.REGION * per;
      if (lba >= m.sectors()) break;
      int bytes = 512 * per;
      Optional<ExfatLayout> copy =
          ExfatLayout.parse(m.sector(lba), m).filter(l -> l.sectorBytes() == bytes);
      if (copy.isPresent()) return Optional.of(new ExfatVolume(m, copy.get(), true));
    }
    return Optional.empty();
  }

  ExfatLayout layout() {
    return layout;
  }

  Medium medium() {
    return medium;
  }

  boolean byCopy() {
    return byCopy;
  }

  @Override
  public String kind() {
    return "exFAT";
  }

  @Override
  public boolean remakeable() {
    return layout.sectorBytes() == 512;
  }

  @Override
  public long serial() {
    return layout.serial();
  }

  @Override
  public String label() {
    byte[] b = tree().get("").bytes();
    int at = find(b, ExfatEntries.LABEL);
    if (at < 0) return "";
    int length = Math.min(11, b[at + 1] & 0xFF);
    return safe(new String(b, at + 2, length * 2, StandardCharsets.UTF_16LE));
  }

  /** Place of the first entry of a kind in the root; −1 for none. */
  static int find(byte[] b, int kind) {
    for (int at = 0; at + ENTRY <= b.length && b[at] != 0; at += ENTRY) {
      if (ExfatEntries.kind(b, at) == kind) return at;
    }
    return -1;
  }

  /** What the entry of the bitmap or of the upcase table says; their clusters are chained. */
  Optional<Stream> table(int kind) {
    byte[] b = tree().get("").bytes();
    int at = find(b, kind);
    if (at < 0) return Optional.empty();
    long bytes = Math.max(0, Bytes.u64(b, at + ExfatEntries.LENGTH));
    return Optional.of(new Stream(0, Bytes.u32(b, at + ExfatEntries.FIRST), bytes, bytes));
  }

  @Override
  public Use use() {
    long clusters = layout.clusters();
    Optional<Stream> bitmap = table(ExfatEntries.BITMAP);
    if (bitmap.isEmpty()) return new Use(layout.clusterBytes(), clusters, clusters, 0);
    long[] used = {0};
    long[] left = {clusters};
    long length = Math.min(bitmap.get().bytes(), (clusters + 7) / 8);
    give(
        bitmap.get(),
        length,
        (x, from, n) -> {
          for (int i = from; i < from + n && left[0] > 0; i++) {
            int bits = x[i] & 0xFF;
            if (left[0] < 8) bits &= (1 << (int) left[0]) - 1;
            used[0] += Integer.bitCount(bits);
            left[0] -= 8;
          }
        });
    return new Use(layout.clusterBytes(), clusters, clusters - used[0], 0);
  }

  @Override
  public Node root() {
    return new Node("", "", "", true, 0, ExfatEntries.FOLDER, 0, layout.root());
  }

  @Override
  public List<Node> list(Node folder) {
    Folder f = tree().get(folder.path());
    return f == null ? List.of() : f.sets().stream().map(EntrySet::node).toList();
  }

  private Folder folder(Node folder, Stream stream) {
    byte[] b = bytesOf(folder, stream);
    List<EntrySet> sets = new ArrayList<>();
    List<Integer> odd = new ArrayList<>();
    for (int at = 0; at + ENTRY <= b.length && b[at] != 0; at += ENTRY) {
      int kind = ExfatEntries.kind(b, at);
      if ((kind & ExfatEntries.IN_USE) == 0) continue;
      if (kind != ExfatEntries.FILE) {
        if (kind == ExfatEntries.STREAM || kind == ExfatEntries.NAME) odd.add(at);
        continue;
      }
      int more = b[at + ExfatEntries.MORE] & 0xFF;
      int end = at + (more + 1) * ENTRY;
      boolean right = more >= 2 && more <= 18 && end <= b.length;
      for (int s = at + ENTRY; right && s < end; s += ENTRY) {
        boolean first = s == at + ENTRY;
        right = ExfatEntries.kind(b, s) == (first ? ExfatEntries.STREAM : ExfatEntries.NAME);
      }
      if (!right) {
        odd.add(at);
        continue;
      }
      sets.add(set(folder, b, at, end));
      at = end - ENTRY;
    }
    return new Folder(folder, stream, b, sets, odd);
  }

  private static EntrySet set(Node folder, byte[] b, int at, int end) {
    int s = at + ENTRY;
    StringBuilder name = new StringBuilder();
    // Plain letters of 16 bits: the two halves of a pair may stand in two entries.
    for (int n = s + ENTRY; n < end; n += ENTRY) {
      for (int i = n + 2; i < n + ENTRY; i += 2) name.append((char) Bytes.u16(b, i));
    }
    int zero = name.indexOf("\0");
    String onDisk = zero < 0 ? name.toString() : name.substring(0, zero);
    String shown = safe(onDisk);
    int attributes = Bytes.u16(b, at + ExfatEntries.ATTRIBUTES);
    boolean isFolder = (attributes & ExfatEntries.FOLDER) != 0;
    long bytes = Math.max(0, Bytes.u64(b, s + ExfatEntries.LENGTH));
    long valid = Math.min(bytes, Math.max(0, Bytes.u64(b, s + ExfatEntries.VALID)));
    long first = Bytes.u32(b, s + ExfatEntries.FIRST);
    Node n =
        new Node(
            folder.path().isEmpty() ? shown : folder.path() + "/" + shown,
            shown,
            shown,
            isFolder,
            isFolder ? 0 : bytes,
            attributes & 0x3F,
            (int) Bytes.u32(b, at + ExfatEntries.MODIFIED),
            first);
    return new EntrySet(
        n,
        onDisk,
        at,
        end - at,
        new Stream(b[s + ExfatEntries.FLAGS], first, valid, bytes),
        ExfatEntries.sum(b, at, end) == Bytes.u16(b, at + ExfatEntries.SET_SUM));
  }

  @Override
  public String fold(String name) {
    if (upper == null) {
      upper = Upcase.read(ownTable().orElseGet(Upcase::table));
    }
    char[] letters = name.toCharArray();
    for (int i = 0; i < letters.length; i++) letters[i] = upper[letters[i]];
    return new String(letters);
  }

  /** Its upcase table, where that is whole and right by its own sum. */
  private Optional<byte[]> ownTable() {
    byte[] root = tree().get("").bytes();
    int at = find(root, ExfatEntries.UPCASE);
    if (at < 0) return Optional.empty();
    Stream s = table(ExfatEntries.UPCASE).orElseThrow();
    if (s.bytes() < 2 || s.bytes() > MOST_TABLE) return Optional.empty();
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    give(s, s.bytes(), out::write);
    byte[] b = out.toByteArray();
    boolean right =
        b.length == s.bytes()
            && ExfatEntries.tableSum(b) == Bytes.u32(root, at + ExfatEntries.TABLE_SUM)
            && Upcase.makesSense(b);
    return right ? Optional.of(b) : Optional.empty();
  }

  /**
   * Of an entry bytes 08 to 18 of its set: when it was made, changed and looked at, to the
   * hundredth, with the zones of these times. Of the root the upcase table, by which the hashes of
   * all names were made.
   */
  @Override
  public synchronized byte[] own(Node node) {
    if (node.path().isEmpty()) return ownTable().orElseGet(() -> new byte[0]);
    if (!lastFolder.equals(node.parent()) || !lastPlaces.containsKey(node)) {
      lastFolder = node.parent();
      lastPlaces = new HashMap<>();
      Folder f = tree().get(node.parent());
      if (f != null) f.sets().forEach(e -> lastPlaces.putIfAbsent(e.node(), e.at()));
    }
    Integer at = lastPlaces.get(node);
    if (at == null) return new byte[0];
    int from = at + ExfatEntries.CREATED;
    return Arrays.copyOfRange(tree().get(node.parent()).bytes(), from, from + ExfatEntries.TIMES);
  }

  /** Entries whose name on disk is not the one that is shown. */
  private Set<Node> respelled;

  @Override
  public synchronized boolean spelledOut(Node node) {
    if (respelled == null) {
      respelled =
          tree().values().stream()
              .flatMap(f -> f.sets().stream())
              .filter(e -> !e.name().equals(e.node().name()))
              .map(EntrySet::node)
              .collect(Collectors.toSet());
    }
    return !respelled.contains(node);
  }

  /** All folders that can be gone into, each before what is in it. */
  Map<String, Folder> tree() {
    all();
    return folders;
  }

  Map<String, String> shut() {
    all();
    return shut;
  }

  @Override
  public synchronized List<Node> all() {
    if (all != null) return all;
    List<Node> out = new ArrayList<>();
    Set<Long> seen = new HashSet<>();
    Deque<Node> todo = new ArrayDeque<>();
    todo.push(root());
    streams.put("", new Stream(0, layout.root(), MOST_FOLDER_BYTES, MOST_FOLDER_BYTES));
    // No more bytes of folders than the volume has room for, however they overlap.
    long room = layout.clusters() * layout.clusterBytes();
    long letters = 0;
    while (!todo.isEmpty()) {
      Node folder = todo.pop();
      letters += folder.path().length();
      if (out.size() >= Bounded.MOST_NODES || letters > Bounded.MOST_LETTERS) {
        bounded = true;
        break;
      }
      String why = "";
      if (!layout.isData(folder.first())) why = "begins outside the volume";
      else if (!seen.add(folder.first())) why = "begins where another folder lies already";
      else if (room <= 0) why = "comes after as many folders as the volume has room for";
      if (!why.isEmpty()) {
        shut.put(folder.path(), why);
        continue;
      }
      Folder f = folder(folder, streams.get(folder.path()));
      room -= Math.max(layout.clusterBytes(), f.bytes().length);
      folders.put(folder.path(), f);
      for (EntrySet e : f.sets()) {
        // Of two that have one name the first is found, here as by every system.
        streams.putIfAbsent(e.node().path(), e.stream());
        out.add(e.node());
      }
      for (int i = f.sets().size() - 1; i >= 0; i--) {
        Node n = f.sets().get(i).node();
        if (n.folder() && !folders.containsKey(n.path())) todo.push(n);
      }
    }
    all = List.copyOf(out);
    return all;
  }

  /**
   * Whether some folders were not gone into for a bound of this reader: what seems to belong to
   * nobody may be theirs.
   */
  boolean bounded() {
    all();
    return bounded;
  }

  private Stream stream(Node n) {
    all();
    Stream s = streams.getOrDefault(n.path(), Stream.NONE);
    // The second of two that have one name, and the root.
    return s.first() == n.first() ? s : new Stream(s.flags(), n.first(), n.bytes(), n.bytes());
  }

  @Override
  public Optional<String> notWhole(Node n) {
    if (shut().containsKey(n.path())) return Optional.of(shut.get(n.path()));
    if (n.path().isEmpty()) return Optional.empty();
    long needed = n.folder() ? stream(n).bytes() : n.bytes();
    if (needed == 0) return Optional.empty();
    long there = 0;
    for (long[] run : sectorsOf(n)) {
      long sectors = Math.min(run[1], medium.sectors() - run[0]);
      if (sectors <= 0) break;
      there += sectors * 512;
    }
    return there >= needed
        ? Optional.empty()
        : Optional.of("it ends " + Say.bytes(needed - there) + " before its length");
  }

  private byte[] bytesOf(Node folder, Stream s) {
    java.io.ByteArrayOutputStream out = new java.io.ByteArrayOutputStream();
    give(s, Math.min(MOST_FOLDER_BYTES, s.bytes()), out::write);
    return out.toByteArray();
  }

  @Override
  public List<long[]> sectorsOf(Node node) {
    List<long[]> out = new ArrayList<>();
    long per = layout.clusterBytes() / 512;
    for (long[] run : runs(stream(node))) {
      out.add(new long[] {layout.byteOf(run[0]) / 512, run[1] * per});
    }
    return out;
  }

  /**
   * Runs of clusters, first and count, as far as they go and no further than the length asks; a
   * chain that comes back to itself ends there.
   */
  List<long[]> runs(Stream s) {
    long most = Math.min(layout.clustersFor(s.bytes()), layout.clusters());
    List<long[]> out = new ArrayList<>();
    if (most == 0 || !layout.isData(s.first())) return out;
    if (s.plain()) {
      out.add(new long[] {s.first(), Math.min(most, layout.clusters() + 2 - s.first())});
      return out;
    }
    long cluster = s.first();
    // Compared with one seen before, which moves on at each power of two, so that no ring is
    // missed.
    long seen = 0;
    for (long n = 0; n < most && layout.isData(cluster) && cluster != seen; n++) {
      if ((n & (n - 1)) == 0) seen = cluster;
      long[] last = out.isEmpty() ? null : out.get(out.size() - 1);
      if (last != null && last[0] + last[1] == cluster) last[1]++;
      else out.add(new long[] {cluster, 1});
      cluster = next(cluster);
    }
    return out;
  }

  @Override
  public void read(Node file, Sink sink) {
    if (file.bytes() == 0) return;
    Stream s = stream(file);
    long valid = Math.min(file.bytes(), s.valid());
    long given = give(s, valid, sink);
    if (given < valid) {
      throw new VolumeException(
          file.path() + " ends " + Say.bytes(file.bytes() - given) + " before its length.");
    }
    // What lies on the medium past the valid length is somebody else's old data.
    byte[] zeros = new byte[(int) Math.min(1 << 16, file.bytes() - valid)];
    for (long left = file.bytes() - valid; left > 0; left -= zeros.length) {
      sink.take(zeros, 0, (int) Math.min(zeros.length, left));
    }
  }

  /** Follows clusters until so many bytes were given; never round a loop. */
  private long give(Stream s, long bytes, Sink sink) {
    int clusterBytes = layout.clusterBytes();
    long cluster = s.first();
    long given = 0;
    byte[] b = new byte[Math.min(clusterBytes, 1 << 20)];
    for (long steps = 0; given < bytes && steps <= layout.clusters(); steps++) {
      if (!layout.isData(cluster)) break;
      long at = layout.byteOf(cluster);
      for (long done = 0; done < clusterBytes && given < bytes; done += b.length) {
        int n = (int) Math.min(b.length, bytes - given);
        int sectors = (n + 511) / 512;
        if ((at + done) / 512 + sectors > medium.sectors()) return given;
        medium.read((at + done) / 512, sectors, b, 0);
        sink.take(b, 0, n);
        given += n;
      }
      cluster = s.plain() ? cluster + 1 : next(cluster);
    }
    return given;
  }

  /** The FAT's entry of a cluster; 0 where the medium ends before it. */
  long next(long cluster) {
    long at = layout.fatAt() + cluster * 4;
    if (at / 512 >= medium.sectors() || cluster * 4 + 4 > layout.fatBytes()) return 0;
    return Bytes.u32(medium.sector(at / 512), (int) (at % 512));
  }

  @Override
  public List<Finding> check() {
    return ExfatRepair.plan(this).findings();
  }

  @Override
  public Optional<Mending> mending() {
    if (bounded()) throw Bounded.notMended();
    return Optional.of(ExfatRepair.plan(this));
  }

  private static String safe(String s) {
    return s.replaceAll("[\\p{Cntrl}/\\\\]", "_");
  }

  @Override
  public List<Place> places() {
    List<Place> out = new ArrayList<>();
    long boot = Math.min(layout.fatAt(), layout.heapAt()) / 512;
    out.add(Place.of("exFAT boot region", "", 0, boot, 0));
    out.add(Place.of("exFAT table", "", layout.fatAt() / 512, layout.fatBytes() / 512, 0));
    try {
      add(out, "exFAT root folder", root());
      for (Node n : all()) add(out, n.folder() ? "exFAT folder" : "file", n);
    } catch (ShedException e) {
      // What would have named the rest is damaged.
    }
    long heap = layout.clusters() * layout.clusterBytes() / 512;
    out.add(Place.of("free space", "", layout.heapAt() / 512, heap, 0));
    return out;
  }

  private void add(List<Place> out, String kind, Node n) {
    for (long[] run : sectorsOf(n)) out.add(Place.of(kind, n.path(), run[0], run[1], n.bytes()));
  }

  @Override
  public List<long[]> inUse() {
    List<long[]> out = new ArrayList<>();
    all();
    out.add(new long[] {0, layout.heapAt() / 512});
    long per = layout.clusterBytes() / 512;
    BitSet used = ExfatRepair.marked(this);
    for (int from = used.nextSetBit(0); from >= 0; ) {
      int to = used.nextClearBit(from);
      out.add(new long[] {layout.byteOf(from + 2L) / 512, (to - from) * per});
      from = used.nextSetBit(to);
    }
    return out;
  }
}
