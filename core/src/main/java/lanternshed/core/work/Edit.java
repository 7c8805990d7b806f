package lanternshed.core.work;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.catalogue.Opener;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Sha256;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Copy;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.volume.BootFacts;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Hint;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Recognised;
import lanternshed.core.volume.Volume;

/**
 * Changes the files of a volume on a copy of its image, whatever filesystem it is, as long as it is
 * made here: everything outside the volume is copied sector by sector, and the volume is laid down
 * anew with the same units, label, serial, geometry and boot code. What was deleted before is gone
 * in the copy. The original is never written.
 */
public final class Edit {
  /** Read only, hidden, system, archive. */
  private static final int MARKS = 0x27;

  private static final int ARCHIVE = 0x20;

  /** One change; they are made in the order in which they are given. */
  public sealed interface Change {
    /** Makes it. */
    void on(Edit edit);

    /** A file comes in, or takes the place of one of that path. */
    record Put(String path, long bytes, int stamp, FileSet.Source source) implements Change {
      @Override
      public void on(Edit edit) {
        edit.put(this);
      }
    }

    /** A folder is made, with those above it. */
    record MakeFolder(String path, int stamp) implements Change {
      @Override
      public void on(Edit edit) {
        edit.folder(path, stamp);
      }
    }

    /** A file goes, or a folder with all that is in it. */
    record Remove(String path) implements Change {
      @Override
      public void on(Edit edit) {
        edit.remove(path);
      }
    }

    /** A file or folder gets another name or place. */
    record Move(String from, String to) implements Change {
      @Override
      public void on(Edit edit) {
        edit.move(from, to);
      }
    }

    /**
     * Marks and time of a file or folder.
     *
     * @param marks the bits that FAT and exFAT share; empty to leave them
     * @param stamp packed date and time; empty to leave it
     */
    record Set(String path, Optional<Integer> marks, Optional<Integer> stamp) implements Change {
      @Override
      public void on(Edit edit) {
        edit.set(this);
      }
    }
  }

  /** What a path will be. */
  private record Entry(
      String shortName,
      boolean folder,
      long bytes,
      int marks,
      int stamp,
      byte[] own,
      FileSet.Source source) {}

  private static final byte[] NOTHING = new byte[0];

  private final Map<String, Entry> entries = new LinkedHashMap<>();
  private final Volume volume;

  private Edit(Volume volume) {
    this.volume = volume;
    for (Node n : volume.all()) {
      Optional<String> why = volume.notWhole(n);
      if (why.isPresent()) {
        throw new ShedException(
            n.path() + " is not whole: " + why.get() + ". Mend the image first, or leave it.");
      }
      entries.put(
          n.path(),
          new Entry(
              n.name(),
              n.folder(),
              n.bytes(),
              n.attributes() & MARKS,
              n.stamp(),
              volume.own(n),
              s -> volume.read(n, s)));
    }
  }

  /**
   * Makes an image with the changes.
   *
   * @param number of the volume, 0 where there is no table
   * @param copy of the same length, all zero; shown to nobody before this ends
   * @return how many entries the volume has afterwards
   * @throws ShedException with the first change that cannot be made, or where the result does not
   *     fit; the copy is of no use then
   */
  public static int make(
      Medium image, int number, List<Change> changes, Medium copy, Progress progress) {
    Opener.Opened opened = Opener.open(image, e -> e.number() == number);
    Opener.Part part =
        opened.parts().stream()
            .filter(p -> p.entry().number() == number && p.volume().isPresent())
            .findFirst()
            .orElseThrow(
                () -> new ShedException("Volume " + number + " is not there or cannot be read."));
    Volume volume = part.volume().orElseThrow();
    Maker maker = Catalogue.maker(volume.kind());
    if (!volume.remakeable()) {
      throw new ShedException(
          "This volume has sectors of another size, the rules of another family, or something among"
              + " its structures that is not known here; it is read, and not laid down anew.");
    }
    Edit edit = new Edit(volume);
    changes.forEach(c -> c.on(edit));
    FileSet files = edit.files();
    long start = part.entry().start();
    long length = part.slice().orElseThrow().sectors();
    Maker.Layout layout =
        volume.layoutAsItLies().orElseGet(() -> maker.layout(edit.wish(start, length)));
    if (!maker.fit(layout, files).fits()) {
      throw new ShedException(
          "After the change the files would not fit; take others out, or make the volume larger.");
    }
    long end = start + length;
    Copy.Watch watch = (n, all) -> progress.at("copying what stays", n, all);
    Copy.range(image, 0, start, copy, 0, watch);
    Copy.range(image, end, image.sectors() - end, copy, end, watch);
    byte[] code = volume.bootFacts().map(BootFacts::bootCode).orElse(new byte[0]);
    Medium slice = new SliceMedium(copy, start, length);
    maker.write(layout, files, slice, code, (path, n) -> progress.at("writing " + path, 0, 0));
    copy.flush();
    boolean whole = opened.table().map(t -> t.scheme().ofDisks()).orElse(true);
    Hint hint = new Hint(whole, "", part.entry().type(), true, Optional.of(layout));
    proved(files, slice, volume.kind(), hint);
    return files.items().size();
  }

  private Maker.Wish wish(long start, long length) {
    Optional<BootFacts> boot = volume.bootFacts();
    int heads = boot.map(BootFacts::heads).filter(h -> h > 0).orElse(16);
    int sectors = boot.map(BootFacts::sectors).filter(s -> s > 0).orElse(63);
    return new Maker.Wish(
        Optional.of(volume.kind()),
        length,
        boot.map(BootFacts::hidden).filter(h -> h == 0 || h == start).orElse(start),
        (int) volume.use().clusterBytes(),
        0,
        new Geometry(1024, heads, sectors),
        volume.label(),
        volume.serial(),
        true,
        Stamp.NONE);
  }

