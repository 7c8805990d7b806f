package lanternshed.core.volume.fat;

import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.medium.Medium;
import lanternshed.core.volume.ClusterWriter;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.VolumeException;

/**
 * Makes FAT12, FAT16 and FAT32 volumes with their files. Data are laid down one after the other,
 * which makes every file contiguous and the writing one sweep; FATs and the fixed root follow last.
 */
public final class FatMaker implements Maker {
  private static final int ENTRY = FatVolume.ENTRY;

  /** What was worked out, and the names that its files may have. */
  private record Planned(FatLayout fat, boolean longNames, int stamp) implements Layout {
    @Override
    public String kindName() {
      return fat.kind().name();
    }

    @Override
    public int clusterBytes() {
      return fat.clusterBytes();
    }

    @Override
    public long clusterCount() {
      return fat.clusters();
    }

    @Override
    public long sectorCount() {
      return fat.total() * (fat.bytesPerSector() / 512);
    }

    @Override
    public Sum because() {
      return FatFormat.sum(fat);
    }
  }

  @Override
  public List<Integer> unitSizes() {
    return List.of(512, 1024, 2048, 4096, 8192, 16_384, 32_768);
  }

  @Override
  public long mostSectors(String kind, int clusterBytes) {
    return FatFormat.mostSectors(FatKind.valueOf(kind), clusterBytes);
  }

  /** One of its tables, with the two entries at its front; FAT32 keeps a figure in its FSInfo. */
  @Override
  public long countedBytes(String kind, long units) {
    FatKind k = FatKind.valueOf(kind);
    return k == FatKind.FAT32 ? 0 : k.tableBytes(units);
  }

  @Override
  public long fewestUnits(String kind) {
    return FatKind.valueOf(kind).fewestClusters();
  }

  @Override
  public String label(String wanted) {
    return FatFormat.label(wanted);
  }

  @Override
  public Layout layout(Wish wish) {
    return new Planned(FatFormat.layout(wish), wish.longNames(), wish.stamp());
  }

  @Override
  public Fit fit(Layout layout, FileSet files) {
    return new Writing((Planned) layout, files).fit();
  }

  @Override
  public void write(Layout layout, FileSet files, Medium to, byte[] code, Watch watch) {
    new Writing((Planned) layout, files).write(to, code, watch);
  }

  /** A layout whose fields are given: a floppy's, or one that was worked out before. */
  public static Layout of(FatLayout fields, boolean longNames, int stamp) {
    return new Planned(fields, longNames, stamp);
  }

  /** The layout as its boot sector will say it. */
  public static FatLayout fields(Layout layout) {
    return ((Planned) layout).fat();
  }

  /** Where an item's data will lie, and the name under which its folder knows it. */
  private static final class Placed {
    final byte[] name;

    /** The long name; "" where the short one says it all. */
    final String longName;

    int first;
    int clusters;

    Placed(byte[] name, String longName) {
      this.name = name;
      this.longName = longName;
    }

    int entries() {
      return 1 + LongName.pieces(longName);
    }
  }

  private static final class Writing {
    private final FatLayout layout;
    private final boolean longNames;
    private final int stamp;
    private final FileSet files;
    private final Map<FileSet.Item, Placed> placed = new HashMap<>();
    private final boolean wide;

    Writing(Planned p, FileSet files) {
      this.layout = p.fat();
      this.longNames = p.longNames();
      this.stamp = p.stamp();
      this.files = files;
      this.wide = layout.kind() == FatKind.FAT32;
      placed.put(files.root(), new Placed(new byte[0], ""));
      name(files.root());
      for (FileSet.Item i : files.items()) {
        if (i.folder()) name(i);
        else if (i.bytes() > 0xFFFF_FFFFL) {
          throw new VolumeException(
              i.path() + " has " + Say.bytes(i.bytes()) + "; a file ends at 4 GiB less 1 B.");
        }
      }
    }

