package lanternshed.core.container.zip;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.util.zip.CRC32;
import java.util.zip.CheckedInputStream;
import java.util.zip.ZipException;
import lanternshed.core.container.Marks;
import lanternshed.core.container.Packer;
import lanternshed.core.measure.ShedException;
import org.apache.commons.compress.archivers.zip.ZipArchiveEntry;
import org.apache.commons.compress.archivers.zip.ZipArchiveInputStream;
import org.apache.commons.compress.archivers.zip.ZipArchiveOutputStream;

/** A zip with one file in it. */
public final class Zip implements Packer {
  /** 1980: the first time a zip can say; the same image packed twice is the same file. */
  private static final long FIRST_TIME = 315_532_800_000L;

  private static final int LONGEST_NAME = 60;

  @Override
  public String key() {
    return "zip";
  }

  @Override
  public boolean begins(byte[] head) {
    return Marks.begins(head, "504B0304");
  }

  @Override
  public Content open(InputStream file) throws IOException {
    ZipArchiveInputStream zip = new ZipArchiveInputStream(file);
    ZipArchiveEntry first = next(zip);
    if (first == null) throw new ShedException("This zip holds no file.");
    if (!zip.canReadEntryData(first)) {
      throw new ShedException(
          "The file in this zip is packed or locked in a way that is not read; pack it plainly.");
    }
    return new First(zip, first);
  }

  /** A zip does not look at its own sums while it streams. */
  private static final class First implements Content {
    private final CRC32 crc = new CRC32();
    private final ZipArchiveInputStream zip;
    private final ZipArchiveEntry entry;
    private final InputStream stream;

    First(ZipArchiveInputStream zip, ZipArchiveEntry entry) {
      this.zip = zip;
      this.entry = entry;
      this.stream = new CheckedInputStream(zip, crc);
    }

    @Override
    public InputStream stream() {
      return stream;
    }

    @Override
    public void end() throws IOException {
      ZipArchiveEntry second = next(zip);
      // Where the sum stands behind the content it is known only now.
      if (entry.getCrc() != crc.getValue()) throw new ZipException("CRC");
      if (second == null) return;
      throw new ShedException(
          "This zip holds more than one file, \""
              + safe(second.getName())
              + "\" among them; bring in a zip with one image, or the image itself.");
    }
  }

  private static ZipArchiveEntry next(ZipArchiveInputStream zip) throws IOException {
    ZipArchiveEntry e = zip.getNextEntry();
    while (e != null && e.isDirectory()) e = zip.getNextEntry();
    return e;
  }

  private static String safe(String name) {
    String s = name.replaceAll("\\p{Cntrl}", "");
    return s.length() > LONGEST_NAME ? s.substring(0, LONGEST_NAME) : s;
  }

  @Override
  public String extension() {
    return "zip";
  }

  @Override
  public void pack(Parcel parcel, OutputStream to) throws IOException {
    ZipArchiveOutputStream out = new ZipArchiveOutputStream(to);
    ZipArchiveEntry e = new ZipArchiveEntry(parcel.name() + ".img");
    e.setTime(FIRST_TIME);
    e.setSize(parcel.bytes());
    out.putArchiveEntry(e);
    parcel.copy(out);
    out.closeArchiveEntry();
    out.finish();
  }
}
