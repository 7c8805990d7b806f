package lanternshed.core.volume;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.ToIntFunction;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Place;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;

/**
 * A disk so small that it is read once, as a whole. Its catalogue says of each file which pieces of
 * the disk are its content; folders are what stands before a "/" in a path.
 */
public abstract class SmallVolume implements Volume {
  private static final int SECTOR = 512;

  /** The shortest sector of these disks. */
  private static final int PIECE = 128;

  /**
   * A file.
   *
   * @param pieces of its content, in order: first byte on the disk and count
   * @param taken what belongs to it, links and all: first byte and count
   * @param own as {@link Volume#own} gives it
   * @param broken why it does not come whole; "" where it does
   */
  public record Held(Node node, List<int[]> pieces, List<int[]> taken, byte[] own, String broken) {}

  /** A part of the disk that is no file: what it is called, its first byte and count. */
  public record Structure(String name, int at, int bytes) {}

  protected final byte[] disk;
  private final List<Held> held;
  private final List<Structure> structures;
  private final Sum evidence;
  private final Map<String, Held> byPath = new LinkedHashMap<>();

  protected SmallVolume(byte[] disk, List<Held> held, List<Structure> structures, Sum evidence) {
    this.disk = disk;
    this.held = List.copyOf(held);
    this.structures = List.copyOf(structures);
    this.evidence = evidence;
    for (Held h : held) byPath.putIfAbsent(h.node().path(), h);
  }

  /** In the order of the catalogue. */
  protected final List<Held> held() {
    return held;
  }

  @Override
  public Optional<Sum> inferred() {
    return Optional.of(evidence);
  }

  /** Two of one name, or what does not come whole, are not laid down anew. */
  @Override
  public boolean remakeable() {
    return byPath.size() == held.size() && held.stream().allMatch(h -> h.broken().isEmpty());
  }

  @Override
  public int marks() {
    return 0x01;
  }

  @Override
  public boolean keepsTimes() {
    return false;
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
    Set<String> folders = new LinkedHashSet<>();
    byPath.values().forEach(h -> folders.add(h.node().parent()));
    folders.remove("");
    for (String f : folders) out.add(new Node(f, f, f, true, 0, 0, 0, 0));
    byPath.values().forEach(h -> out.add(h.node()));
    return out;
  }

  private Optional<Held> of(Node node) {
    return Optional.ofNullable(byPath.get(node.path()));
  }

  @Override
  public byte[] own(Node node) {
    return of(node).map(h -> h.own().clone()).orElse(new byte[0]);
  }

  /** The bytes of an entry that say where its data lie. */
  protected int[] places(byte[] entry) {
    return new int[0];
  }

  @Override
  public byte[] lasting(Node node) {
    byte[] b = own(node);
    for (int at : places(b)) b[at] = 0;
    return b;
  }

  @Override
  public void read(Node file, Sink sink) {
    Held h = byPath.get(file.path());
    if (h == null) return;
    for (int[] p : h.pieces()) {
      int n = Math.min(p[1], disk.length - p[0]);
      if (n > 0) sink.take(disk, p[0], n);
    }
    if (!h.broken().isEmpty()) throw new VolumeException(file.path() + ": " + h.broken() + ".");
  }

  @Override
  public Optional<String> notWhole(Node node) {
    return of(node).map(Held::broken).filter(b -> !b.isEmpty());
  }

  @Override
  public List<long[]> sectorsOf(Node node) {
    return of(node).map(h -> sectors(h.taken())).orElse(List.of());
  }

  /** Sectors of 512 bytes in which these pieces lie, those that follow each other as one run. */
  private List<long[]> sectors(List<int[]> pieces) {
    List<long[]> out = new ArrayList<>();
    for (int[] p : pieces) {
      int last = (Math.min(p[0] + p[1], disk.length) - 1) / SECTOR;
      for (long s = p[0] / SECTOR; p[1] > 0 && s <= last; s++) {
        long[] run = out.isEmpty() ? null : out.get(out.size() - 1);
        if (run != null && s == run[0] + run[1]) run[1]++;
        else if (run == null || s < run[0] || s > run[0] + run[1]) out.add(new long[] {s, 1});
      }
    }
    return out;
  }

  /** Files of one name; the machine opens the first. */
  protected final List<Finding> twice(String rule) {
    return held.stream()
        .filter(h -> byPath.get(h.node().path()) != h)
        .map(h -> h.node().path())
        .map(
            p ->
                Finding.wrong(
                    rule, p, p + " stands in the catalogue twice.", "Copy both out and look."))
        .toList();
  }

  /** Marks what lies from a byte on as taken, in pieces of {@link #PIECE} bytes. */
  protected static void take(BitSet taken, int at, int bytes) {
    taken.set(at / PIECE, (at + bytes) / PIECE);
  }

  protected static boolean isTaken(BitSet taken, int at) {
    return taken.get(at / PIECE);
  }

  /**
   * Faults of files that are chains: those that break off, that say another length than they have,
   * or that share what they take with what was taken before.
   *
   * @param unit one of a chain, "block"
   * @param said how many of them its entry says
   * @param taken what is taken already; what the files take is added
   */
  protected final List<Finding> chained(
      String rule, String unit, ToIntFunction<Held> said, BitSet taken) {
    List<Finding> out = new ArrayList<>();
    for (Held h : held) {
      String path = h.node().path();
      int there = h.taken().size();
      int says = said.applyAsInt(h);
      if (!h.broken().isEmpty()) {
        String what = path + ": " + h.broken() + ".";
        out.add(Finding.wrong(rule, path, what, "Copy out what is there."));
      } else if (says != there) {
        String what =
            path + " says " + Say.plural(says, unit, unit + "s") + " and has " + there + ".";
        out.add(Finding.note(rule, path, what));
      }
      boolean shared = h.taken().stream().anyMatch(t -> isTaken(taken, t[0]));
      h.taken().forEach(t -> take(taken, t[0], t[1]));
      if (shared) {
        String what = path + " shares " + unit + "s with what stands before it.";
        out.add(Finding.wrong(rule, path, what, "One of the two is damaged; look at both."));
      }
    }
    return out;
  }

  @Override
  public List<Place> places() {
    List<Place> out = new ArrayList<>();
    for (Structure s : structures) {
      for (long[] run : sectors(List.of(new int[] {s.at(), s.bytes()}))) {
        out.add(Place.of(s.name(), "", run[0], run[1], 0));
      }
    }
    for (Held h : byPath.values()) {
      for (long[] run : sectors(h.taken())) {
        out.add(Place.of("file", h.node().path(), run[0], run[1], h.node().bytes()));
      }
    }
    out.add(Place.of("free space", "", 0, disk.length / SECTOR, 0));
    return out;
  }

  @Override
  public List<long[]> inUse() {
    List<long[]> out = new ArrayList<>();
    for (Structure s : structures) out.addAll(sectors(List.of(new int[] {s.at(), s.bytes()})));
    for (Held h : byPath.values()) out.addAll(sectors(h.taken()));
    return out;
  }
}