    private void name(FileSet.Item folder) {
      ShortNames names = new ShortNames(longNames);
      // Those that had one before have it again; who comes anew takes one that is left.
      for (FileSet.Item i : folder.children()) if (!i.shortName().isEmpty()) name(i, names);
      for (FileSet.Item i : folder.children()) if (i.shortName().isEmpty()) name(i, names);
    }

    private void name(FileSet.Item i, ShortNames names) {
      byte[] b = names.of(i);
      String plain = FatNames.decode(b, 0);
      boolean differs =
          !plain.equals(i.name())
              && !(isKept(i) && FatNames.cased(plain, i.own()[0]).equals(i.name()));
      if (differs) LongName.check(i.name());
      placed.put(i, new Placed(b, longNames && differs ? i.name() : ""));
    }

    private int entriesOf(FileSet.Item folder) {
      int n = folder == files.root() ? (layout.label().isEmpty() ? 0 : 1) : 2;
      for (FileSet.Item i : folder.children()) n += placed.get(i).entries();
      return n;
    }

    private long clustersOf(FileSet.Item i) {
      long bytes = i.folder() ? (long) entriesOf(i) * ENTRY : i.bytes();
      return (bytes + layout.clusterBytes() - 1) / layout.clusterBytes();
    }

    Fit fit() {
      long clusters = 0;
      long folders = wide ? Math.max(1, clustersOf(files.root())) : 0;
      for (FileSet.Item i : files.items()) {
        long n = clustersOf(i);
        if (i.folder()) folders += n;
        else clusters += n;
      }
      int rootNeeded = wide ? 0 : entriesOf(files.root());
      Sum.Builder sum =
          Sum.of("F-3", "Does it fit")
              .line("", "clusters of files", clusters)
              .line("+", "clusters of folders", folders)
              .line("=", "clusters needed", clusters + folders)
              .line(
                  clusters + folders <= layout.clusters() ? "≤" : ">",
                  "clusters there",
                  layout.clusters());
      if (!wide) {
        sum.line("", "root entries needed", rootNeeded)
            .line(rootNeeded <= layout.rootEntries() ? "≤" : ">", "there", layout.rootEntries());
      }
      return new Fit(
          clusters + folders,
          layout.clusters(),
          rootNeeded,
          layout.rootEntries(),
          sum.because(
                  "Each file and folder takes whole clusters of "
                      + Say.size(layout.clusterBytes())
                      + "; a long name takes one entry more for each thirteen characters; the root"
                      + " folder of FAT12 and FAT16 has a fixed number of entries.")
              .done());
    }

    private void needRoom() {
      folderBound(files.root());
      files.items().stream().filter(FileSet.Item::folder).forEach(this::folderBound);
      Fit fit = fit();
      if (fit.fits()) return;
      throw new VolumeException(
          fit.rootNeeded() > fit.rootEntries()
              ? "The root folder has "
                  + fit.rootEntries()
                  + " entries, "
                  + fit.rootNeeded()
                  + " are needed: put some files into a folder."
              : "The files need "
                  + Say.count(fit.needed())
                  + " clusters of "
                  + Say.size(layout.clusterBytes())
                  + ", the volume has "
                  + Say.count(fit.there())
                  + ": make it larger or leave some out.");
    }

    /** A folder ends at 2 MiB, the bound of the published specification. */
    private void folderBound(FileSet.Item folder) {
      int entries = entriesOf(folder);
      int most = FatVolume.MOST_FOLDER_BYTES / ENTRY;
      if (entries <= most) return;
      throw new VolumeException(
          (folder == files.root() ? "The root folder" : "The folder " + folder.path())
              + " would have "
              + Say.count(entries)
              + " entries; a folder of FAT holds at most "
              + Say.count(most)
              + ", and a long name takes one more for each thirteen characters: divide it.");
    }

