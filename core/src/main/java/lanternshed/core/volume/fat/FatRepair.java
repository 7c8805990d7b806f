package lanternshed.core.volume.fat;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.Mending;
import lanternshed.core.volume.Bounded;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.VolumeException;

/**
 * Mends a copy of a volume: everything that {@link FatCheck} names. Each change is listed before
 * anything is written, and {@link #apply} writes exactly these. The rule throughout: what a file
 * can still have it keeps; what nobody owns is set free, and stays readable in the image that was
 * rescued.
 */
public final class FatRepair implements Mending {
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
    if (!volume.table().held()) {
      throw new VolumeException(
          "The FAT of this volume is larger than "
              + Say.size(FatTable.MOST_HELD)
              + ": its files are read, but it is not mended here. Copy them to a fresh volume.");
    }
    if (volume.tree().bounded()) throw Bounded.notMended();
    FatRepair r = new FatRepair(volume);
    r.run();
    return r;
  }

  @Override
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
    volume
        .boot()
        .faults(volume.medium(), FsInfo.count(table))
        .forEach(f -> change("boot", f.change()));
  }

  private void first() {
    if (layout.always16()) {
      table.set(0, old.get(0));
      table.set(1, old.get(1));
      return;
    }
    int media = old.get(0);
    int above = layout.kind().endMark() & ~0xFF;
    if ((media & 0xFF) != layout.media() || (media & above) != above) {
      media = above | layout.media();
      change(
          "FAT, entry 0",
          String.format(
              "The media byte of the first entry becomes %02X, as in the boot sector, and the bits"
                  + " above it 1.",
              layout.media()));
    }
    table.set(0, media);
    int bits = layout.kind().bits();
    int clean = bits == 16 ? 0xC000 : bits == 32 ? 0x0C00_0000 : 0;
    if ((old.get(1) & clean) != clean) {
      change("FAT, entry 1", "The dirty and error bits are cleared: the copy is whole.");
    }
    table.set(1, old.get(1) | clean);
  }

  private void label() {
    Optional<byte[]> inRoot = volume.rootLabel().map(FatRepair::legalLabel);
    String inBoot = layout.label().equals("NO NAME") ? "" : layout.label();
    if (inBoot.isEmpty() || inRoot.isEmpty() || FatNames.sameLabel(inRoot, inBoot)) return;
    change(
        "boot sector",
        "The label of the boot sector becomes "
            + FatNames.safe(new String(inRoot.get(), FatNames.CODE_PAGE).stripTrailing())
            + ", as the root folder says.");
  }

  /** A label with "_" for each character that no system shows. */
  private static byte[] legalLabel(byte[] label) {
    byte[] b = label.clone();
    for (int i = 0; i < b.length && !FatNames.labelFault(b, 0).isEmpty(); i++) {
      int c = b[i] & 0xFF;
      boolean bad =
          c < 0x20 || c == 0x7F || FatNames.FORBIDDEN.indexOf(c) >= 0 || i == 0 && c == ' ';
      if (bad) b[i] = '_';
    }
    return b;
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
    behindEnd(f, b);
    if (f.refused() > 0) refused(folder, b);
    oddments(f, b);
    if (fixed || folder.path().isEmpty()) rootLabel(b);
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
      if (slot.spoiled()) marks(n, b, at);
      name(n, b, at, names);
      if (!n.folder()) file(n, b, at);
      else if (Bytes.u32(b, at + SIZE) != 0) {
        change(n.path(), "The length of the folder " + n.path() + " becomes 0.");
        Bytes.put32(b, at + SIZE, 0);
      }
    }
  }

  /** What stands behind an end mark comes before it; what nobody believes there is taken out. */
  private void behindEnd(FatTree.Folder f, byte[] b) {
    int end = f.end(b);
    boolean ended = false;
    for (int at = 0; at < end; at += ENTRY) {
      ended |= b[at] == 0;
      if (!ended) continue;
      var slot = f.slotAt(at);
      boolean piece = (b[at + 11] & 0x3F) == FatVolume.LONG_NAME && b[at] != 0;
      if (slot.isEmpty() && !piece) b[at] = (byte) 0xE5;
      if (slot.isEmpty() || b[at] != 0) continue;
      b[at] = slot.get().node().name().getBytes(FatNames.CODE_PAGE)[0];
      change(
          slot.get().node().path(),
          "The first character of "
              + slot.get().node().path()
              + " becomes "
              + slot.get().node().name().charAt(0)
              + ".");
    }
    if (ended) {
      String where = f.node().path().isEmpty() ? "the root folder" : f.node().path();
      change(where, "The end mark in " + where + " comes behind its last entry.");
    }
  }

  private void rootLabel(byte[] b) {
    Optional<byte[]> label = volume.rootLabel();
    if (label.isEmpty() || FatNames.labelFault(label.get(), 0).isEmpty()) return;
    byte[] legal = legalLabel(label.get());
    for (int at = 0; at + ENTRY <= b.length && b[at] != 0; at += ENTRY) {
      boolean isLabel =
          (b[at + 11] & 0x3F & (FatVolume.LABEL | FatVolume.FOLDER)) == FatVolume.LABEL;
      if (!isLabel || !java.util.Arrays.equals(b, at, at + 11, label.get(), 0, 11)) continue;
      System.arraycopy(legal, 0, b, at, 11);
      change(
          "label",
          "The label becomes " + new String(legal, FatNames.CODE_PAGE).stripTrailing() + ".");
      return;
    }
  }

  private void oddments(FatTree.Folder f, byte[] b) {
    Oddments o = Oddments.of(f, b);
    if (o.none()) return;
    String where = f.node().path().isEmpty() ? "the root folder" : f.node().path();
    if (!o.pieces().isEmpty()) {
      o.pieces().forEach(at -> b[at] = (byte) 0xE5);
      change(
          where,
          Say.plural(o.pieces().size(), "piece", "pieces")
              + " of long names in "
              + where
              + " that belong to no entry are taken out.");
    }
    if (!o.strays().isEmpty()) {
      o.strays().forEach(at -> erase(b, at));
      change(
          where,
          Say.plural(o.strays().size(), "entry", "entries")
              + " of "
              + where
              + " marked as a label that can be none are taken out.");
    }
    if (!o.reserved().isEmpty()) {
      o.reserved().forEach(at -> b[at + 11] &= 0x3F);
      change(where, "Mark bits that no system uses are cleared in " + where + ".");
    }
    if (o.behindEnd() >= 0) {
      java.util.Arrays.fill(b, f.end(b), b.length, (byte) 0);
      change(where, "What stands behind the end mark of " + where + " becomes 0.");
    }
    for (int at : o.labels()) {
      Bytes.put16(b, at + FIRST_HIGH, 0);
      Bytes.put16(b, at + FIRST_LOW, 0);
      Bytes.put32(b, at + SIZE, 0);
      change(where, "Cluster and length of the label in " + where + " become 0.");
    }
  }

  private void marks(Node n, byte[] b, int at) {
    int right = b[at + 11] & ~(FatVolume.LABEL | FatVolume.FOLDER);
    if (n.folder()) right |= FatVolume.FOLDER;
    if (right == (b[at + 11] & 0xFF)) return;
    b[at + 11] = (byte) right;
    change(n.path(), n.path() + " is marked as a " + (n.folder() ? "folder" : "file") + " again.");
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
            && FatCheck.hasDots(b)
            && first(b, 0) == folder.first()
            && first(b, 32) == parent;
    if (right || b.length < 64) return;
    boolean there = FatCheck.hasDots(b);
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
      boolean last = false;
      for (int i = 10; i >= 8; i--) {
        last |= b[at + i] != ' ';
        if (last && b[at + i] == ' ') b[at + i] = '_';
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

  @Override
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
    for (int i = 0; i < layout.fats(); i++) {
      // Copies that differ become the first one; only what changes its meaning is written to it.
      boolean same = volume.copies().copy(0).firstDifference(volume.copies().copy(i)) < 0;
      int from = same ? i : 0;
      byte[] fat = FatTable.onDisk(volume.medium(), layout, from);
      table.into(fat, volume.copies().copy(from));
      long at = (layout.fatStart() + i * layout.fatSectors()) * per;
      copy.write(at, (int) (layout.fatSectors() * per), fat, 0);
    }
    volume.boot().write(copy, volume.rootLabel().map(FatRepair::legalLabel), FsInfo.count(table));
  }
}
