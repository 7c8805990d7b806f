package lanternshed.core.work;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.catalogue.Opener;
import lanternshed.core.measure.Finding;
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

    /**
     * A file comes in, or takes the place of one of that path.
     *
     * @param sha256 what it must lie there as; "" where only its source knows
     */
    record Put(String path, long bytes, int stamp, String sha256, FileSet.Source source)
        implements Change {
      /** A file whose digest is taken while it is laid down. */
      public Put(String path, long bytes, int stamp, FileSet.Source source) {
        this(path, bytes, stamp, "", source);
      }

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
      String path,
      String shortName,
      boolean folder,
      long bytes,
      int marks,
      int stamp,
      byte[] own,
      String sha256,
      FileSet.Source source) {
    Entry named(String newPath, String newShort) {
      return new Entry(newPath, newShort, folder, bytes, marks, stamp, own, sha256, source);
    }
  }

  private static final byte[] NOTHING = new byte[0];

  /**
   * By path, letter for letter: what lies apart stays apart, whatever another system would make of
   * it. Which name is meant is asked of the volume's own rule.
   */
  private final Map<String, Entry> entries = new LinkedHashMap<>();

  /** By folded path the paths that the volume's systems do not tell apart: nearly always one. */
  private final Map<String, java.util.Set<String>> folded = new HashMap<>();

  /** Paths that changes named, where things were and where they came. */
  private final Set<String> touched = new HashSet<>();

  /** By path the digest that must be read back. */
  private final Map<String, byte[]> given = new HashMap<>();

  private final Volume volume;

  private Edit(Volume volume) {
    this.volume = volume;
    for (Node n : volume.all()) {
      if (entries.containsKey(n.path())) {
        throw new ShedException(
            "Two entries have the one name "
                + n.path()
                + ": which of them is meant cannot be said. Mend the image first.");
      }
      Optional<String> why = volume.notWhole(n);
      if (why.isPresent()) {
        throw new ShedException(
            n.path() + " is not whole: " + why.get() + ". Mend the image first, or leave it.");
      }
      if (!volume.spelledOut(n)) {
        throw new ShedException(
            "The name of "
                + n.path()
                + " has a character on disk that cannot be shown, and would come out otherwise."
                + " Nothing on this volume is changed; its files can be taken out.");
      }
      keep(
          new Entry(
              n.path(),
              n.name(),
              n.folder(),
              n.bytes(),
              n.attributes() & MARKS,
              n.stamp(),
              volume.own(n),
              "",
              s -> volume.read(n, s)));
    }
  }

  /**
   * A volume whose files can be changed.
   *
   * @param start first sector of it on its image
   * @param type its table's own code; 0 where there is no table
   * @param whole whether a small disk fills what it lies in
   */
  private record Opened(
      Volume volume, Maker maker, long start, long length, int type, boolean whole) {}

  private static Opened open(Medium image, int number) {
    Opener.Opened opened = Opener.open(image, e -> e.number() == number);
    Opener.Part part =
        opened.parts().stream()
            .filter(p -> p.entry().number() == number && p.volume().isPresent())
            .findFirst()
            .orElseThrow(
                () -> new ShedException("Volume " + number + " is not there or cannot be read."));
    Volume volume = Decided.volume(part.volume().orElseThrow(), "nothing on it is changed");
    Maker maker = Catalogue.maker(volume.kind());
    if (!volume.remakeable()) {
      throw new ShedException(
          "This volume has sectors of another size, the rules of another family, or something among"
              + " its structures that is not known here; it is read, and not laid down anew.");
    }
    return new Opened(
        volume,
        maker,
        part.entry().start(),
        part.slice().orElseThrow().sectors(),
        part.entry().type(),
        opened.table().map(t -> t.scheme().ofDisks()).orElse(true));
  }

  /**
   * What a volume holds and still takes after some changes, as an edit would lay it down.
   *
   * @throws ShedException where it cannot be edited, or with the first change that cannot be made
   */
  public static Hold hold(Medium image, int number, List<Change> changes) {
    Opened o = open(image, number);
    Edit edit = new Edit(o.volume());
    changes.forEach(c -> c.on(edit));
    return new Hold(o.volume().kind(), o.maker(), edit.layout(o), edit.files());
  }

  private Maker.Layout layout(Opened o) {
    return volume.layoutAsItLies().orElseGet(() -> o.maker().layout(wish(o.start(), o.length())));
  }

  /**
   * What is changed on one volume.
   *
   * @param number of the volume, 0 where there is no table
   */
  public record On(int number, List<Change> changes) {}

  /**
   * Makes an image with the changes of one volume.
   *
   * @param number of the volume, 0 where there is no table
   * @param copy of the same length, all zero; shown to nobody before this ends
   * @return how many entries the volume has afterwards
   * @throws ShedException with the first change that cannot be made, or where the result does not
   *     fit; the copy is of no use then
   */
  public static int make(
      Medium image, int number, List<Change> changes, Medium copy, Progress progress) {
    return make(image, List.of(new On(number, changes)), copy, progress);
  }

  /**
   * The same on several volumes of one image, none upon another.
   *
   * @return how many entries they have together afterwards
   */
  public static int make(Medium image, List<On> volumes, Medium copy, Progress progress) {
    List<Remade> all =
        volumes.stream()
            .map(v -> Remade.of(image, v))
            .sorted(Comparator.comparingLong((Remade r) -> r.opened().start()))
            .toList();
    long at = 0;
    Copy.Watch watch = (n, of) -> progress.at("copying what stays", n, of);
    for (Remade r : all) {
      long start = r.opened().start();
      if (start < at) {
        throw new ShedException(
            "Two of these volumes lie upon each other from sector "
                + start
                + " on; mend the table first, or change one of them alone.");
      }
      Copy.range(image, at, start - at, copy, at, watch);
      at = start;
      if (r.edit().volume.keepsAround()) {
        Copy.range(image, at, r.opened().length(), copy, at, watch);
      }
      at += r.opened().length();
    }
    Copy.range(image, at, image.sectors() - at, copy, at, watch);
    for (Remade r : all) r.write(copy, progress);
    copy.flush();
    for (Remade r : all) r.proved(copy);
    return all.stream().mapToInt(r -> r.files().items().size()).sum();
  }

  /** A volume as it will be laid down. */
  private record Remade(Edit edit, Opened opened, FileSet files, Maker.Layout layout) {
    static Remade of(Medium image, On volume) {
      Opened o = open(image, volume.number());
      Edit edit = new Edit(o.volume());
      volume.changes().forEach(c -> c.on(edit));
      FileSet files = edit.files();
      Maker.Layout layout = edit.layout(o);
      if (!o.maker().fit(layout, files).fits()) {
        throw new ShedException(
            "After the change the files would not fit; take others out, or make the volume larger.");
      }
      return new Remade(edit, o, files, layout);
    }

    private Medium slice(Medium copy) {
      return new SliceMedium(copy, opened.start(), opened.length());
    }

    void write(Medium copy, Progress progress) {
      byte[] code = edit.volume.bootFacts().map(BootFacts::bootCode).orElse(NOTHING);
      opened
          .maker()
          .write(
              layout, files, slice(copy), code, (path, n) -> progress.at("writing " + path, 0, 0));
    }

    void proved(Medium copy) {
      Hint hint = new Hint(opened.whole(), "", opened.type(), true, Optional.of(layout));
      edit.proved(files, slice(copy), hint);
    }
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
    Optional<Entry> old = found(p.path());
    if (old.map(Entry::folder).orElse(false)) {
      throw new ShedException(p.path() + " is a folder; a file cannot take its place.");
    }
    folder(parent(p.path()), p.stamp());
    String path = old.map(Entry::path).orElseGet(() -> spelled(p.path()));
    touched.add(path);
    keep(
        new Entry(
            path,
            old.map(Entry::shortName).orElse(""),
            false,
            p.bytes(),
            ARCHIVE,
            p.stamp(),
            NOTHING,
            p.sha256(),
            p.source()));
  }

  private void folder(String path, int stamp) {
    if (path.isEmpty()) return;
    Optional<Entry> there = found(path);
    if (there.isPresent()) {
      if (there.get().folder()) return;
      throw new ShedException(path + " is a file; a folder cannot take its place.");
    }
    folder(parent(path), stamp);
    keep(new Entry(spelled(path), "", true, 0, 0, stamp, NOTHING, "", s -> {}));
  }

  private void remove(String path) {
    String gone = there(path).path();
    touched.add(gone);
    entries
        .keySet()
        .removeIf(
            p ->
                (p.equals(gone) || p.startsWith(gone + "/"))
                    && folded.get(volume.fold(p)).remove(p));
  }

  private void move(String from, String wanted) {
    String old = there(from).path();
    if (volume.fold(wanted).startsWith(volume.fold(old) + "/")) {
      throw new ShedException(from + " cannot go into itself.");
    }
    folder(parent(wanted), Stamp.NONE);
    String to = spelled(wanted);
    boolean onlyCase = volume.fold(to).equals(volume.fold(old)) && !to.equals(old);
    if (entries.containsKey(to) || !onlyCase && found(to).isPresent()) {
      throw new ShedException(to + " is there already; remove it first, or take another name.");
    }
    touched.add(old);
    touched.add(to);
    Map<String, Entry> before = new LinkedHashMap<>(entries);
    entries.clear();
    folded.clear();
    for (Entry e : before.values()) {
      boolean self = e.path().equals(old);
      boolean below = e.path().startsWith(old + "/");
      String now = self ? to : below ? to + e.path().substring(old.length()) : e.path();
      // The short name belonged to the old name.
      keep(e.named(now, self ? "" : e.shortName()));
    }
  }

  private void set(Change.Set s) {
    Entry e = there(s.path());
    int foreign = s.marks().orElse(0) & ~volume.marks();
    if (foreign != 0) {
      throw new ShedException(
          "Files of "
              + volume.kind()
              + " have no mark "
              + Marks.letters(foreign)
              + "; those that they have are "
              + Marks.letters(volume.marks())
              + ".");
    }
    if (s.stamp().isPresent() && !volume.keepsTimes()) {
      throw new ShedException("Files of " + volume.kind() + " have no time.");
    }
    touched.add(e.path());
    keep(
        new Entry(
            e.path(),
            e.shortName(),
            e.folder(),
            e.bytes(),
            s.marks().map(m -> m & MARKS).orElse(e.marks()),
            s.stamp().orElse(e.stamp()),
            e.own(),
            e.sha256(),
            e.source()));
  }

  /** A path whose folder is spelled as it stands, where it stands. */
  private String spelled(String path) {
    return found(parent(path))
        .map(f -> f.path() + path.substring(parent(path).length()))
        .orElse(path);
  }

  private void keep(Entry e) {
    entries.put(e.path(), e);
    folded.computeIfAbsent(volume.fold(e.path()), k -> new LinkedHashSet<>()).add(e.path());
  }

  /**
   * What stands under a path: letter for letter, else what the volume's systems find under it.
   *
   * @throws ShedException where they would find two
   */
  private Optional<Entry> found(String path) {
    Entry exact = entries.get(path);
    if (exact != null) return Optional.of(exact);
    java.util.Set<String> alike = folded.getOrDefault(volume.fold(path), java.util.Set.of());
    if (alike.size() > 1) {
      throw new ShedException(
          "\""
              + path
              + "\" may be "
              + String.join(" or ", alike)
              + ": write the one that is meant, letter for letter.");
    }
    return alike.stream().findFirst().map(entries::get);
  }

  private Entry there(String path) {
    return found(path)
        .orElseThrow(() -> new ShedException("There is no " + path + " on the volume."));
  }

  private static String parent(String path) {
    int slash = path.lastIndexOf('/');
    return slash < 0 ? "" : path.substring(0, slash);
  }

  /** Gives a file's bytes and keeps what their digest must be, for the proof. */
  private FileSet.Source digested(Entry e) {
    if (!e.sha256().isEmpty()) {
      given.put(e.path(), HexFormat.of().parseHex(e.sha256()));
      return e.source();
    }
    // A file of no bytes is not asked for them.
    given.put(e.path(), Sha256.fresh().digest());
    return sink -> {
      var digest = Sha256.fresh();
      e.source()
          .copyTo(
              (b, at, length) -> {
                digest.update(b, at, length);
                sink.take(b, at, length);
              });
      given.put(e.path(), digest.digest());
    };
  }

  /** All entries, each behind its folder; otherwise in their order on disk (F-11). */
  private FileSet files() {
    FileSet out = FileSet.asTheyLie();
    out.root().own(volume.own(volume.root()));
    List<Entry> left = new ArrayList<>(entries.values());
    while (!left.isEmpty()) {
      List<Entry> later = new ArrayList<>();
      for (Entry e : left) {
        String path = e.path();
        if (!parent(path).isEmpty() && !out.has(parent(path))) {
          later.add(e);
          continue;
        }
        if (e.folder()) out.folder(path, e.shortName(), e.marks(), e.stamp());
        else out.file(path, e.shortName(), e.bytes(), e.marks(), e.stamp(), digested(e));
        out.item(path).own(e.own());
      }
      if (later.size() == left.size()) {
        throw new ShedException("The folder of " + later.get(0).path() + " is not there.");
      }
      left = later;
    }
    return out;
  }

  /** The copy holds what was asked for and checks clean, or it is not handed out. */
  private void proved(FileSet files, Medium slice, Hint hint) {
    Volume now =
        Opener.recognise(slice, hint)
            .flatMap(Recognised::volume)
            .filter(v -> v.kind().equals(volume.kind()))
            .orElseThrow(() -> new ShedException("The changed volume does not open again."));
    faultless(now);
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
    untouched(now);
  }

  /** What was wrong before, such as a name that no system gives, is not for an edit to change. */
  private void faultless(Volume now) {
    List<Finding> faults = now.check();
    if (faults.isEmpty()) return;
    Set<String> before = volume.check().stream().map(Finding::what).collect(Collectors.toSet());
    for (Finding f : faults) if (!before.contains(f.what())) throw new ShedException(f.what());
  }

  /**
   * Whatever the changes did: each entry of the volume as it was that none of them named is there,
   * with all that its kind of filesystem says of it. Its content was compared already.
   */
  private void untouched(Volume now) {
    Map<String, Node> there = new HashMap<>();
    for (Node n : now.all()) there.put(n.path(), n);
    for (Node n : volume.all()) {
      if (isTouched(n.path())) continue;
      Node is = there.get(n.path());
      boolean same =
          is != null
              && is.folder() == n.folder()
              && is.bytes() == n.bytes()
              && is.name().equals(n.name())
              && is.attributes() == n.attributes()
              && is.stamp() == n.stamp()
              && Arrays.equals(now.lasting(is), volume.lasting(n));
      if (!same) {
        throw new ShedException(
            n.path() + " was not to be changed and came out otherwise; nothing was kept.");
      }
    }
    if (!Arrays.equals(now.own(now.root()), volume.own(volume.root()))) {
      throw new ShedException(
          "What the volume says of itself came out otherwise; nothing was kept.");
    }
  }

  /** Whether a change named a path or a folder above it. */
  private boolean isTouched(String path) {
    for (String above = path; !above.isEmpty(); above = parent(above)) {
      if (touched.contains(above)) return true;
    }
    return false;
  }

  private boolean sameBytes(FileSet.Item wanted, Volume now, Node n) {
    var digest = Sha256.fresh();
    now.read(n, digest::update);
    return java.security.MessageDigest.isEqual(given.get(wanted.path()), digest.digest());
  }
}