    void write(Medium medium, byte[] code, Watch watch) {
      needRoom();
      int per = layout.bytesPerSector() / 512;
      FatTable table = FatTable.fresh(layout);
      int next = 2;
      if (wide) next = place(files.root(), Math.max(1, clustersOf(files.root())), next, table);
      for (FileSet.Item i : files.items()) next = place(i, clustersOf(i), next, table);
      try (ClusterWriter out =
          new ClusterWriter(medium, layout.firstData() * per, layout.clusterBytes())) {
        if (wide) folder(out, files.root());
        for (FileSet.Item i : files.items()) {
          if (placed.get(i).clusters == 0) continue;
          if (i.folder()) folder(out, i);
          else out.file(i, watch);
        }
        out.finish();
      }
      FatFormat.write(medium, layout, code, table);
      if (!wide) {
        byte[] root = new byte[layout.rootSectors() * layout.bytesPerSector()];
        fill(files.root(), root);
        medium.write(layout.rootStart() * per, layout.rootSectors() * per, root, 0);
      }
    }

    private int place(FileSet.Item i, long clusters, int next, FatTable table) {
      Placed p = placed.get(i);
      p.clusters = (int) clusters;
      p.first = p.clusters == 0 ? 0 : next;
      table.link(next, p.clusters);
      return next + p.clusters;
    }

    private void folder(ClusterWriter out, FileSet.Item folder) {
      byte[] b = new byte[placed.get(folder).clusters * layout.clusterBytes()];
      fill(folder, b);
      out.whole(b);
    }

    private void fill(FileSet.Item folder, byte[] b) {
      int at = 0;
      boolean isRoot = folder == files.root();
      if (!isRoot) {
        int parent = folder.parent() == files.root() ? 0 : placed.get(folder.parent()).first;
        at = put(b, 0, dots("."), FatVolume.FOLDER, folder.stamp(), placed.get(folder).first, 0);
        at = put(b, at, dots(".."), FatVolume.FOLDER, folder.stamp(), parent, 0);
      }
      boolean labelled = !isRoot || layout.label().isEmpty();
      int slot = 0;
      for (FileSet.Item i : folder.children()) {
        // F-11: boot code looks for its files in the first two slots; the label follows them.
        if (!labelled && slot++ >= 2 && (i.marks() & FatVolume.SYSTEM) == 0) {
          at = label(b, at);
          labelled = true;
        }
        Placed p = placed.get(i);
        if (!p.longName.isEmpty()) at = LongName.put(b, at, p.longName, LongName.sum(p.name, 0));
        int marks = i.marks() & ~(FatVolume.LABEL | FatVolume.FOLDER);
        if (i.folder()) marks |= FatVolume.FOLDER;
        if (isKept(i)) {
          System.arraycopy(i.own(), 0, b, at + FatVolume.KEPT, FatVolume.KEPT_BYTES);
          // The case of a short name that is not this one any more says nothing.
          boolean cased = FatNames.cased(FatNames.decode(p.name, 0), i.own()[0]).equals(i.name());
          if (longNames && !cased && p.longName.isEmpty()) b[at + FatVolume.KEPT] &= ~0x18;
        }
        at = put(b, at, p.name, marks, i.stamp(), p.first, i.bytes());
      }
      if (!labelled) label(b, at);
    }

    private static boolean isKept(FileSet.Item i) {
      return i.own().length == FatVolume.KEPT_BYTES + FatVolume.NAME_BYTES;
    }

    private int label(byte[] b, int at) {
      System.arraycopy(FatFormat.labelEntry(layout.label(), stamp), 0, b, at, ENTRY);
      return at + ENTRY;
    }

    private int put(
        byte[] b, int at, byte[] name, int marks, int itemStamp, int first, long bytes) {
      System.arraycopy(name, 0, b, at, 11);
      b[at + 11] = (byte) marks;
      Bytes.put16(b, at + 22, itemStamp);
      Bytes.put16(b, at + 24, itemStamp >> 16);
      Bytes.put16(b, at + 26, first);
      if (wide) Bytes.put16(b, at + 20, first >> 16);
      Bytes.put32(b, at + 28, bytes);
      return at + ENTRY;
    }

    private static byte[] dots(String s) {
      byte[] b = new byte[11];
      Arrays.fill(b, (byte) ' ');
      for (int i = 0; i < s.length(); i++) b[i] = '.';
      return b;
    }
  }
}
