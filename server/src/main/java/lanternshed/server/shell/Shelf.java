package lanternshed.server.shell;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.DirectoryStream;
import java.nio.file.FileStore;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.FileTime;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Stream;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Durable;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.work.Digests;
import lanternshed.core.work.Progress;
import org.springframework.stereotype.Component;

/**
 * The folder where images and media lie as files. Images are named by their digest and stored once;
 * what is being made lies in "half" and is shown to nobody. No path of a client comes here: names
 * of the incoming folder are looked up in its listing.
 */
@Component
public class Shelf {
  private final Path home;
  private final long spare;
  private final Map<String, Object> places = new ConcurrentHashMap<>();

  Shelf(Settings settings) {
    this.home = settings.home().toAbsolutePath().normalize();
    this.spare = settings.spareBytes();
    for (String room :
        List.of("images", "media", "half", "incoming", "pictures", "uploads", "brought")) {
      try {
        Files.createDirectories(home.resolve(room));
        own(home.resolve(room));
      } catch (IOException e) {
        throw new ShedException(
            "The shelf " + home + " cannot be made: " + e.getMessage() + ".", e);
      }
    }
    sweepParts();
  }

  /** What lies here is somebody's only copy: other users of this computer do not read it. */
  private static void own(Path folder) throws IOException {
    if (folder.getFileSystem().supportedFileAttributeViews().contains("posix")) {
      Files.setPosixFilePermissions(folder, PosixFilePermissions.fromString("rwx------"));
    }
  }

  /** What a program that is gone had half received or half copied is nobody's. */
  private void sweepParts() {
    try (DirectoryStream<Path> parts = Files.newDirectoryStream(home.resolve("half"), "*.part")) {
      for (Path p : parts) remove(p);
    } catch (IOException e) {
      throw new ShedException("The shelf " + home + " does not read: " + e.getMessage() + ".", e);
    }
  }

  public Path image(String sha256) {
    return home.resolve("images").resolve(hex(sha256) + ".img");
  }

  public Path imageMap(String sha256) {
    return home.resolve("images").resolve(hex(sha256) + ".map");
  }

  private static String hex(String digest) {
    if (!digest.matches("[0-9a-f]{64}"))
      throw new ShedException("\"" + digest + "\" is no digest.");
    return digest;
  }

  /** A file that was brought from a desktop, by its digest. */
  public Path brought(String sha256) {
    return home.resolve("brought").resolve(hex(sha256));
  }

  /** A fresh name for a medium's file. */
  public String newMediumFile() {
    return UUID.randomUUID() + ".medium";
  }

  public Path medium(String file) {
    if (!file.matches("[0-9a-f-]{36}\\.medium")) throw new ShedException("No such medium's file.");
    return home.resolve("media").resolve(file);
  }

  static final String FULL =
      "The shelf's disk is full; nothing of this was kept. Make room and start again.";

  /** Whether it failed because the disk took no more, or would not for this user. */
  static boolean isFull(Throwable e) {
    for (Throwable t = e; t != null; t = t.getCause()) {
      String why = String.valueOf(t.getMessage());
      if (t instanceof IOException
          && (why.contains("No space left on device") || why.contains("Disk quota exceeded"))) {
        return true;
      }
    }
    return false;
  }

  /** Whether nothing was written on a medium's file since it was made. */
  public boolean untouched(String file, Instant made) {
    try {
      return !Files.getLastModifiedTime(medium(file)).toInstant().isAfter(made);
    } catch (IOException e) {
      return false;
    }
  }

  /** Where uploads gather that may still be cut off. */
  public Path uploads() {
    return home.resolve("uploads");
  }

  /** A picture from the bench, or its small form. */
  public Path picture(long id, boolean small) {
    return home.resolve("pictures").resolve(id + (small ? ".small" : ".picture"));
  }

  /** Where a piece of work makes its image. */
  public Path half(long work) {
    return home.resolve("half").resolve("work-" + work + ".img");
  }

  public Path halfMap(long work) {
    return home.resolve("half").resolve("work-" + work + ".map");
  }

  public Path freshHalf() {
    return home.resolve("half").resolve(UUID.randomUUID() + ".part");
  }

  /**
   * Takes a stream in, to be looked at before anything is kept of it.
   *
   * @param what it is, "picture"
   * @throws ShedException where it is empty or longer than {@code most} bytes
   */
  public void receive(InputStream in, Path half, long most, String what) throws IOException {
    byte[] b = new byte[1 << 16];
    long total = 0;
    try (OutputStream out = Files.newOutputStream(half)) {
      for (int n = in.read(b); n >= 0; n = in.read(b)) {
        total += n;
        if (total > most) {
          throw new ShedException(
              "This " + what + " is larger than " + Say.mb(most) + "; nothing was kept.");
        }
        out.write(b, 0, n);
      }
    }
    if (total == 0) throw new ShedException("This " + what + " is empty.");
  }

  /** Where what a piece of work has finished stands until all of it is stored. */
  public Path finished(long work) {
    return home.resolve("half").resolve("work-" + work + ".finished");
  }

