package lanternshed.core.volume.exfat;

import static lanternshed.core.volume.exfat.ExfatEntries.ENTRY;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.Mending;
import lanternshed.core.volume.Bounded;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.exfat.ExfatVolume.EntrySet;
import lanternshed.core.volume.exfat.ExfatVolume.Folder;
import lanternshed.core.volume.exfat.ExfatVolume.Stream;

/**
 * Names every fault of an exFAT volume and mends a copy: boot region and its copy, flags, bitmap
 * against use, chains, entry sets. What a file can still have it keeps; two that share a cluster
 * get each its own; what nobody owns is set free.
 */
final class ExfatRepair implements Mending {
  private static final int MOST = 2_000;

  /** Bytes of the longest upcase table. */
  private static final int MOST_TABLE = 2 << 16;

  private static final String SPOILED =
      "The checksum of the upcase table is wrong: some systems refuse the volume.";

  private final ExfatVolume volume;
  private final ExfatLayout layout;
  private final Medium medium;
  private final List<Finding> findings = new ArrayList<>();
  private final List<Finding> changes = new ArrayList<>();

  /** By number less 2. */
  private final BitSet used = new BitSet();

  /** The data of folders that change. */
  private final Map<String, byte[]> folders = new LinkedHashMap<>();

  /** The FAT's entries that change. */
  private final Map<Long, Long> links = new LinkedHashMap<>();

  /** Clusters that get the content of others. */
  private final Map<Long, Long> copies = new LinkedHashMap<>();

  /** The bitmap as it will be; null where it stays, or there is none. */
  private byte[] bitmap;

  /** Clusters that the upcase table of a new volume goes into; empty where the old one stays. */
  private Optional<List<Long>> newTable = Optional.empty();

  /** What each letter is in upper case, by the volume's own table where that is whole. */
  private char[] upper = Upcase.read(Upcase.table());

  private byte[] region;
  private byte[] regionCopy;
  private int nextFree;
  private Optional<BitSet> taken = Optional.empty();

  private ExfatRepair(ExfatVolume volume) {
    this.volume = volume;
    this.layout = volume.layout();
    this.medium = volume.medium();
  }

  static ExfatRepair plan(ExfatVolume volume) {
    ExfatRepair r = new ExfatRepair(volume);
    r.boot();
    r.size();
    r.tables();
    r.tree();
    r.newTable();
    r.bitmap();
    return r;
  }

  List<Finding> findings() {
    return List.copyOf(findings);
  }

  @Override
  public List<Finding> changes() {
    return List.copyOf(changes);
  }

  private void fault(String where, String what, String change) {
    if (findings.size() >= MOST) return;
    findings.add(
        Finding.wrong(
            "F-9", where, what, change.isEmpty() ? "It stays." : "A mended copy has it right."));
    if (!change.isEmpty()) changes.add(Finding.note("F-9", where, change));
  }

  private static String name(Node n) {
    return n.path().isEmpty() ? "the root folder" : n.path();
  }

  // ---- before the heap --------------------------------------------------------------------------

  private void boot() {
    int length = ExfatLayout.REGION * layout.per512();
    region = medium.sectors(0, length);
    regionCopy = medium.sectors(length, length);
    boolean right = layout.checksumRight(region);
    boolean copyRight = layout.checksumRight(regionCopy);
    boolean same = same(region, regionCopy);
    if (volume.byCopy()) {
      region = regionCopy.clone();
      fault(
          "boot region",
          "The boot region makes no sense; its copy is read.",
          "The boot region becomes what its copy says.");
    } else if (!right && copyRight && !same) {
      region = regionCopy.clone();
      fault(
          "boot region",
          "The checksum of the boot region is wrong; that of its copy is right.",
          "The boot region becomes what its copy says.");
    } else if (!right) {
      fault(
          "boot region",
          "The checksum of the boot region is wrong.",
          "The checksum of the boot region is written anew.");
      layout.withChecksum(region);
      regionCopy = region.clone();
    } else if (!same || !copyRight) {
      regionCopy = region.clone();
      fault(
          "boot region",
          "The boot region and its copy differ.",
          "The copy becomes the same as the boot region.");
    }
    int flags = Bytes.u16(region, ExfatLayout.FLAGS);
    if ((flags & ExfatLayout.DIRTY) == 0) return;
    fault(
        "boot sector, byte 6A",
        "The volume was not closed properly, or the medium failed under its system (flags).",
        "The flags at byte 6A of the boot sector become 0.");
    Bytes.put16(region, ExfatLayout.FLAGS, flags & ~ExfatLayout.DIRTY);
  }

