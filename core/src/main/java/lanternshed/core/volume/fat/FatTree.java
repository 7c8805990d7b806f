package lanternshed.core.volume.fat;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Collections;
import java.util.Comparator;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.volume.Bounded;
import lanternshed.core.volume.Node;

/**
 * All folders of a volume, read once. What lies on disk is not believed: a folder is gone into only
 * where its clusters hold one, an entry that contradicts itself is refused, each cluster belongs to
 * one folder only, and the number of entries and the letters of all paths have bounds ({@link
 * Bounded}). What is left out is a finding.
 */
final class FatTree {

  private static final int MOST_FINDINGS = 200;
  private static final int ENTRY = FatVolume.ENTRY;

  private static final int MOST_DOUBTFUL = 65_536;

  /** From this many contradictions on an entry is refused; a single flipped bit makes one. */
  private static final int TOO_ODD = 2;

  /**
   * A live entry with its place: byte {@code at} of its folder's data.
   *
   * @param spoiled whether the entry itself is damaged and was believed by its chain: its first
   *     character is gone, or its marks say what it is not
   */
  record Slot(Node node, int at, boolean spoiled) {}

  /**
   * An entry that is believed only once everything else has its clusters.
   *
   * @param first its first character where the sum of a long name tells it, else 0
   * @param name the long name
   */
  private record Doubtful(
      Todo folder, byte[] bytes, int at, boolean behindEnd, byte first, Optional<String> name) {}

  /**
   * One folder.
   *
   * @param parent first cluster of the folder above, as ".." says it; 0 for the root
   * @param slots live entries less "." and ".."
   * @param refused how many entries contradict themselves; {@link #refuses} knows them
   */
  record Folder(Node node, long parent, FatChain chain, List<Slot> slots, int refused) {

    /** Where its entries end, by the last that is one: past the end mark where that is spoiled. */
    int end(byte[] b) {
      int at = 0;
      while (at + ENTRY <= b.length && b[at] != 0) at += ENTRY;
      return slots.isEmpty() ? at : Math.max(at, slots.get(slots.size() - 1).at() + ENTRY);
    }

    /** The live entry at a place of its data; slots are in that order. */
    Optional<Slot> slotAt(int at) {
      int i = Collections.binarySearch(slots, new Slot(null, at, false), BY_PLACE);
      return i < 0 ? Optional.empty() : Optional.of(slots.get(i));
    }
  }

  private static final Comparator<Slot> BY_PLACE = Comparator.comparingInt(Slot::at);

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

  private final Deque<Doubtful> doubtful = new ArrayDeque<>();

  private int nodes;
  private long letters;
  private boolean bounded;
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

  /**
   * Whether some folders were not gone into for a bound of this reader: what seems to belong to
   * nobody may be theirs.
   */
  boolean bounded() {
    return bounded;
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
    goInto(new Todo(volume.root(), 0, 0));
    if (!doubtful.isEmpty()) weighDoubtful();
    if (unsaid > 0) {
      findings.add(
          Finding.note("F-9", volume.kind(), "And " + Say.count(unsaid) + " findings like these."));
    }
  }

  private void goInto(Todo start) {
    Deque<Todo> todo = new ArrayDeque<>();
    todo.push(start);
    while (!todo.isEmpty()) {
      Todo t = todo.pop();
      String why = refusal(t);
      if (!why.isEmpty() && (nodes >= Bounded.MOST_NODES || letters > Bounded.MOST_LETTERS)) {
        // This program's own bound says nothing of the folder.
        bounded = true;
        shut.put(t.node().path(), why);
        continue;
      }
      if (!why.isEmpty()) {
        shut.put(t.node().path(), why);
        wrong(
            t.node().path(),
            "The folder " + t.node().path() + " " + why + "; it is not gone into.",
            "Look at its sectors: what was in it may lie there.");
        continue;
      }
      letters += t.node().path().length();
      Folder f = folder(t);
      folders.add(f);
      byFirst.put(t.node().first(), f);
      for (int i = f.slots().size() - 1; i >= 0; i--) {
        Node n = f.slots().get(i).node();
        if (n.folder()) todo.push(below(t, n));
      }
    }
  }

