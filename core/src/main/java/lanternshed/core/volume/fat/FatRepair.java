package lanternshed.core.volume.fat;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.medium.Medium;
import lanternshed.core.volume.Node;

/**
 * Mends a copy of a volume: everything that {@link FatCheck} names. Each change is listed before
 * anything is written, and {@link #apply} writes exactly these. The rule throughout: what a file
 * can still have it keeps; what nobody owns is set free, and stays readable in the image that was
 * rescued.
 */
public final class FatRepair {
  private static final int ENTRY = 32;
  private static final int SIZE = 28;
  private static final int FIRST_LOW = 26;
  private static final int FIRST_HIGH = 20;
  private static final int MOST_CHANGES = 5_000;

  private final FatVolume volume;

  private final FatLayout layout;
  private final FatTable old;
  private final FatTable table;
  private final List<Finding> changes = new ArrayList<>();

  /** Whose a cluster is, by number; 0 for nobody's. */
  private final int[] owner;

  private int owners;

  /** Folder bytes by first cluster (0 for a fixed root), as they will be. */
  private final Map<Long, byte[]> folders = new LinkedHashMap<>();

  /** Clusters that get the content of others: a file of its own where two shared one. */
  private final Map<Integer, Integer> copies = new LinkedHashMap<>();

  private int nextFree = 2;

  private FatRepair(FatVolume volume) {
    this.volume = volume;
    this.layout = volume.layout();
    this.old = volume.table();
    this.table = FatTable.fresh(layout);
    this.owner = new int[old.last() + 1];
  }

  /** Plans the mending of a volume; nothing is written. */
  public static FatRepair plan(FatVolume volume) {
    FatRepair r = new FatRepair(volume);
    r.run();
    return r;
  }

  /** Each change in a sentence; empty when nothing has to be mended. */
  public List<Finding> changes() {
    return List.copyOf(changes);
  }

  private void change(String where, String what) {
    if (changes.size() < MOST_CHANGES) changes.add(Finding.note("F-9", where, what));
  }

  private void run() {
    first();
    // Bad marks stay marks.
    for (int n = 2; n <= old.last(); n++) {
      if (!old.isBad(old.get(n))) continue;
      table.set(n, old.get(n));
      owner[n] = -1;
    }
    changes.addAll(volume.copies().findings());
    // Folders first: what holds entries is no file's, whatever a chain says.
    volume.tree().folders().forEach(this::claimFolder);
    volume.tree().folders().forEach(this::folder);
    long lost = 0;
    for (int n = 2; n <= old.last(); n++) if (old.get(n) != 0 && owner[n] == 0) lost++;
    if (lost > 0) {
      change(
          "FAT",
          Say.plural(lost, "cluster", "clusters")
              + " that belong to no file are set free; what they hold stays in the rescued image.");
    }
    for (int copy = 0; copy < layout.fats(); copy++) {
      FatTable other = volume.copies().copy(copy);
      if (old.firstDifference(other) < 0) continue;
      change(
          "FAT " + (copy + 1),
          "FAT " + (copy + 1) + " becomes the same as the table by which the files are read.");
    }
    label();
    long free = FsInfo.count(table);
    FsInfo.read(volume.medium(), layout)
        .filter(i -> i.free() != free && i.free() != FsInfo.UNKNOWN)
        .ifPresent(
            i ->
                change(
                    "FSInfo",
                    "The free count becomes "
                        + Say.count(free)
                        + " clusters, as the FAT has them."));
  }

  private void first() {
    if ((old.get(0) & 0xFF) != layout.media()) {
      change(
          "FAT, entry 0",
          String.format(
              "The media byte of the first entry becomes %02X, as in the boot sector.",
              layout.media()));
    }
    int bits = layout.kind().bits();
    int clean = bits == 16 ? 0xC000 : bits == 32 ? 0x0C00_0000 : 0;
    if ((old.get(1) & clean) != clean) {
      change("FAT, entry 1", "The dirty and error bits are cleared: the copy is whole.");
    }
  }