  /** Whether two regions say the same; flags and the percentage in use may differ. */
  private static boolean same(byte[] a, byte[] b) {
    byte[] x = a.clone();
    byte[] y = b.clone();
    for (byte[] r : List.of(x, y)) {
      Bytes.put16(r, ExfatLayout.FLAGS, 0);
      r[ExfatLayout.PERCENT] = 0;
    }
    return Arrays.equals(x, y);
  }

  private void size() {
    long end = (layout.heapAt() + layout.clusters() * layout.clusterBytes() + 511) / 512;
    if (end <= medium.sectors()) return;
    findings.add(
        Finding.stops(
            "P-2",
            "boot sector",
            "The volume has "
                + Say.sectors(end)
                + ", but there are only "
                + Say.count(medium.sectors())
                + ": its end is not here.",
            "Find the rest of the image, or read what is inside."));
  }

  private void tables() {
    claim(new Stream(0, layout.root(), Long.MAX_VALUE >> 1, Long.MAX_VALUE >> 1), volume.root());
    Optional<Stream> map = volume.table(ExfatEntries.BITMAP);
    if (map.isEmpty()) missing("allocation bitmap");
    map.ifPresent(this::bitmapAt);
    Optional<Stream> letters = volume.table(ExfatEntries.UPCASE);
    if (letters.isEmpty()) missing("upcase table");
    letters.ifPresent(this::upcase);
  }

  private void missing(String name) {
    fault("the root folder", "The " + name + " is missing from the root folder.", "");
  }

  private void bitmapAt(Stream s) {
    List<long[]> runs = volume.runs(s);
    long got = runs.stream().mapToLong(r -> r[1]).sum();
    if (got < layout.clustersFor(s.bytes())) {
      fault("allocation bitmap", "The chain of the allocation bitmap breaks off.", "");
    }
    mark(runs);
  }

  private void upcase(Stream said) {
    // A table says two bytes of each letter at most; what says more is none.
    long bytes = Math.min(said.bytes(), MOST_TABLE);
    Stream s = new Stream(0, said.first(), bytes, bytes);
    byte[] root = volume.tree().get("").bytes();
    int at = ExfatVolume.find(root, ExfatEntries.UPCASE);
    List<long[]> runs = volume.runs(s);
    byte[] there = content(runs, s.bytes());
    boolean whole = there.length == said.bytes();
    long sum = ExfatEntries.tableSum(there);
    if (whole && sum == Bytes.u32(root, at + ExfatEntries.TABLE_SUM)) {
      mark(runs);
      upper = Upcase.read(there);
      return;
    }
    boolean own = nobodyElseHas(runs);
    if (own) mark(runs);
    if (own && whole && Upcase.makesSense(there) && namesFit(Upcase.read(there))) {
      upper = Upcase.read(there);
      fault(
          "upcase table",
          SPOILED,
          "Its checksum is written anew: it makes sense, and the hash of every name agrees with it.");
      Bytes.put32(changed(volume.tree().get("")), at + ExfatEntries.TABLE_SUM, sum);
      return;
    }
    newTable = Optional.of(own ? flat(runs) : List.of());
  }

  /**
   * In place of a spoiled upcase table that of a new volume, in its clusters where they are its
   * own. After all else has its place.
   */
  private void newTable() {
    if (newTable.isEmpty()) return;
    byte[] own = Upcase.table();
    int needed = (int) layout.clustersFor(own.length);
    List<Long> place = new ArrayList<>(newTable.get());
    while (place.size() > needed) used.clear((int) (place.remove(place.size() - 1) - 2));
    while (place.size() < needed) {
      long free = free();
      if (free == 0) break;
      place.add(free);
    }
    boolean fits = place.size() == needed;
    fault(
        "upcase table",
        SPOILED,
        fits ? "It becomes the table of a new volume, and the hashes of the names follow it." : "");
    newTable = fits ? Optional.of(place) : Optional.empty();
    if (!fits) return;
    link(place);
    Folder folder = volume.tree().get("");
    byte[] b = changed(folder);
    int at = ExfatVolume.find(folder.bytes(), ExfatEntries.UPCASE);
    Bytes.put32(b, at + ExfatEntries.FIRST, place.get(0));
    Bytes.put64(b, at + ExfatEntries.LENGTH, own.length);
    Bytes.put32(b, at + ExfatEntries.TABLE_SUM, ExfatEntries.tableSum(own));
  }