  private static Todo below(Todo folder, Node n) {
    return new Todo(n, folder.depth() == 0 ? 0 : folder.node().first(), folder.depth() + 1);
  }

  /**
   * Entries behind an end mark, and those whose marks say what they are not. What belongs to nobody
   * else and fits such an entry exactly is its content: a folder by its "." and "..", a file by a
   * chain as long as its length.
   */
  private void weighDoubtful() {
    BitSet claimed = (BitSet) clusters.clone();
    for (Folder f : folders) {
      for (Slot s : f.slots()) if (!s.node().folder()) claim(claimed, chainOfFile(s.node()));
    }
    Map<Folder, Set<String>> names = new IdentityHashMap<>();
    while (!doubtful.isEmpty()) {
      Doubtful d = doubtful.removeFirst();
      Folder f = byFirst.get(d.folder().node().first());
      Set<String> taken = names.computeIfAbsent(f, FatTree::namesIn);
      Node n = believed(d, f, taken, claimed);
      byte[] e = d.bytes();
      boolean label = (e[d.at() + 11] & FatVolume.LABEL) != 0;
      if (n == null) {
        if (d.behindEnd() || label || nodes >= Bounded.MOST_NODES) continue;
        n = volume.node(f.node(), e, d.at(), d.name());
      } else if (d.behindEnd() || label || n.folder() != isFolder(e, d.at())) {
        spoiled(d, n);
      }
      f.slots().add(new Slot(n, d.at(), true));
      taken.add(n.name());
      nodes++;
      if (n.folder()) goInto(below(d.folder(), n));
      else claim(claimed, chainOfFile(n));
    }
    names.keySet().forEach(f -> f.slots().sort(BY_PLACE));
  }

  private static Set<String> namesIn(Folder f) {
    Set<String> out = new HashSet<>();
    f.slots().forEach(s -> out.add(s.node().name()));
    return out;
  }

  private void spoiled(Doubtful d, Node n) {
    boolean lost = d.bytes()[d.at()] == 0;
    String what =
        d.behindEnd()
            ? " stands behind an end mark of its folder"
                + (lost ? ": its first character is gone." : ".")
            : " carries the marks of something else; by its content it is "
                + (n.folder() ? "a folder." : "a file.");
    String mended =
        lost ? "A mended copy has it with another first letter." : "A mended copy has it right.";
    wrong(n.path(), n.path() + what, mended);
  }

  private static boolean isFolder(byte[] b, int at) {
    return (b[at + 11] & FatVolume.FOLDER) != 0;
  }

  private static void claim(BitSet claimed, FatChain chain) {
    for (FatChain.Run r : chain.runs()) claimed.set(r.first(), r.first() + r.count());
  }

  private FatChain chainOfFile(Node n) {
    return FatChain.follow(
        volume.table(), (int) Math.min(n.first(), Integer.MAX_VALUE), clusters::get);
  }

  /** The node of a doubtful entry that its content proves; null for one that nothing does. */
  private Node believed(Doubtful d, Folder folder, Set<String> taken, BitSet claimed) {
    byte[] e = java.util.Arrays.copyOfRange(d.bytes(), d.at(), d.at() + ENTRY);
    if (e[0] == 0) e[0] = d.first() != 0 ? d.first() : freeLetter(e, taken);
    long first = volume.firstOf(e, 0);
    if (nodes >= Bounded.MOST_NODES
        || !volume.table().isData((int) Math.min(first, Integer.MAX_VALUE))) {
      return null;
    }
    long bytes = Bytes.u32(e, 28);
    int marks = e[11] & ~(FatVolume.LABEL | FatVolume.FOLDER);
    e[11] = (byte) (marks | FatVolume.FOLDER);
    Node n = volume.node(folder.node(), e, 0, d.name());
    if (refusal(below(d.folder(), n)).isEmpty() && dotsOf((int) first)) return n;
    e[11] = (byte) marks;
    n = volume.node(folder.node(), e, 0, d.name());
    long needed = volume.needed(n);
    if (bytes == 0 || claimed.get((int) first) || needed > volume.table().last()) return null;
    FatChain chain = FatChain.follow(volume.table(), (int) first, claimed::get);
    return chain.ending() == FatChain.Ending.PROPER && chain.clusters() == needed ? n : null;
  }