  private void put(Change.Put p) {
    Entry old = entries.get(found(p.path()).orElse(""));
    if (old != null && old.folder()) {
      throw new ShedException(p.path() + " is a folder; a file cannot take its place.");
    }
    folder(parent(p.path()), p.stamp());
    String path = found(p.path()).orElse(p.path());
    entries.put(path, new Entry("", false, p.bytes(), ARCHIVE, p.stamp(), NOTHING, p.source()));
  }

  private void folder(String path, int stamp) {
    if (path.isEmpty()) return;
    Optional<String> there = found(path);
    if (there.isPresent()) {
      if (entries.get(there.get()).folder()) return;
      throw new ShedException(path + " is a file; a folder cannot take its place.");
    }
    folder(parent(path), stamp);
    entries.put(path, new Entry("", true, 0, 0, stamp, NOTHING, s -> {}));
  }

  private void remove(String path) {
    String gone = there(path);
    entries.keySet().removeIf(p -> p.equals(gone) || p.startsWith(gone + "/"));
  }

  private void move(String from, String to) {
    String old = there(from);
    if (to.equalsIgnoreCase(old) && !to.equals(old)) {
      // Only the case of its letters changes.
    } else if (found(to).isPresent()) {
      throw new ShedException(to + " is there already; remove it first, or take another name.");
    }
    if (to.startsWith(old + "/")) throw new ShedException(from + " cannot go into itself.");
    folder(parent(to), Stamp.NONE);
    Map<String, Entry> before = new LinkedHashMap<>(entries);
    entries.clear();
    before.forEach(
        (path, e) -> {
          boolean self = path.equals(old);
          boolean below = path.startsWith(old + "/");
          String now = self ? to : below ? to + path.substring(old.length()) : path;
          // The short name belonged to the old name.
          entries.put(now, self ? unnamed(e) : e);
        });
  }

  private static Entry unnamed(Entry e) {
    return new Entry("", e.folder(), e.bytes(), e.marks(), e.stamp(), e.own(), e.source());
  }

  private void set(Change.Set s) {
    String path = there(s.path());
    Entry e = entries.get(path);
    entries.put(
        path,
        new Entry(
            e.shortName(),
            e.folder(),
            e.bytes(),
            s.marks().map(m -> m & MARKS).orElse(e.marks()),
            s.stamp().orElse(e.stamp()),
            e.own(),
            e.source()));
  }

  /** The path as it stands, whatever the case of its letters. */
  private Optional<String> found(String path) {
    if (entries.containsKey(path)) return Optional.of(path);
    return entries.keySet().stream().filter(p -> p.equalsIgnoreCase(path)).findFirst();
  }

  private String there(String path) {
    return found(path)
        .orElseThrow(() -> new ShedException("There is no " + path + " on the volume."));
  }

  private static String parent(String path) {
    int slash = path.lastIndexOf('/');
    return slash < 0 ? "" : path.substring(0, slash);
  }

  /** All entries, each behind its folder; otherwise in their order on disk (F-11). */
  private FileSet files() {
    FileSet out = new FileSet();
    List<String> left = new ArrayList<>(entries.keySet());
    while (!left.isEmpty()) {
      List<String> later = new ArrayList<>();
      for (String path : left) {
        if (!parent(path).isEmpty() && !out.has(parent(path))) {
          later.add(path);
          continue;
        }
        Entry e = entries.get(path);
        if (e.folder()) out.folder(path, e.shortName(), e.marks(), e.stamp());
        else out.file(path, e.shortName(), e.bytes(), e.marks(), e.stamp(), e.source());
        out.item(path).own(e.own());
      }
      if (later.size() == left.size()) {
        throw new ShedException("The folder of " + later.get(0) + " is not there.");
      }
      left = later;
    }
    return out;
  }

  /** The copy holds what was asked for and checks clean, or it is not handed out. */
  private static void proved(FileSet files, Medium slice, String kind, Hint hint) {
    Volume now =
        Opener.recognise(slice, hint)
            .flatMap(Recognised::volume)
            .filter(v -> v.kind().equals(kind))
            .orElseThrow(() -> new ShedException("The changed volume does not open again."));
    if (!now.check().isEmpty()) throw new ShedException(now.check().get(0).what());
    Map<String, Node> there = new LinkedHashMap<>();
    for (Node n : now.all()) there.put(n.path(), n);
    for (FileSet.Item i : files.items()) {
      Node n = there.remove(i.path());
      boolean same =
          n != null
              && n.folder() == i.folder()
              && n.bytes() == i.bytes()
              && (n.stamp() == i.stamp() || !now.keepsTimes())
              && (n.attributes() & MARKS) == (i.marks() & MARKS)
              && (i.folder() || sameBytes(i, now, n));
      if (!same) throw new ShedException(i.path() + " did not come over as it is.");
    }
    if (!there.isEmpty()) {
      throw new ShedException(there.keySet().iterator().next() + " was not asked for.");
    }
  }

  private static boolean sameBytes(FileSet.Item wanted, Volume now, Node n) {
    var a = Sha256.fresh();
    var b = Sha256.fresh();
    wanted.copyTo(a::update);
    now.read(n, b::update);
    return java.security.MessageDigest.isEqual(a.digest(), b.digest());
  }
}
