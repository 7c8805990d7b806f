package lanternshed.server.files;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.time.LocalDateTime;
import java.time.format.DateTimeParseException;
import java.util.HexFormat;
import java.util.List;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sha256;
import lanternshed.core.measure.ShedException;
import lanternshed.server.shell.Shelf;
import org.springframework.stereotype.Component;

/**
 * Takes files in as they stream from a desktop; their bytes lie on the shelf under their digest.
 */
@Component
public class DesktopFiles {
  private static final int MOST_PATH = 1000;
  private static final int MOST_NAME = 255;

  /** The longest file that FAT keeps. */
  public static final long MOST_BYTES = 0xFFFF_FFFFL;

  private static final long ROOM_STEP = 64 << 20;
  private final Shelf shelf;

  DesktopFiles(Shelf shelf) {
    this.shelf = shelf;
  }

  /** What came and is kept. */
  public record Kept(long bytes, String sha256) {}

  /** What gives a file's bytes. */
  @FunctionalInterface
  public interface Filler {
    void into(OutputStream out) throws IOException;
  }

  /** Counts and digests what goes into a file, asks for room, and ends what is too long. */
  private final class Measured extends OutputStream {
    private final OutputStream to;
    private final String path;
    private final MessageDigest digest = Sha256.fresh();
    private long bytes;
    private long asked;

    Measured(OutputStream to, String path) {
      this.to = to;
      this.path = path;
    }

    @Override
    public void write(int b) throws IOException {
      write(new byte[] {(byte) b}, 0, 1);
    }

    @Override
    public void write(byte[] b, int at, int length) throws IOException {
      bytes += length;
      if (bytes > MOST_BYTES) {
        throw new ShedException(
            path + " is larger than 4 GiB less 1 B, the longest file that FAT keeps.");
      }
      if (bytes > asked) {
        shelf.needRoom(ROOM_STEP);
        asked = bytes + ROOM_STEP;
      }
      digest.update(b, at, length);
      to.write(b, at, length);
    }
  }

  /**
   * Keeps one file.
   *
   * @param expected bytes that the sender announced; −1 where none were
   */
  public Kept keep(String path, Filler filler, long expected) throws IOException {
    Path part = shelf.freshHalf();
    try (OutputStream to = new BufferedOutputStream(Files.newOutputStream(part), 1 << 16)) {
      Measured out = new Measured(to, path);
      filler.into(out);
      to.close();
      if (expected >= 0 && out.bytes != expected) {
        throw new ShedException(
            path
                + " stopped half way: "
                + Say.bytes(out.bytes)
                + " of "
                + Say.bytes(expected)
                + " came. Nothing of it was kept; send it again.");
      }
      String sha256 = HexFormat.of().formatHex(out.digest.digest());
      // What has a row is not asked for again: it must outlive a loss of power.
      shelf.keepBrought(part, sha256);
      return new Kept(out.bytes, sha256);
    } finally {
      shelf.remove(part);
    }
  }

  /** Keeps one file that comes as a stream. */
  public Kept keep(String path, InputStream in, long expected) throws IOException {
    return keep(path, in::transferTo, expected);
  }

  /**
   * A path that names a place among the files and never one on this computer.
   *
   * @param never characters that no name has
   * @param ends whether a name may not end with a point or a space
   */
  public static String plain(String path, String never, boolean ends) {
    String p = path.replace('\\', '/').replaceAll("^/+", "");
    boolean sound =
        !p.isEmpty()
            && p.length() <= MOST_PATH
            && List.of(p.split("/", -1)).stream().allMatch(n -> soundName(n, never, ends));
    if (sound) return p;
    String shown = p.length() > 60 ? p.substring(0, 60) + "…" : p;
    throw new ShedException(
        "\"" + shown.replaceAll("\\p{Cntrl}", "?") + "\" is no path that a volume can hold.");
  }

  private static boolean soundName(String n, String never, boolean ends) {
    boolean dots = n.equals(".") || n.equals("..");
    boolean plain = n.chars().noneMatch(c -> c < ' ' || c == 127 || never.indexOf(c) >= 0);
    boolean ended = ends && (n.endsWith(".") || n.endsWith(" "));
    return !n.isBlank() && !dots && plain && !ended && n.length() <= MOST_NAME;
  }

  /** Refuses what is no time; "" is none. */
  public static void checkTime(String path, String time) {
    if (time.isEmpty()) return;
    try {
      LocalDateTime.parse(time);
    } catch (DateTimeParseException e) {
      throw new ShedException("The time of " + path + " does not read: \"" + time + "\".", e);
    }
  }
}
