package lanternshed.core.work;

import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.FileTime;
import java.security.MessageDigest;
import java.time.YearMonth;
import java.time.ZoneId;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.function.Predicate;
import lanternshed.core.measure.Sha256;
import lanternshed.core.measure.ShedException;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Volume;

/**
 * Copies files out of a volume: into a folder, or wherever else somebody takes them. Beside
 * them goes a list of digests, and where not everything came whole a list that says what did not.
 */
public final class FilesOut {
  public static final String DIGESTS = "SHA256SUMS";
  public static final String NOT_WHOLE = "NOT-WHOLE.TXT";

  /** Where the files go. Paths are safe: they never lead out of the place they go to. */
  public interface Target {
    void folder(String path, long millis) throws IOException;

    /** A file's bytes; the stream is closed when they were given. */
    OutputStream file(String path, long millis) throws IOException;
  }

  /**
   * What was copied.
   *
   * @param files how many, those that are not whole among them
   * @param notWhole paths of those that are not, each with why
   */
  public record Report(long files, long bytes, List<String> notWhole) {}

  private final Volume volume;
  private final Target target;
  private final Map<String, String> known;
  private final StringBuilder digests = new StringBuilder();
  private final List<String> notWhole = new java.util.ArrayList<>();
  private final Set<String> taken = new HashSet<>(Set.of(DIGESTS, NOT_WHOLE));
  private long files;
  private long bytes;

  /** The time of the newest file: the lists are of that day, whenever they are made. */
  private long newest = millis(0);

  private FilesOut(Volume volume, Target target, Map<String, String> known) {
    this.volume = volume;
    this.target = target;
    this.known = known;
  }

  /**
   * Copies what is wanted; {@link #under} and {@link Node#hasLetters} choose.
   *
   * @param known what is known of damaged files already, by path: "3 sectors did not come back"
   */
  public static Report copy(
      Volume volume, Predicate<Node> wanted, Target target, Map<String, String> known)
      throws IOException {
    FilesOut out = new FilesOut(volume, target, known);
    // A folder that is cut takes files with it that nothing else would tell of.
    volume.notWhole(volume.root()).ifPresent(why -> out.notWhole.add("the root folder: " + why));
    for (Node n : volume.all()) if (wanted.test(n)) out.node(n);
    return out.done();
  }

  /**
   * A folder with all that is in it, or a single file.
   *
   * @param path of it; "" for everything
   */
  public static Predicate<Node> under(String path) {
    return n ->
        path.isEmpty()
            || n.path().equalsIgnoreCase(path)
            || n.path().regionMatches(true, 0, path + "/", 0, path.length() + 1);
  }

  private void node(Node n) throws IOException {
    String path = free(safe(n.path()));
    if (n.folder()) {
      target.folder(path, millis(n));
      volume.notWhole(n).ifPresent(why -> notWhole.add(path + ": the folder " + why));
      return;
    }
    files++;
    newest = Math.max(newest, millis(n));
    MessageDigest digest = Sha256.fresh();
    String fault = known.getOrDefault(n.path(), "");
    try (OutputStream o = target.file(path, millis(n))) {
      volume.read(
          n,
          (b, at, length) -> {
            digest.update(b, at, length);
            bytes += length;
            write(o, b, at, length);
          });
    } catch (ShedException e) {
      // What there is of it was given; the rest of the volume is worth no less.
      fault = e.getMessage();
    } catch (UncheckedIOException e) {
      throw e.getCause();
    }
    if (!fault.isEmpty()) notWhole.add(path + ": " + fault);
    digests.append(Digests.hex(digest.digest())).append("  ").append(path).append('\n');
  }

  private Report done() throws IOException {
    note(DIGESTS, digests.toString());
    if (!notWhole.isEmpty()) note(NOT_WHOLE, String.join("\n", notWhole) + "\n");
    return new Report(files, bytes, List.copyOf(notWhole));
  }

  private void note(String name, String text) throws IOException {
    try (OutputStream o = target.file(name, newest)) {
      o.write(text.getBytes(StandardCharsets.UTF_8));
    }
  }

  private static void write(OutputStream o, byte[] b, int at, int length) {
    try {
      o.write(b, at, length);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** A name on disk may hold anything; where it goes it stays below its folder. */
  static String safe(String path) {
    return path.replaceAll("[\\p{Cntrl}\\\\:*?\"<>|]", "_")
        .replaceAll("(^|/)\\.+(?=/|$)", "$1_")
        .replaceAll("^/+", "_");
  }

  /** Two entries of one name, as a damaged folder may have, are two files. */
  private String free(String path) {
    String name = path;
    for (int i = 2; !taken.add(name.toUpperCase(Locale.ROOT)); i++) name = path + "~" + i;
    return name;
  }

  /** The same of an entry, to the second where its volume keeps it. */
  public static long millis(Node n) {
    return n.exact()
        .map(t -> t.atZone(ZoneId.systemDefault()).toInstant().toEpochMilli())
        .orElseGet(() -> millis(n.stamp()));
  }

  /**
   * Packed date and time of the volume, which knows no zone; what is no time is made the nearest.
   */
  public static long millis(int stamp) {
    int date = stamp >>> 16;
    int time = stamp & 0xFFFF;
    YearMonth month = YearMonth.of(1980 + (date >> 9), Math.max(1, Math.min(12, date >> 5 & 15)));
    return month
        .atDay(Math.max(1, Math.min(month.lengthOfMonth(), date & 31)))
        .atTime(
            Math.min(23, time >> 11), Math.min(59, time >> 5 & 63), Math.min(58, (time & 31) * 2))
        .atZone(ZoneId.systemDefault())
        .toInstant()
        .toEpochMilli();
  }

  /** Beside a file, under a name that nobody has: where it is written until it is whole. */
  public static Path aside(Path to) {
    return to.resolveSibling("." + UUID.randomUUID() + ".part");
  }

  /**
   * A folder of this computer, which may hold nothing of these names yet.
   *
   * @param root where the files go; it is made where it is not there
   */
  public static Target into(Path root) {
    return new Target() {
      @Override
      public void folder(String path, long millis) throws IOException {
        Files.createDirectories(root.resolve(path));
      }

      @Override
      public OutputStream file(String path, long millis) throws IOException {
        Path to = root.resolve(path);
        Files.createDirectories(to.getParent());
        if (Files.exists(to)) {
          throw new ShedException(to + " is there already; choose an empty folder.");
        }
        // Aside, so that a disk that is full leaves nothing short under a file's name.
        Path aside = aside(to);
        OutputStream o = Files.newOutputStream(aside, StandardOpenOption.CREATE_NEW);
        return new java.io.FilterOutputStream(o) {
          private boolean failed;

          @Override
          public void write(byte[] b, int at, int length) throws IOException {
            try {
              o.write(b, at, length);
            } catch (IOException e) {
              failed = true;
              throw e;
            }
          }

          @Override
          public void close() throws IOException {
            o.close();
            if (failed) {
              Files.deleteIfExists(aside);
              return;
            }
            Files.setLastModifiedTime(aside, FileTime.fromMillis(millis));
            Files.move(aside, to);
          }
        };
      }
    };
  }
}
