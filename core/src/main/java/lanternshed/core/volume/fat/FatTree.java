package lanternshed.core.volume.fat;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.volume.Node;

/**
 * All folders of a volume, read once. What lies on disk is not believed: a folder is gone into only
 * where its clusters hold one, an entry that contradicts itself is refused, each cluster belongs to
 * one folder only, and depth, paths and the number of entries have bounds. What is left out is a
 * finding.
 */
final class FatTree {
  /** Folders within folders; the longest path that systems open has fewer. */
  private static final int MOST_DEPTH = 128;

  private static final int MOST_PATH = 2_048;
  private static final int MOST_NODES = 1_000_000;
  private static final int MOST_FINDINGS = 200;
  private static final int ENTRY = FatVolume.ENTRY;

  /** From this many contradictions on an entry is refused; a single flipped bit makes one. */
  private static final int TOO_ODD = 2;

  /** A live entry with its place: byte {@code at} of its folder's data. */
  record Slot(Node node, int at) {}

  /**
   * One folder.
   *
   * @param parent first cluster of the folder above, as ".." says it; 0 for the root
   * @param slots live entries less "." and ".."
   * @param refused how many entries contradict themselves; {@link #refuses} knows them
   */
  record Folder(Node node, long parent, FatChain chain, List<Slot> slots, int refused) {}

  private record Todo(Node node, long parent, int depth) {}

  private final FatVolume volume;
  private final FatLayout layout;
  private final List<Folder> folders = new ArrayList<>();
  private final Map<Long, Folder> byFirst = new HashMap<>();
  private final List<Finding> findings = new ArrayList<>();

  /** Folders that are entries and cannot be gone into, with the reason. */
  private final Map<String, String> shut = new HashMap<>();

  /** The clusters that belong to folders. */
  private final BitSet clusters = new BitSet();

  private int nodes;
  private int unsaid;

  private FatTree(FatVolume volume) {
    this.volume = volume;
    this.layout = volume.layout();
  }

  static FatTree read(FatVolume volume) {
    FatTree t = new FatTree(volume);
    t.run();
    return t;
  }

  /** Parents before what is in them, in the order on disk. */
  List<Folder> folders() {
    return folders;
  }

  /** The folder that begins at a cluster, 0 for a fixed root. */
  Optional<Folder> at(long first) {
    return Optional.ofNullable(byFirst.get(first));
  }

  List<Finding> findings() {
    return findings;
  }

  /** Why a folder was not gone into; "" for one that was. */
  String shut(String path) {
    return shut.getOrDefault(path, "");
  }

  /** Whether a cluster holds a folder's entries: no file has it, whatever its chain says. */
  boolean holdsFolder(int cluster) {
    return clusters.get(cluster);
  }

  private void run() {
    Deque<Todo> todo = new ArrayDeque<>();
    todo.push(new Todo(volume.root(), 0, 0));
    while (!todo.isEmpty()) {
      Todo t = todo.pop();
      String why = refusal(t);
      if (!why.isEmpty()) {
        shut.put(t.node().path(), why);
        wrong(
            t.node().path(),
            "The folder " + t.node().path() + " " + why + "; it is not gone into.",
            "Look at its sectors: what was in it may lie there.");
        continue;
      }
      Folder f = folder(t);
      folders.add(f);
      byFirst.put(t.node().first(), f);
      for (int i = f.slots().size() - 1; i >= 0; i--) {
        Node n = f.slots().get(i).node();
        if (n.folder())
          todo.push(new Todo(n, t.depth() == 0 ? 0 : t.node().first(), t.depth() + 1));
      }
    }
    if (unsaid > 0) {
      findings.add(
          Finding.note("F-9", volume.kind(), "And " + Say.count(unsaid) + " findings like these."));
    }
  }

  private void wrong(String where, String what, String todo) {
    if (findings.size() >= MOST_FINDINGS) unsaid++;
    else findings.add(Finding.wrong("F-9", where, what, todo));
  }

  /** Why an entry that calls itself a folder is none, or cannot be gone into; "" for a good one. */
  private String refusal(Todo t) {
    Node n = t.node();
    if (t.depth() == 0) return "";
    if (nodes >= MOST_NODES) return "comes after " + Say.count(MOST_NODES) + " entries";
    if (t.depth() > MOST_DEPTH) return "lies " + MOST_DEPTH + " folders deep";
    if (n.path().length() > MOST_PATH)
      return "has a path of more than " + MOST_PATH + " characters";
    if (!volume.table().isData((int) Math.min(n.first(), Integer.MAX_VALUE))) {
      return n.first() == 0 ? "has no first cluster" : "begins outside the volume";
    }
    int first = (int) n.first();
    if (clusters.get(first)) return "begins where another folder lies already";
    if (!volume.isThere(first)) return "lies past the end of the medium";
    byte[] b = new byte[layout.clusterBytes()];
    volume.readCluster(first, b, 0);
    return isFolder(b, n.first(), t.parent()) ? "" : "begins with a cluster that holds no entries";
  }

  /**
   * Whether a cluster is the first of a folder: "." leads to itself or ".." to the folder above;
   * or, where both are spoiled, nearly all that stands there are sensible entries.
   */
  private boolean isFolder(byte[] b, long self, long parent) {
    boolean dots = isDots(b, 0, ".") && isDots(b, ENTRY, "..");
    if (dots && (volume.firstOf(b, 0) == self || volume.firstOf(b, ENTRY) == parent)) return true;
    return share(b) >= 90;
  }