  private void label() {
    String inBoot = layout.label().equals("NO NAME") ? "" : layout.label();
    String inRoot = volume.label();
    if (inBoot.isEmpty() || inRoot.isEmpty() || inRoot.equals(inBoot)) return;
    change(
        "boot sector",
        "The label of the boot sector becomes " + inRoot + ", as the root folder says.");
  }

  private void claimFolder(FatTree.Folder f) {
    Node n = f.node();
    int previous = 0;
    int me = ++owners;
    for (FatChain.Run r : f.chain().runs()) {
      for (int c = r.first(); c < r.first() + r.count(); c++) {
        owner[c] = me;
        table.set(c, layout.kind().endMark());
        if (previous != 0) table.set(previous, c);
        previous = c;
      }
    }
    if (f.chain().ending() == FatChain.Ending.PROPER) return;
    String path = n.path().isEmpty() ? "the root folder" : n.path();
    change(
        path,
        "The chain of "
            + path
            + " ends after "
            + Say.plural(f.chain().clusters(), "cluster", "clusters")
            + ", where it broke.");
  }

  private void folder(FatTree.Folder f) {
    Node folder = f.node();
    byte[] b = volume.folderBytes(folder);
    boolean fixed = folder.path().isEmpty() && layout.rootCluster() == 0;
    folders.put(fixed ? 0 : folder.first(), b);
    if (!folder.path().isEmpty()) dots(folder, b, f.parent());
    if (f.refused() > 0) refused(folder, b);
    Set<String> names = new HashSet<>();
    for (FatTree.Slot slot : f.slots()) {
      Node n = slot.node();
      int at = slot.at();
      // The places of "." and ".." are theirs, whatever stood there.
      if (!folder.path().isEmpty() && at < 2 * ENTRY) continue;
      if (n.folder() && !volume.tree().shut(n.path()).isEmpty()) {
        change(
            n.path(),
            "The folder " + n.path() + " has no content of its own; its entry is taken out.");
        erase(b, at);
        continue;
      }
      name(n, b, at, names);
      if (!n.folder()) file(n, b, at);
      else if (Bytes.u32(b, at + SIZE) != 0) {
        change(n.path(), "The length of the folder " + n.path() + " becomes 0.");
        Bytes.put32(b, at + SIZE, 0);
      }
    }
  }

  private void refused(Node folder, byte[] b) {
    int count = 0;
    int from = folder.path().isEmpty() ? 0 : 2 * ENTRY;
    for (int at = from; at + ENTRY <= b.length && b[at] != 0; at += ENTRY) {
      int attributes = b[at + 11] & 0x3F;
      if (b[at] == (byte) 0xE5 || attributes == FatVolume.LONG_NAME) continue;
      if ((attributes & FatVolume.LABEL) != 0 || !volume.tree().refuses(b, at)) continue;
      erase(b, at);
      count++;
    }
    String where = folder.path().isEmpty() ? "the root folder" : folder.path();
    change(
        where,
        Say.plural(count, "entry", "entries")
            + " of "
            + where
            + " that make no sense are taken out.");
  }

  private void file(Node n, byte[] b, int at) {
    if (n.first() == 0 && n.bytes() == 0) return;
    if (n.bytes() == 0 || !old.isData((int) Math.min(n.first(), Integer.MAX_VALUE))) {
      if (n.bytes() > 0)
        change(n.path(), n.path() + " has no first cluster; its length becomes 0.");
      else change(n.path(), n.path() + " is empty and gives its clusters back.");
      setFirst(b, at, 0);
      Bytes.put32(b, at + SIZE, 0);
      return;
    }
    int first = claim(n, n.path());
    long have = (long) chainLength(first) * layout.clusterBytes();
    if (first != n.first()) setFirst(b, at, first);
    if (have < n.bytes()) {
      change(
          n.path(),
          n.path()
              + " is cut to "
              + Say.bytes(have)
              + ", which its chain still has, from "
              + Say.bytes(n.bytes())
              + ".");
      Bytes.put32(b, at + SIZE, have);
      if (have == 0) setFirst(b, at, 0);
    }
  }