  /** Writes a small file in one step, past a loss of power. */
  public void note(Path file, String text) {
    Path next = file.resolveSibling(file.getFileName() + ".next");
    try {
      Files.writeString(next, text, StandardCharsets.UTF_8);
      Durable.force(next);
      Files.move(next, file, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
      Durable.forceFolderOf(file);
    } catch (IOException e) {
      throw new ShedException("The shelf's disk does not keep: " + e.getMessage() + ".", e);
    }
  }

  /** What such a file says; empty where it is not there. */
  public Optional<String> note(Path file) {
    try {
      return Optional.of(Files.readString(file, StandardCharsets.UTF_8));
    } catch (NoSuchFileException e) {
      return Optional.empty();
    } catch (IOException e) {
      throw new ShedException("The shelf's disk does not answer: " + e.getMessage() + ".", e);
    }
  }

  /**
   * Moves a finished image to its place, past a loss of power. One that is there already stays if
   * it still is what its name says; one that changed on the disk is replaced by this good copy.
   * Doing it again after it was cut off does no harm.
   */
  public void keepImage(Path half, String sha256) {
    // Of one image at a time: what is given back is not what is put here at the same moment.
    synchronized (one(sha256)) {
      keepAlone(half, sha256);
    }
  }

  private Object one(String sha256) {
    return places.computeIfAbsent(sha256, s -> new Object());
  }

  /** Bytes that an image takes at most: its holes take none, and nobody here is told of them. */
  public long atMost(String sha256) {
    try {
      return Files.size(image(sha256));
    } catch (IOException e) {
      return 0;
    }
  }

  /**
   * Deletes an image for good, unless it was put here, or asked for again, after {@code before}.
   *
   * @return whether it is gone
   */
  public boolean giveBack(String sha256, Instant before) {
    synchronized (one(sha256)) {
      Path place = image(sha256);
      try {
        boolean settled =
            !Files.exists(place) || Files.getLastModifiedTime(place).toInstant().isBefore(before);
        if (!settled) return false;
        Files.deleteIfExists(place);
        Files.deleteIfExists(imageMap(sha256));
        Durable.forceFolderOf(place);
        return true;
      } catch (IOException e) {
        throw new ShedException(
            "A file of the shelf cannot be removed: " + e.getMessage() + ".", e);
      }
    }
  }

  private void keepAlone(Path half, String sha256) {
    Path place = image(sha256);
    try {
      if (!Files.exists(half) && Files.exists(place)) {
        Files.setLastModifiedTime(place, FileTime.from(Instant.now()));
        return;
      }
      if (Files.exists(place) && isStill(place, sha256)) {
        Files.setLastModifiedTime(place, FileTime.from(Instant.now()));
        Files.delete(half);
        return;
      }
      Durable.force(half);
      Files.move(half, place, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
      Durable.forceFolderOf(place);
    } catch (IOException e) {
      throw new ShedException("The image cannot be put on the shelf: " + e.getMessage() + ".", e);
    }
  }

  private static boolean isStill(Path image, String sha256) {
    try (FileMedium m = FileMedium.open(image)) {
      return m.tailBytes() == 0
          && Digests.of(m, Progress.NONE, "looking at the shelf").sha256().equals(sha256);
    } catch (ShedException e) {
      return false;
    }
  }

  /** Moves a file that was brought in to its place, past a loss of power. */
  public void keepBrought(Path part, String sha256) {
    Path place = brought(sha256);
    try {
      Durable.force(part);
      Files.move(part, place, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
      Durable.forceFolderOf(place);
    } catch (IOException e) {
      throw new ShedException("The file cannot be put on the shelf: " + e.getMessage() + ".", e);
    }
  }

  public void move(Path from, Path to) {
    try {
      Files.move(from, to, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
    } catch (IOException e) {
      throw new ShedException("A file of the shelf cannot be moved: " + e.getMessage() + ".", e);
    }
  }

  public void remove(Path p) {
    try {
      Files.deleteIfExists(p);
    } catch (IOException e) {
      throw new ShedException("A file of the shelf cannot be removed: " + e.getMessage() + ".", e);
    }
  }

  /** refuses before the start what would not fit, with the sum. */
  public void needRoom(long bytes) {
    try {
      FileStore store = Files.getFileStore(home);
      long free = store.getUsableSpace();
      if (free - spare >= bytes) return;
      throw new ShedException(
          "The shelf's disk has "
              + Say.size(free)
              + " free; "
              + Say.size(bytes)
              + " are needed and "
              + Say.size(spare)
              + " stay spare. Make room and start again.");
    } catch (IOException e) {
      throw new ShedException("The shelf's disk does not answer: " + e.getMessage() + ".", e);
    }
  }

  /** Names of the files in the incoming folder. */
  public List<String> incoming() {
    try (Stream<Path> all = Files.list(home.resolve("incoming"))) {
      return all.filter(p -> Files.isRegularFile(p, LinkOption.NOFOLLOW_LINKS))
          .map(p -> p.getFileName().toString())
          .sorted()
          .toList();
    } catch (IOException e) {
      throw new ShedException("The incoming folder does not read: " + e.getMessage() + ".", e);
    }
  }

  public Path incomingFolder() {
    return home.resolve("incoming");
  }

  /** The incoming file of that name; only a name that the folder lists. */
  public Path incoming(String name) {
    if (!incoming().contains(name)) {
      throw new ShedException("There is no file of that name in the incoming folder.");
    }
    return home.resolve("incoming").resolve(name);
  }
}
