package lanternshed.server.archive;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.security.DigestOutputStream;
import java.security.MessageDigest;
import java.util.HexFormat;
import lanternshed.core.measure.Sha256;
import org.apache.commons.compress.archivers.zip.Zip64Mode;
import org.apache.commons.compress.archivers.zip.ZipArchiveEntry;
import org.apache.commons.compress.archivers.zip.ZipArchiveOutputStream;

/**
 * Writes a bag (RFC 8493) as a zip while it streams: what it holds, and a list of digests that
 * general tools check, without knowing anything of this program.
 */
final class BagWriter implements AutoCloseable {
  private final ZipArchiveOutputStream zip;
  private final String folder;
  private final StringBuilder manifest = new StringBuilder();

  /** What writes one file of the bag, and does not close what it writes to. */
  interface Body {
    void write(OutputStream out) throws IOException;
  }

  /**
   * @param folder the one in which everything lies, "job-12"
   */
  BagWriter(OutputStream to, String folder) {
    this.zip = new ZipArchiveOutputStream(to);
    this.zip.setUseZip64(Zip64Mode.AsNeeded);
    this.folder = folder + "/";
  }

  /**
   * @param path below data/
   * @param bytes how many it has, so that a long one is written as readers of long ones expect
   */
  void put(String path, long bytes, Body body) throws IOException {
    MessageDigest digest = Sha256.fresh();
    String whole = "data/" + path;
    entry(whole, bytes, out -> body.write(new DigestOutputStream(out, digest)));
    manifest
        .append(HexFormat.of().formatHex(digest.digest()))
        .append("  ")
        .append(whole)
        .append('\n');
  }

  void put(String path, String text) throws IOException {
    byte[] b = text.getBytes(StandardCharsets.UTF_8);
    put(path, b.length, out -> out.write(b));
  }

  private void entry(String path, long bytes, Body body) throws IOException {
    ZipArchiveEntry entry = new ZipArchiveEntry(folder + path);
    entry.setSize(bytes);
    zip.putArchiveEntry(entry);
    body.write(zip);
    zip.closeArchiveEntry();
  }

  private void tag(String path, String text) throws IOException {
    byte[] b = text.getBytes(StandardCharsets.UTF_8);
    entry(path, b.length, out -> out.write(b));
  }

  @Override
  public void close() throws IOException {
    tag("bagit.txt", "BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n");
    tag(BagReader.MANIFEST, manifest.toString());
    zip.close();
  }
}