  /**
   * Takes the clusters of one chain for its file; gives the first of them, 0 where none is left.
   */
  private int claim(Node n, String path) {
    long needed = volume.needed(n);
    int me = ++owners;
    int first = 0;
    int previous = 0;
    int cluster = (int) n.first();
    boolean shared = false;
    long count = 0;
    while (old.isData(cluster)
        && count < needed
        && owner[cluster] != -1
        && !volume.tree().holdsFolder(cluster)) {
      if (owner[cluster] == me) break;
      int mine = cluster;
      if (owner[cluster] != 0) {
        shared = true;
        mine = free();
        if (mine == 0) break;
        copies.put(mine, cluster);
      }
      owner[mine] = me;
      table.set(mine, layout.kind().endMark());
      if (previous != 0) table.set(previous, mine);
      if (first == 0) first = mine;
      previous = mine;
      count++;
      int next = old.get(cluster);
      if (next == 0 || old.isBad(next) || old.isEnd(next)) break;
      cluster = next;
    }
    FatChain chain = volume.chainOf(n);
    if (shared) {
      change(path, path + " shares clusters with another file; it gets a copy of them of its own.");
    } else if (chain.ending() != FatChain.Ending.PROPER) {
      change(
          path,
          "The chain of "
              + path
              + " ends after "
              + Say.plural(count, "cluster", "clusters")
              + ", where it broke.");
    } else if (chain.clusters() > needed) {
      change(
          path,
          "The chain of "
              + path
              + " is cut to the "
              + Say.plural(needed, "cluster", "clusters")
              + " that its length needs.");
    }
    return first;
  }

  /** A cluster that is free and that no live file can still claim. */
  private int free() {
    while (nextFree <= old.last() && (old.get(nextFree) != 0 || owner[nextFree] != 0)) nextFree++;
    return nextFree <= old.last() ? nextFree++ : 0;
  }

  private int chainLength(int first) {
    int n = 0;
    for (int c = first; c != 0 && table.isData(c) && n <= table.last(); c = next(c)) n++;
    return n;
  }

  private int next(int c) {
    int e = table.get(c);
    return table.isEnd(e) ? 0 : e;
  }

  private void dots(Node folder, byte[] b, long parent) {
    boolean right =
        b.length >= 64
            && FatNames.decode(b, 0).equals(".")
            && FatNames.decode(b, 32).equals("..")
            && first(b, 0) == folder.first()
            && first(b, 32) == parent;
    if (right || b.length < 64) return;
    boolean there = FatNames.decode(b, 0).equals(".") && FatNames.decode(b, 32).equals("..");
    if (!there) {
      change(
          folder.path(),
          "The first two entries of "
              + folder.path()
              + " become \".\" and \"..\"; what stood there is taken out.");
      for (int i = 0; i < 2; i++) {
        java.util.Arrays.fill(b, i * ENTRY, (i + 1) * ENTRY, (byte) 0);
        java.util.Arrays.fill(b, i * ENTRY, i * ENTRY + 11, (byte) ' ');
        b[i * ENTRY] = '.';
        if (i == 1) b[i * ENTRY + 1] = '.';
        b[i * ENTRY + 11] = 0x10;
      }
    } else {
      change(
          folder.path(),
          "\".\" and \"..\" of " + folder.path() + " point to itself and to the folder above.");
    }
    setFirst(b, 0, folder.first());
    setFirst(b, 32, parent);
  }

  private void name(Node n, byte[] b, int at, Set<String> names) {
    String before = new String(b, at, 11, FatNames.CODE_PAGE);
    if (!FatNames.fault(b, at).isEmpty()) {
      for (int i = 0; i < 11; i++) {
        byte[] one = b.clone();
        int c = b[at + i] & 0xFF;
        if (c >= 'a' && c <= 'z') b[at + i] = (byte) (c - 32);
        else if (c < 0x20 && !(i == 0 && c == 5)
            || c == 0x7F
            || "\"*+,./:;<=>?[\\]|".indexOf(c) >= 0
            || i == 0 && c == ' ') b[at + i] = '_';
        else b[at + i] = one[at + i];
      }
      if (b[at + 8] == ' ' || b[at + 9] == ' ') {
        for (int i = 9; i < 11; i++)
          if (b[at + i] != ' ' && b[at + i - 1] == ' ') b[at + i - 1] = '_';
      }
      dropLongName(b, at);
    }
    String name = new String(b, at, 11, FatNames.CODE_PAGE);
    for (int k = 1; !names.add(name) && k < 1000; k++) {
      byte[] tail = ("~" + k).getBytes(java.nio.charset.StandardCharsets.US_ASCII);
      int from = Math.min(8 - tail.length, name.substring(0, 8).stripTrailing().length());
      System.arraycopy(tail, 0, b, at + from, tail.length);
      for (int i = from + tail.length; i < 8; i++) b[at + i] = ' ';
      name = new String(b, at, 11, FatNames.CODE_PAGE);
      dropLongName(b, at);
    }
    if (!name.equals(before))
      change(n.path(), n.path() + " is renamed to " + FatNames.decode(b, at) + ".");
  }