  /** Whether neither the root, the bitmap nor any file or folder claims one of these clusters. */
  private boolean nobodyElseHas(List<long[]> runs) {
    BitSet mine = new BitSet();
    for (long[] r : runs) mine.set((int) (r[0] - 2), (int) (r[0] - 2 + r[1]));
    if (mine.isEmpty() || mine.intersects(used)) return false;
    for (Folder f : volume.tree().values()) {
      for (EntrySet e : f.sets()) {
        for (long[] r : volume.runs(e.stream())) {
          int next = mine.nextSetBit((int) (r[0] - 2));
          if (next >= 0 && next < r[0] - 2 + r[1]) return false;
        }
      }
    }
    return true;
  }

  private static List<Long> flat(List<long[]> runs) {
    List<Long> out = new ArrayList<>();
    for (long[] r : runs) for (long c = r[0]; c < r[0] + r[1]; c++) out.add(c);
    return out;
  }

  private void link(List<Long> clusters) {
    for (int i = 0; i < clusters.size(); i++) {
      long next = i + 1 < clusters.size() ? clusters.get(i + 1) : ExfatLayout.END;
      if (volume.next(clusters.get(i)) != next) links.put(clusters.get(i), next);
    }
  }

  /** Whether some names' hashes were made by a table, and none was made by another. */
  private boolean namesFit(char[] table) {
    int names = 0;
    for (Folder f : volume.tree().values()) {
      for (EntrySet e : f.sets()) {
        int said = Bytes.u16(f.bytes(), e.at() + ENTRY + ExfatEntries.NAME_HASH);
        if (ExfatEntries.hash(e.name(), table) != said) return false;
        names++;
      }
    }
    return names > 0;
  }

  // ---- folders and files ------------------------------------------------------------------------

  private void tree() {
    // Folders first: what holds entries is no file's, whatever a chain says.
    for (Folder f : volume.tree().values()) {
      for (EntrySet e : f.sets()) {
        if (e.node().folder() && volume.tree().containsKey(e.node().path())) set(f, e);
      }
    }
    for (Folder f : volume.tree().values()) {
      odd(f);
      java.util.Set<String> names = new java.util.HashSet<>();
      for (EntrySet e : f.sets()) {
        Node n = e.node();
        if (!names.add(folded(e.name()))) {
          fault(n.path(), "The name " + n.name() + " stands twice in " + name(f.node()) + ".", "");
        }
        String why = n.folder() ? volume.shut().get(n.path()) : null;
        if (why != null) {
          fault(
              n.path(),
              "The folder " + n.path() + " " + why + "; it is not gone into.",
              "The folder " + n.path() + " has no content of its own; its entry is taken out.");
          remove(changed(f), e.at(), e.length());
        } else if (!n.folder()) set(f, e);
      }
    }
  }

  /** A name as the volume tells names apart: by its own table. */
  private String folded(String name) {
    char[] letters = name.toCharArray();
    for (int i = 0; i < letters.length; i++) letters[i] = upper[letters[i]];
    return new String(letters);
  }

  private byte[] changed(Folder f) {
    return folders.computeIfAbsent(f.node().path(), p -> f.bytes().clone());
  }

  private static void remove(byte[] b, int at, int length) {
    for (int i = at; i < at + length; i += ENTRY) b[i] &= ~ExfatEntries.IN_USE;
  }

  private void odd(Folder f) {
    if (f.odd().isEmpty()) return;
    byte[] b = changed(f);
    f.odd().forEach(at -> remove(b, at, ENTRY));
    int n = f.odd().size();
    String entries = Say.plural(n, "entry", "entries") + " of " + name(f.node());
    fault(
        f.node().path(),
        entries + (n == 1 ? " belongs" : " belong") + " to no file.",
        entries + " that belong to no file are taken out.");
  }

