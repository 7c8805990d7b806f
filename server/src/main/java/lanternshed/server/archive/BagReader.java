package lanternshed.server.archive;

import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
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
import lanternshed.core.work.Progress;
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

  /** Whoever has stopped the work is heard after so many bytes. */
  private static final long HEARD = 4 << 20;

  private final ZipFile zip;
  private final long length;
  private final Progress progress;
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
  BagReader(Path file, Progress progress) {
    this.progress = progress;
    try {
      length = Files.size(file);
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
    long packed = 0;
    String found = null;
    for (var all = zip.getEntries(); all.hasMoreElements(); ) {
      ZipArchiveEntry e = all.nextElement();
      String name = e.getName();
      packed += Math.max(0, e.getCompressedSize());
      // What lies in the file once cannot be the content of many entries.
      if (packed > length) {
        throw new ShedException(
            "Entries of this archive lie upon each other: they come to more than the file has. It is"
                + " damaged, or made to unpack without end; it is left alone.");
      }
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
      if (listed.put(path, parts[0].toLowerCase(Locale.ROOT)) != null) {
        throw new ShedException(
            path + " is named twice in the list of this archive; it is damaged.");
      }
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
    try (InputStream raw = new Bounded(stream("data/" + path), path, most, progress);
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
    private final Progress progress;
    private long read;
    private long told = HEARD;

    Bounded(InputStream in, String path, long most, Progress progress) {
      super(in);
      this.path = path;
      this.most = most;
      this.progress = progress;
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
      if (read >= told) {
        progress.at("looking at " + path, read, 0);
        told = read + HEARD;
      }
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
    try (InputStream in = new Bounded(stream(path), path, most, progress)) {
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