  private boolean dotsOf(int cluster) {
    byte[] b = volume.firstSector(cluster);
    return isDots(b, 0, ".") && volume.firstOf(b, 0) == cluster;
  }

  /** A first character under which the name is not taken yet. */
  private static byte freeLetter(byte[] e, Set<String> taken) {
    for (char c : "_!#$%&@^".toCharArray()) {
      byte[] b = e.clone();
      b[0] = (byte) c;
      String name = FatNames.decode(b, 0);
      if (!taken.contains(name)) return b[0];
    }
    return '_';
  }

  private void wrong(String where, String what, String todo) {
    if (findings.size() >= MOST_FINDINGS) unsaid++;
    else findings.add(Finding.wrong("F-9", where, what, todo));
  }

  /** Why an entry that calls itself a folder is none, or cannot be gone into; "" for a good one. */
  private String refusal(Todo t) {
    Node n = t.node();
    if (t.depth() == 0) return "";
    if (nodes >= Bounded.MOST_NODES)
      return "comes after " + Say.count(Bounded.MOST_NODES) + " entries";
    if (letters > Bounded.MOST_LETTERS) return "lies deeper than paths are kept here";
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
    boolean ended = false;
    int end = lastUsed(b);
    for (int at = 0; at + ENTRY <= b.length && at <= end; at += ENTRY) {
      ended |= b[at] == 0;
      if (b[at] == (byte) 0xE5) {
        longName.clear();
        continue;
      }
      int attributes = b[at + 11] & 0x3F;
      if (attributes == FatVolume.LONG_NAME && b[at] != 0) {
        longName.add(b, at);
        continue;
      }
      boolean isDot = t.depth() > 0 && at < 2 * ENTRY && b[at] == '.';
      if (!isDot && doubtful(b, at, ended)) {
        if (doubtful.size() < MOST_DOUBTFUL) {
          byte first = b[at] == 0 ? longName.firstCharacter(b, at) : 0;
          doubtful.add(new Doubtful(t, b, at, ended, first, longName.forSpoiled(b, at)));
        }
      } else if (!isDot && !ended && (attributes & FatVolume.LABEL) == 0) {
        if (refuses(b, at)) refused++;
        else if (nodes >= Bounded.MOST_NODES) bounded = true;
        else {
          slots.add(new Slot(volume.node(n, b, at, longName.forEntry(b, at)), at, false));
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

  /** The last byte that is not zero. */
  private static int lastUsed(byte[] b) {
    int at = b.length - 1;
    while (at >= 0 && b[at] == 0) at--;
    return at;
  }

  /**
   * Whether only its content can tell what an entry is: it stands behind an end mark, it is a label
   * with content, a folder with a length, a file with a cluster and no length.
   */
  private boolean doubtful(byte[] b, int at, boolean ended) {
    int attributes = b[at + 11] & 0x3F;
    long bytes = Bytes.u32(b, at + 28);
    long first = volume.firstOf(b, at);
    if (attributes == FatVolume.LONG_NAME || first < 2 || first > volume.table().last()) {
      return false;
    }
    if (ended) return oddities(b, at) <= (b[at] == 0 ? 1 : 0);
    boolean isFolder = (attributes & FatVolume.FOLDER) != 0;
    if ((attributes & FatVolume.LABEL) != 0) return isFolder || bytes > 0;
    boolean dots = (isFolder ? bytes > 0 : bytes == 0) && dotsOf((int) first);
    return isFolder ? bytes > 0 && !dots : dots;
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
