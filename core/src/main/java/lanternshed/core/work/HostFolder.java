package lanternshed.core.work;

import java.io.FileInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Sink;
import lanternshed.core.volume.Volume;

/**
 * A folder of this computer whose files go into a volume. It is looked at as a whole before
 * anything is built: what cannot come over is said then.
 */
final class HostFolder {
  private static final int SMALL_FILE = 8192;

  /** The longest path that systems of 8.3 names open, less the drive and its point. */
  private static final int MOST_PATH = 63;

  /** One entry, parents before what is in them. */
  record Item(Path path, String onDisk, boolean folder, long bytes, int stamp) {

    /** Whether a file of a volume holds the same bytes as this one. */
    boolean holds(Volume v, Node n) {
      boolean[] differs = {false};
      try (InputStream in = Files.newInputStream(path)) {
        v.read(n, (b, at, length) -> differs[0] |= !next(in, b, at, length));
        return !differs[0] && in.read() < 0;
      } catch (IOException e) {
        throw new ShedException("The file " + path + " does not read: " + e.getMessage() + ".", e);
      }
    }

    private boolean next(InputStream in, byte[] b, int at, int length) {
      try {
        byte[] mine = in.readNBytes(length);
        return Arrays.equals(mine, 0, mine.length, b, at, at + length);
      } catch (IOException e) {
        throw new ShedException("The file " + path + " does not read: " + e.getMessage() + ".", e);
      }
    }
  }

  private final List<Item> items = new ArrayList<>();

  private HostFolder() {}

  /**
   * Looks at a folder.
   *
   * @throws ShedException with the first thing in it that cannot come over
   */
  static HostFolder read(Path root) {
    Map<Path, BasicFileAttributes> found = new TreeMap<>();
    try {
      Files.walkFileTree(
          root,
          new SimpleFileVisitor<>() {
            @Override
            public FileVisitResult preVisitDirectory(Path p, BasicFileAttributes a) {
              if (!p.equals(root)) found.put(p, a);
              return FileVisitResult.CONTINUE;
            }

            @Override
            public FileVisitResult visitFile(Path p, BasicFileAttributes a) {
              found.put(p, a);
              return FileVisitResult.CONTINUE;
            }
          });
    } catch (IOException e) {
      throw new ShedException("The folder " + root + " does not read: " + e.getMessage() + ".", e);
    }
    HostFolder h = new HostFolder();
    found.forEach((p, a) -> h.items.add(item(root, p, a)));
    return h;
  }

  private static Item item(Path root, Path p, BasicFileAttributes a) {
    String onDisk =
        root.relativize(p)
            .toString()
            .replace(java.io.File.separatorChar, '/')
            .toUpperCase(Locale.ROOT);
    if (a.isSymbolicLink()) {
      throw new ShedException(
          onDisk + " is a link; put the file itself there, or take the link out.");
    }
    if (!a.isDirectory() && !a.isRegularFile()) {
      throw new ShedException(onDisk + " is neither a file nor a folder; take it out.");
    }
    if (onDisk.endsWith(".")) {
      throw new ShedException(
          onDisk + " ends with a point, which no name on the volume can; rename it.");
    }
    if (onDisk.length() > MOST_PATH) {
      throw new ShedException(
          onDisk
              + " has a path of "
              + onDisk.length()
              + " characters; systems of 8.3 names open up to "
              + MOST_PATH
              + ". Put it less deep.");
    }
    return new Item(
        p, onDisk, a.isDirectory(), a.size(), Stamp.of(a.lastModifiedTime().toInstant()));
  }

  List<Item> items() {
    return items;
  }

  FileSet files() {
    FileSet out = new FileSet();
    byte[] buffer = new byte[1 << 20];
    for (Item i : items) {
      if (i.folder()) out.folder(i.onDisk(), 0, i.stamp());
      else out.file(i.onDisk(), i.bytes(), 0x20, i.stamp(), sink -> copy(i, buffer, sink));
    }
    return out;
  }

  /**
   * Gives a file to {@code sink}. Asking for no more than is left keeps the runtime from laying out
   * a buffer of a megabyte for each small file.
   */
  static void copy(Item i, byte[] buffer, Sink sink) {
    try (FileInputStream in = new FileInputStream(i.path().toFile())) {
      FileChannel channel = in.getChannel();
      for (long left = i.bytes(); left > 0; ) {
        int want = (int) Math.min(left, buffer.length);
        int n =
            i.bytes() <= SMALL_FILE
                ? in.read(buffer, 0, want)
                : channel.read(ByteBuffer.wrap(buffer, 0, want));
        if (n < 0) break;
        sink.take(buffer, 0, n);
        left -= n;
      }
    } catch (IOException e) {
      throw new ShedException(
          "The file " + i.path() + " does not read: " + e.getMessage() + ".", e);
    }
  }

  /** How many files it has. */
  String count() {
    return Say.plural(items.stream().filter(i -> !i.folder()).count(), "file", "files");
  }
}