  /** One file or folder: its set, and its clusters. */
  private void set(Folder f, EntrySet e) {
    Node n = e.node();
    int s = e.at() + ENTRY;
    boolean rewrite = false;
    if (!e.sumRight()) {
      fault(
          n.path(),
          "The checksum of the entry of " + n.path() + " is wrong.",
          "The checksum of the entry of " + n.path() + " is written anew.");
      rewrite = true;
    }
    long bytes = Bytes.u64(f.bytes(), s + ExfatEntries.LENGTH);
    long valid = Bytes.u64(f.bytes(), s + ExfatEntries.VALID);
    if (valid < 0 || valid > bytes) {
      fault(
          n.path(),
          n.path() + " says that more of it was written than it is long.",
          "The written length of " + n.path() + " becomes its length.");
      Bytes.put64(changed(f), s + ExfatEntries.VALID, Math.max(0, bytes));
      rewrite = true;
    }
    int letters = f.bytes()[s + ExfatEntries.NAME_LENGTH] & 0xFF;
    if (letters != Math.min(255, e.name().length())) {
      fault(
          n.path(),
          "The name of "
              + n.path()
              + " has "
              + Say.plural(e.name().length(), "letter", "letters")
              + ", its entry says "
              + letters
              + ".",
          "The length of the name of " + n.path() + " becomes what it has.");
      changed(f)[s + ExfatEntries.NAME_LENGTH] = (byte) Math.min(255, e.name().length());
      rewrite = true;
    }
    // A letter that no name has is damage of the name: a new hash would only make it look right.
    Optional<String> odd = ExfatEntries.odd(e.name());
    odd.ifPresent(
        why ->
            fault(n.path(), "The name of " + n.path() + " " + why + ": no system opens it.", ""));
    int hash = ExfatEntries.hash(e.name(), upper);
    if (odd.isEmpty() && hash != Bytes.u16(f.bytes(), s + ExfatEntries.NAME_HASH)) {
      fault(
          n.path(),
          "The hash of the name of " + n.path() + " is wrong: systems do not find it by its name.",
          "The hash of the name of " + n.path() + " is written anew.");
      Bytes.put16(changed(f), s + ExfatEntries.NAME_HASH, hash);
      rewrite = true;
    }
    Stream kept = claim(e.stream(), n);
    if (!kept.equals(e.stream()) || bytes < 0) {
      byte[] b = changed(f);
      b[s + ExfatEntries.FLAGS] = (byte) kept.flags();
      Bytes.put32(b, s + ExfatEntries.FIRST, kept.first());
      Bytes.put64(b, s + ExfatEntries.LENGTH, kept.bytes());
      Bytes.put64(b, s + ExfatEntries.VALID, n.folder() ? kept.bytes() : kept.valid());
      rewrite = true;
    }
    if (!rewrite) return;
    byte[] b = changed(f);
    Bytes.put16(b, e.at() + ExfatEntries.SET_SUM, ExfatEntries.sum(b, e.at(), e.at() + e.length()));
  }