  /** The long name before an entry carries a checksum of the short one; with another it is void. */
  private static void dropLongName(byte[] b, int at) {
    for (int i = at - ENTRY;
        i >= 0 && (b[i + 11] & 0x3F) == 0x0F && b[i] != (byte) 0xE5;
        i -= ENTRY) b[i] = (byte) 0xE5;
  }

  private static void erase(byte[] b, int at) {
    dropLongName(b, at);
    b[at] = (byte) 0xE5;
  }

  private long first(byte[] b, int at) {
    long f = Bytes.u16(b, at + FIRST_LOW);
    return layout.kind() == FatKind.FAT32 ? f | (long) Bytes.u16(b, at + FIRST_HIGH) << 16 : f;
  }

  private void setFirst(byte[] b, int at, long first) {
    Bytes.put16(b, at + FIRST_LOW, (int) first);
    if (layout.kind() == FatKind.FAT32) Bytes.put16(b, at + FIRST_HIGH, (int) (first >> 16));
  }

  /** Writes the changes into a copy of the volume; the original is never given here. */
  public void apply(Medium copy) {
    int per = layout.bytesPerSector() / 512;
    int clusterSectors = layout.sectorsPerCluster() * per;
    for (Map.Entry<Integer, Integer> c : copies.entrySet()) {
      byte[] content = volume.medium().sectors(layout.sectorOf(c.getValue()) * per, clusterSectors);
      copy.write(layout.sectorOf(c.getKey()) * per, clusterSectors, content, 0);
    }
    for (Map.Entry<Long, byte[]> f : folders.entrySet()) {
      byte[] b = f.getValue();
      if (f.getKey() == 0) {
        byte[] whole = java.util.Arrays.copyOf(b, layout.rootSectors() * layout.bytesPerSector());
        copy.write(layout.rootStart() * per, layout.rootSectors() * per, whole, 0);
        continue;
      }
      int at = 0;
      for (int c = f.getKey().intValue(); c != 0 && at < b.length; c = next(c)) {
        byte[] piece = java.util.Arrays.copyOfRange(b, at, at + layout.clusterBytes());
        copy.write(layout.sectorOf(c) * per, clusterSectors, piece, 0);
        at += layout.clusterBytes();
      }
    }
    byte[] fat =
        java.util.Arrays.copyOf(
            table.bytes(), Math.toIntExact(layout.fatSectors() * layout.bytesPerSector()));
    for (int i = 0; i < layout.fats(); i++) {
      copy.write(
          (layout.fatStart() + i * layout.fatSectors()) * per,
          (int) (layout.fatSectors() * per),
          fat,
          0);
    }
    boot(copy, per);
  }

  private void boot(Medium copy, int per) {
    byte[] boot = copy.sector(0);
    boolean wide = layout.kind() == FatKind.FAT32;
    int tail = wide ? FatLayout.TAIL_32 : FatLayout.TAIL_16;
    String label = volume.label();
    if (boot[tail + 2] == 0x29 && !label.isEmpty()) {
      FatLayout.put(boot, tail + 7, label, 11);
      // The dirty flag of the boot sector.
      boot[tail + 1] = 0;
      copy.write(0, 1, boot, 0);
    }
    if (!wide) return;
    int backup = Bytes.u16(boot, 50);
    if (backup > 0 && backup < layout.reserved()) copy.write((long) backup * per, 1, boot, 0);
    FsInfo.read(copy, layout).ifPresent(i -> i.write(copy, FsInfo.count(table)));
  }
}
