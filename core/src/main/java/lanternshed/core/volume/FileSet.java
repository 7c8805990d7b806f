package lanternshed.core.volume;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.names.NameList;

/**
 * The files and folders that go into a new volume, parents before what is in them. No two have one
 * path, whatever the case of its letters; only a set of what lay on one volume before tells apart
 * what lay apart there.
 */
public final class FileSet {

  /** Gives a file's content; called once, must give exactly the length it was announced with. */
  public interface Source {
    void copyTo(Sink sink);

    /**
     * The same content where it is a file of this computer, in whole sectors, for the kernel to
     * copy; whoever asks closes it.
     */
    default Optional<FileMedium> file() {
      return Optional.empty();
    }
  }

  /** One file or folder. */
  public static final class Item {
    private final String path;
    private final String shortName;
    private final boolean folder;
    private final long bytes;
    private final int marks;
    private final int stamp;
    private final Source source;
    private final Item parent;
    private byte[] own = new byte[0];
    private final List<Item> children = new ArrayList<>();

    private Item(
        String path,
        String shortName,
        boolean folder,
        long bytes,
        int marks,
        int stamp,
        Source source,
        Item parent) {
      this.path = path;
      this.shortName = shortName;
      this.folder = folder;
      this.bytes = bytes;
      this.marks = marks;
      this.stamp = stamp;
      this.source = source;
      this.parent = parent;
    }

    public String path() {
      return path;
    }

    public String name() {
      return path.substring(path.lastIndexOf('/') + 1);
    }

    /** The 8.3 name that its source has for it; "" where none is known. */
    public String shortName() {
      return shortName;
    }

    public boolean folder() {
      return folder;
    }

    public long bytes() {
      return bytes;
    }

    /**
     * The attribute bits that FAT and exFAT share: 01 read only, 02 hidden, 04 system, 20 archive.
     */
    public int marks() {
      return marks;
    }

    /** Packed date (upper 16 bits) and time (lower 16). */
    public int stamp() {
      return stamp;
    }

    /** What only its own kind of filesystem keeps of it; empty where it comes from another. */
    public byte[] own() {
      return own;
    }

    /** Keeps what a volume of the same kind says of it beyond a node. */
    public void own(byte[] kept) {
      own = kept.clone();
    }

    public void copyTo(Sink sink) {
      source.copyTo(sink);
    }

    /** The content as a file of this computer; whoever asks closes it. */
    public Optional<FileMedium> file() {
      return source.file();
    }

    /** The folder it is in; null for the root. */
    public Item parent() {
      return parent;
    }

    public List<Item> children() {
      return children;
    }
  }

  private final Item root = new Item("", "", true, 0, 0, 0, s -> {}, null);
  private final Map<String, Item> byPath = new HashMap<>();
  private final List<Item> items = new ArrayList<>();
  private final UnaryOperator<String> fold;

  public FileSet() {
    this(NameList::fold);
  }

  private FileSet(UnaryOperator<String> fold) {
    this.fold = fold;
    byPath.put("", root);
  }

  /** A set whose paths differ letter by letter: whoever fills it has told names apart already. */
  public static FileSet asTheyLie() {
    return new FileSet(path -> path);
  }

  public Item root() {
    return root;
  }

  /** Whether something of that path was added. */
  public boolean has(String path) {
    return byPath.containsKey(fold.apply(path));
  }

  /** What was added under that path. */
  public Item item(String path) {
    return byPath.get(fold.apply(path));
  }

  /** In the order in which they were added. */
  public List<Item> items() {
    return items;
  }

  /** Adds a folder; its parent must have been added. */
  public void folder(String path, String shortName, int marks, int stamp) {
    add(path, shortName, true, 0, marks, stamp, s -> {});
  }

  public void folder(String path, int marks, int stamp) {
    folder(path, "", marks, stamp);
  }

  /** Adds a file of exactly {@code bytes}; its folder must have been added. */
  public void file(String path, String shortName, long bytes, int marks, int stamp, Source source) {
    add(path, shortName, false, bytes, marks, stamp, source);
  }

  public void file(String path, long bytes, int marks, int stamp, Source source) {
    file(path, "", bytes, marks, stamp, source);
  }

  private void add(
      String path,
      String shortName,
      boolean folder,
      long bytes,
      int marks,
      int stamp,
      Source source) {
    int slash = path.lastIndexOf('/');
    Item parent = byPath.get(fold.apply(slash < 0 ? "" : path.substring(0, slash)));
    if (parent == null || !parent.folder()) {
      throw new VolumeException("The folder of " + path + " was not added before it.");
    }
    Item i = new Item(path, shortName, folder, bytes, marks, stamp, source, parent);
    if (byPath.putIfAbsent(fold.apply(path), i) != null) {
      throw new VolumeException("There are two of the name " + path + "; one needs another name.");
    }
    parent.children().add(i);
    items.add(i);
  }
}