  private static boolean isDots(byte[] b, int at, String dots) {
    return FatNames.decode(b, at).equals(dots) && (b[at + 11] & FatVolume.FOLDER) != 0;
  }

  /** Percent of the entries up to the end mark that are sensible; 0 where there are none. */
  private int share(byte[] b) {
    int sensible = 0;
    int all = 0;
    for (int at = 0; at + ENTRY <= b.length && b[at] != 0; at += ENTRY) {
      if (b[at] == (byte) 0xE5) continue;
      all++;
      int a = b[at + 11] & 0xFF;
      boolean piece = (a & 0x3F) == FatVolume.LONG_NAME && Bytes.u16(b, at + 26) == 0;
      if (piece || oddities(b, at) == 0 && FatNames.fault(b, at).isEmpty()) sensible++;
    }
    return all == 0 ? 0 : sensible * 100 / all;
  }

  private Folder folder(Todo t) {
    Node n = t.node();
    boolean fixed = t.depth() == 0 && layout.rootCluster() == 0;
    FatChain chain = fixed ? FatChain.NONE : chain(n);
    byte[] b = fixed ? volume.fixedRoot() : volume.clusterBytes(chain);
    List<Slot> slots = new ArrayList<>();
    int refused = 0;
    LongName longName = new LongName();
    for (int at = 0; at + ENTRY <= b.length && b[at] != 0; at += ENTRY) {
      if (b[at] == (byte) 0xE5) {
        longName.clear();
        continue;
      }
      int attributes = b[at + 11] & 0x3F;
      if (attributes == FatVolume.LONG_NAME) {
        longName.add(b, at);
        continue;
      }
      boolean isDot = t.depth() > 0 && at < 2 * ENTRY && b[at] == '.';
      if (!isDot && (attributes & FatVolume.LABEL) == 0) {
        if (refuses(b, at) || nodes >= MOST_NODES) refused++;
        else {
          slots.add(new Slot(volume.node(n, b, at, longName), at));
          nodes++;
        }
      }
      longName.clear();
    }
    String where = n.path().isEmpty() ? "the root folder" : n.path();
    if (refused > 0) {
      wrong(
          where,
          Say.plural(refused, "entry", "entries")
              + " of "
              + where
              + (refused == 1 ? " makes" : " make")
              + " no sense and "
              + (refused == 1 ? "is" : "are")
              + " left out.",
          "Something else was written there; look at its sectors.");
    }
    return new Folder(n, t.parent(), chain, slots, refused);
  }

  /**
   * A folder's chain: each cluster belongs to one folder. Where the tables differ, the way that
   * leads to another cluster of entries is gone.
   */
  private FatChain chain(Node n) {
    FatTable table = volume.table();
    int most = Math.max(1, FatVolume.MOST_FOLDER_BYTES / layout.clusterBytes());
    if (volume.copies().differ()) {
      BitSet own = new BitSet();
      for (int c = (int) n.first(); table.isData(c) && own.cardinality() < most; ) {
        own.set(c);
        int next = table.get(c);
        for (int e : volume.copies().after(c)) {
          if (!table.isData(e) || own.get(e) || clusters.get(e) || !volume.isThere(e)) continue;
          byte[] b = new byte[layout.clusterBytes()];
          volume.readCluster(e, b, 0);
          boolean first = isDots(b, 0, ".");
          if (first || b[0] != 0 && share(b) < 90) continue;
          next = e;
          break;
        }
        table.set(c, next);
        c = table.isData(next) && !own.get(next) ? next : 0;
      }
    }
    int[] left = {most};
    long first = n.first();
    FatChain chain =
        FatChain.follow(
            table,
            (int) first,
            c ->
                clusters.get(c)
                    || !volume.isThere(c)
                    || left[0]-- <= 0
                    || c != first && beginsFolder(c));
    for (FatChain.Run r : chain.runs()) clusters.set(r.first(), r.first() + r.count());
    return chain;
  }

  /** Whether an entry contradicts itself so much that something else stands there. */
  boolean refuses(byte[] b, int at) {
    return oddities(b, at) >= TOO_ODD;
  }

  /** Whether another folder begins there: what leads into it is a broken chain. */
  private boolean beginsFolder(int cluster) {
    byte[] b = volume.firstSector(cluster);
    return isDots(b, 0, ".") && isDots(b, ENTRY, "..");
  }

  /**
   * How many things about an entry cannot be: control characters in its name, reserved attribute
   * bits, clusters outside the volume, a length past the volume's, a folder with a length, a day or
   * month that no calendar has.
   */
  private int oddities(byte[] b, int at) {
    int odd = 0;
    for (int i = 0; i < 11; i++) {
      int c = b[at + i] & 0xFF;
      if (c < 0x20 && !(i == 0 && c == 0x05)) {
        odd++;
        break;
      }
    }
    int attributes = b[at + 11] & 0xFF;
    boolean isFolder = (attributes & FatVolume.FOLDER) != 0;
    long bytes = Bytes.u32(b, at + 28);
    long first = volume.firstOf(b, at);
    if ((attributes & 0xC0) != 0) odd++;
    if (first == 1 || first > volume.table().last()) odd++;
    if (bytes > (long) layout.clusters() * layout.clusterBytes()) odd++;
    if (isFolder && (bytes != 0 || first == 0)) odd++;
    int date = Bytes.u16(b, at + 24);
    int month = date >> 5 & 0xF;
    if (date != 0 && (month < 1 || month > 12 || (date & 0x1F) == 0)) odd++;
    return odd;
  }
}