  /** Takes the clusters of a file or folder; gives what its entry says then. */
  private Stream claim(Stream s, Node n) {
    boolean isRoot = n.path().isEmpty();
    if (s.bytes() == 0) {
      if (s.first() == 0) return s;
      fault(
          n.path(),
          n.path() + " is empty and claims a cluster.",
          n.path() + " is empty and gives its cluster back.");
      return new Stream(ExfatEntries.POSSIBLE, 0, 0, 0);
    }
    long needed = isRoot ? layout.clusters() : layout.clustersFor(s.bytes());
    if (s.plain() && wholeAndFree(s.first(), needed)) return s;
    List<Long> mine = new ArrayList<>();
    BitSet own = new BitSet();
    BitSet fresh = new BitSet();
    long cluster = s.first();
    boolean shared = false;
    boolean ended = false;
    while (mine.size() < needed && layout.isData(cluster)) {
      int bit = (int) (cluster - 2);
      if (used.get(bit)) {
        // Its own, where a chain comes back to itself; a folder's; or another file's.
        if (n.folder() || own.get(bit)) break;
        shared = true;
      } else {
        used.set(bit);
        fresh.set(bit);
      }
      mine.add(cluster);
      own.set(bit);
      long next = s.plain() ? cluster + 1 : volume.next(cluster);
      if (!s.plain() && next == ExfatLayout.END) {
        ended = true;
        break;
      }
      cluster = next;
    }
    if (isRoot) {
      if (!ended) broken(n, mine.size(), mine.isEmpty() ? 0 : mine.get(mine.size() - 1));
      return s;
    }
    Stream kept = s;
    if (mine.size() < needed) {
      long have = (long) mine.size() * layout.clusterBytes();
      broken(n, mine.size(), s.plain() || mine.isEmpty() ? 0 : mine.get(mine.size() - 1));
      kept =
          new Stream(
              mine.isEmpty() ? ExfatEntries.POSSIBLE : s.flags(),
              mine.isEmpty() ? 0 : s.first(),
              Math.min(have, s.valid()),
              have);
    } else if (!s.plain() && !ended) {
      long last = mine.get(mine.size() - 1);
      if (volume.next(last) != ExfatLayout.END) {
        fault(
            n.path(),
            "The chain of " + n.path() + " goes on behind its end.",
            "The chain of " + n.path() + " is cut to the clusters that its length needs.");
        links.put(last, ExfatLayout.END);
      }
    }
    if (!shared) return kept;
    used.andNot(fresh);
    return ownCopy(n, mine, kept);
  }

  /** Takes clusters that follow each other, where nobody has one of them yet. */
  private boolean wholeAndFree(long first, long count) {
    if (!layout.isData(first) || first + count > layout.clusters() + 2) return false;
    int from = (int) (first - 2);
    int taken = used.nextSetBit(from);
    if (taken >= 0 && taken < from + count) return false;
    used.set(from, (int) (from + count));
    return true;
  }

  private void broken(Node n, long clusters, long last) {
    fault(
        n.path(),
        "The chain of "
            + name(n)
            + " breaks off after "
            + Say.plural(clusters, "cluster", "clusters")
            + ".",
        name(n)
            + " ends after "
            + Say.plural(clusters, "cluster", "clusters")
            + ", where its chain broke.");
    if (last != 0) links.put(last, ExfatLayout.END);
  }

  /** Gives a file clusters of its own for those it shares; its chain goes by the FAT then. */
  private Stream ownCopy(Node n, List<Long> clusters, Stream s) {
    List<Long> own = new ArrayList<>();
    for (long c : clusters) {
      long free = free();
      if (free == 0) break;
      copies.put(free, c);
      own.add(free);
    }
    fault(
        n.path(),
        n.path() + " shares clusters with another file.",
        own.size() == clusters.size()
            ? n.path() + " gets a copy of them of its own."
            : n.path() + " is cut: there is no room for a copy of them of its own.");
    link(own);
    long have = Math.min(s.bytes(), (long) own.size() * layout.clusterBytes());
    return new Stream(
        ExfatEntries.POSSIBLE, own.isEmpty() ? 0 : own.get(0), Math.min(have, s.valid()), have);
  }

  /** A cluster that nobody has, neither by the bitmap nor by what was claimed. */
  private long free() {
    BitSet marked = taken.orElseGet(this::marked);
    taken = Optional.of(marked);
    while (nextFree < layout.clusters() && (used.get(nextFree) || marked.get(nextFree))) nextFree++;
    if (nextFree >= layout.clusters()) return 0;
    used.set(nextFree);
    return nextFree + 2L;
  }

  private void mark(List<long[]> runs) {
    for (long[] r : runs) used.set((int) (r[0] - 2), (int) (r[0] - 2 + r[1]));
  }

  // ---- bitmap -----------------------------------------------------------------------------------

  /** The clusters that the bitmap says are used, by number less 2. */
  static BitSet marked(ExfatVolume volume) {
    return new ExfatRepair(volume).marked();
  }

  private BitSet marked() {
    return BitSet.valueOf(Arrays.copyOf(bitmapBytes(), (int) ((layout.clusters() + 7) / 8)));
  }

