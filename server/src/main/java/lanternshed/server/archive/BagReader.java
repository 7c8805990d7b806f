package lanternshed.server.archive;

import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.security.DigestInputStream;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sha256;
import lanternshed.core.measure.ShedException;
import org.apache.commons.compress.archivers.zip.ZipArchiveEntry;
import org.apache.commons.compress.archivers.zip.ZipFile;

/**
 * Reads a bag (RFC 8493) from a zip that anybody may have made: only what its list of digests names
 * is read, no more of it than is asked for, and nothing is believed that differs from its digest.
 */
final class BagReader implements AutoCloseable {
  static final String MANIFEST = "manifest-sha256.txt";
  private static final String MARK = "bagit.txt";
  private static final int MOST_ENTRIES = 200_000;
  private static final int MOST_MANIFEST = 40 << 20;
  private final ZipFile zip;
  private final String folder;

  /** By path the digest that its bytes must have. */
  private final Map<String, String> listed = new LinkedHashMap<>();

  /** What reads one file of the bag. */
  interface Body {
    void read(InputStream in) throws IOException;
  }

  /**
   * @throws ShedException where it is no such archive, or lacks something that its list names
   */
  BagReader(Path file) {
    try {
      zip = ZipFile.builder().setPath(file).get();
    } catch (IOException e) {
      throw new ShedException(
          "This is no zip, or its end is missing: " + e.getMessage() + ". Bring it in again.", e);
    }
    try {
      folder = folder();
      list(new String(bytes(MANIFEST, MOST_MANIFEST), StandardCharsets.UTF_8));
    } catch (IOException | RuntimeException e) {
      close();
      if (e instanceof ShedException s) throw s;
      throw damaged(MANIFEST, e);
    }
  }

  private String folder() {
    int entries = 0;
    String found = null;
    for (var all = zip.getEntries(); all.hasMoreElements(); ) {
      String name = all.nextElement().getName();
      if (++entries > MOST_ENTRIES) {
        throw new ShedException("This archive holds more files than any job; it is left alone.");
      }
      if (name.equals(MARK)
          || (name.endsWith("/" + MARK)
              && name.indexOf('/') == name.length() - MARK.length() - 1)) {
        found = name.substring(0, name.length() - MARK.length());
      }
    }
    if (found == null) {
      throw new ShedException(
          "This zip is not the archive of a job: it has no "
              + MARK
              + ". Choose one that a shed wrote.");
    }
    return found;
  }

  private void list(String manifest) {
    for (String line : manifest.split("\r?\n")) {
      if (line.isBlank()) continue;
      String[] parts = line.strip().split("\\s+\\*?", 2);
      if (parts.length < 2
          || !parts[0].matches("[0-9a-fA-F]{64}")
          || !parts[1].startsWith("data/")) {
        throw new ShedException(
            "The list of digests of this archive has a line that is none; it is damaged.");
      }
      String path = parts[1].substring("data/".length());
      if (zip.getEntry(folder + parts[1]) == null) {
        throw new ShedException(
            path + " is named in the list of this archive and is not in it; it is not whole.");
      }
      listed.put(path, parts[0].toLowerCase(Locale.ROOT));
    }
  }

  /** Paths of all that it holds. */
  Set<String> paths() {
    return listed.keySet();
  }

  /**
   * Reads one file and holds it against its digest; whoever reads believes nothing before this
   * returns.
   *
   * @param most bytes that it may unpack to
   */
  void read(String path, long most, Body body) {
    String digest = listed.get(path);
    if (digest == null) throw new ShedException(path + " is not in this archive.");
    try (InputStream raw = new Bounded(stream("data/" + path), path, most);
        DigestInputStream in = new DigestInputStream(raw, Sha256.fresh())) {
      body.read(in);
      in.transferTo(OutputStream.nullOutputStream());
      if (HexFormat.of().formatHex(in.getMessageDigest().digest()).equals(digest)) return;
    } catch (IOException e) {
      throw damaged(path, e);
    }
    throw damaged(path, null);
  }

  /** A short file. */
  String text(String path, int most) {
    byte[][] out = new byte[1][];
    read(path, most, in -> out[0] = in.readAllBytes());
    return new String(out[0], StandardCharsets.UTF_8);
  }

  /** Ends what unpacks to more than it may: a few bytes of a zip can say a great many. */
  private static final class Bounded extends FilterInputStream {
    private final String path;
    private final long most;
    private long read;

    Bounded(InputStream in, String path, long most) {
      super(in);
      this.path = path;
      this.most = most;
    }

    @Override
    public int read() throws IOException {
      byte[] one = new byte[1];
      return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
    }

    @Override
    public int read(byte[] b, int at, int length) throws IOException {
      int n = super.read(b, at, length);
      read += Math.max(0, n);
      if (read > most) {
        throw new ShedException(
            path + " of this archive unpacks to more than " + Say.size(most) + "; it is refused.");
      }
      return n;
    }
  }

  private InputStream stream(String path) throws IOException {
    ZipArchiveEntry e = zip.getEntry(folder + path);
    if (e == null) throw new ShedException(path + " is not in this archive; it is not whole.");
    return zip.getInputStream(e);
  }

  private byte[] bytes(String path, int most) throws IOException {
    try (InputStream in = new Bounded(stream(path), path, most)) {
      return in.readAllBytes();
    }
  }

  private static ShedException damaged(String path, Exception why) {
    return new ShedException(
        path
            + " of this archive is not what its digest says: it is damaged. Fetch the archive"
            + " again.",
        why);
  }

  @Override
  public void close() {
    try {
      zip.close();
    } catch (IOException e) {
      throw new ShedException("The archive cannot be closed: " + e.getMessage() + ".", e);
    }
  }
}