  private byte[] bitmapBytes() {
    Optional<Stream> s = volume.table(ExfatEntries.BITMAP);
    if (s.isEmpty()) return new byte[0];
    return content(volume.runs(s.get()), Math.min(s.get().bytes(), (layout.clusters() + 7) / 8));
  }

  /** The first bytes of some runs, as far as the medium goes. */
  private byte[] content(List<long[]> runs, long most) {
    java.io.ByteArrayOutputStream out = new java.io.ByteArrayOutputStream();
    for (long[] run : runs) {
      long lba = layout.byteOf(run[0]) / 512;
      long n = Math.min(run[1] * layout.clusterBytes(), most - out.size());
      long there = Math.min((n + 511) / 512, medium.sectors() - lba);
      if (there <= 0) break;
      byte[] b = medium.sectors(lba, (int) there);
      out.write(b, 0, (int) Math.min(n, b.length));
    }
    return out.toByteArray();
  }

  private void bitmap() {
    if (volume.table(ExfatEntries.BITMAP).isEmpty()) return;
    BitSet said = marked();
    said.clear((int) layout.clusters(), Math.max((int) layout.clusters(), said.length()));
    BitSet missing = (BitSet) used.clone();
    missing.andNot(said);
    BitSet lost = (BitSet) said.clone();
    lost.andNot(used);
    copies.keySet().forEach(c -> missing.clear((int) (c - 2)));
    if (!missing.isEmpty()) {
      fault(
          "allocation bitmap",
          Say.plural(missing.cardinality(), "cluster is", "clusters are")
              + " used and free in the bitmap, first "
              + Say.count(missing.nextSetBit(0) + 2L)
              + ": a system would write over them.",
          "The bitmap says that they are used.");
    }
    if (volume.bounded()) {
      findings.add(Bounded.notTold("F-9", "allocation bitmap"));
      return;
    }
    if (!lost.isEmpty()) {
      fault(
          "allocation bitmap",
          Say.plural(lost.cardinality(), "cluster is", "clusters are")
              + " taken but belong to no file, first "
              + Say.count(lost.nextSetBit(0) + 2L)
              + ".",
          "They are set free; what they hold stays in the image.");
    }
    if (missing.isEmpty() && lost.isEmpty() && copies.isEmpty()) return;
    bitmap = Arrays.copyOf(used.toByteArray(), (int) ((layout.clusters() + 7) / 8));
  }

  // ---- writing ----------------------------------------------------------------------------------

  @Override
  public void apply(Medium copy) {
    int per = layout.clusterBytes() / 512;
    for (Map.Entry<Long, Long> c : copies.entrySet()) {
      byte[] content = medium.sectors(layout.byteOf(c.getValue()) / 512, per);
      copy.write(layout.byteOf(c.getKey()) / 512, per, content, 0);
    }
    for (Map.Entry<String, byte[]> f : folders.entrySet()) {
      Stream s = volume.tree().get(f.getKey()).stream();
      write(copy, volume.runs(s), f.getValue());
    }
    for (Map.Entry<Long, Long> l : links.entrySet()) {
      long at = layout.fatAt() + l.getKey() * 4;
      byte[] b = copy.sector(at / 512);
      Bytes.put32(b, (int) (at % 512), l.getValue());
      copy.write(at / 512, 1, b, 0);
    }
    List<long[]> places = newTable.orElse(List.of()).stream().map(c -> new long[] {c, 1}).toList();
    write(copy, places, Upcase.table());
    if (bitmap != null) {
      write(copy, volume.runs(volume.table(ExfatEntries.BITMAP).orElseThrow()), bitmap);
    }
    int length = ExfatLayout.REGION * layout.per512();
    copy.write(0, length, region, 0);
    copy.write(length, length, regionCopy, 0);
  }

  /** Writes data into clusters; what is left of the last sector stays as it is. */
  private void write(Medium copy, List<long[]> runs, byte[] data) {
    int done = 0;
    for (long[] run : runs) {
      long lba = layout.byteOf(run[0]) / 512;
      int n = (int) Math.min(data.length - done, run[1] * layout.clusterBytes());
      if (n <= 0) return;
      int sectors = (n + 511) / 512;
      byte[] b = copy.sectors(lba, sectors);
      System.arraycopy(data, done, b, 0, n);
      copy.write(lba, sectors, b, 0);
      done += n;
    }
  }
}
