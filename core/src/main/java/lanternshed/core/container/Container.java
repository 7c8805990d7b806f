package lanternshed.core.container;

import java.io.BufferedInputStream;
import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.util.Arrays;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.zip.CRC32;
import java.util.zip.CheckedInputStream;
import java.util.zip.GZIPOutputStream;
import java.util.zip.ZipException;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import org.apache.commons.compress.archivers.zip.ZipArchiveEntry;
import org.apache.commons.compress.archivers.zip.ZipArchiveInputStream;
import org.apache.commons.compress.archivers.zip.ZipArchiveOutputStream;
import org.apache.commons.compress.compressors.bzip2.BZip2CompressorInputStream;
import org.apache.commons.compress.compressors.bzip2.BZip2CompressorOutputStream;
import org.apache.commons.compress.compressors.gzip.GzipCompressorInputStream;
import org.tukaani.xz.LZMA2Options;
import org.tukaani.xz.LZMAInputStream;
import org.tukaani.xz.XZInputStream;
import org.tukaani.xz.XZOutputStream;

/**
 * The forms in which an image comes and goes. All are streamed; nothing is held in memory beyond a
 * block.
 */
public enum Container {
  RAW("img", ""),
  GZ("img.gz", "1F8B"),
  ZIP("zip", "504B0304"),
  XZ("img.xz", "FD377A585A00"),
  BZ2("img.bz2", "425A68"),
  LZMA("img.lzma", ""),
  VHD("vhd", ""),
  /** Sixteen bytes before a small disk's sectors: mark, length in paragraphs, sector size. */
  ATR("atr", "9602");

  /** So many first bytes tell what a file is. */
  private static final int HEAD = 72;

  private static final int ATR_HEAD = 16;

  /** A small disk of 720 sectors of 128 bytes; one that is longer has sectors of 256. */
  private static final int ATR_SHORT = 720 * 128;

  private static final Map<String, String> OTHERS =
      Map.of(
          "23204469736B204465736372697074", "VMDK description file",
          "377ABCAF271C", "7z archive",
          "526172211A07", "RAR archive",
          "28B52FFD", "zstd file");

  /** xz may ask for this much to unpack; more is refused. */
  private static final int XZ_KIB = 128 << 10;

  /** An image may be packed and packed again, as when a packed one is sent in a zip. */
  private static final int MOST_LAYERS = 2;

  /** What a layer inside another may take packed: more is no image that somebody packed twice. */
  private static final long MOST_INNER_BYTES = 64L << 30;

  private final String extension;
  private final String magic;

  Container(String extension, String magic) {
    this.extension = extension;
    this.magic = magic;
  }

  public String extension() {
    return extension;
  }

  /** The form of that name, "gz". */
  public static Container of(String name) {
    for (Container c : values()) {
      if (c != LZMA && c.name().toLowerCase(Locale.ROOT).equals(name)) return c;
    }
    throw new ShedException(
        "An image is handed out raw, or as gz, bz2, zip, xz, vhd or atr; not as \"" + name + "\".");
  }

  /** An image as it streams out of its container. */
  public static final class Opened implements AutoCloseable {
    private final Container kind;
    private final InputStream in;
    private final Source source;
    private final InputStream unpacked;

    /** Of a zip, which does not look at its own sums while it streams; else null. */
    private final ZipArchiveEntry entry;

    private final CRC32 crc = new CRC32();

    /** The packed file inside, where it is packed twice; else null. */
    private Opened inner;

    private Opened(Container kind, InputStream in, Source source, ZipArchiveEntry entry) {
      this.kind = kind;
      this.in = in;
      this.source = source;
      this.entry = entry;
      InputStream guarded = kind == RAW ? in : new Guarded(in, source);
      this.unpacked = entry == null ? guarded : new CheckedInputStream(guarded, crc);
    }

    public Container kind() {
      return kind;
    }

    public InputStream stream() {
      return inner == null ? unpacked : inner.stream();
    }

    /**
     * Called when all of the stream was read: its sum must be right and nothing may follow.
     *
     * @throws ShedException when it is damaged or a second image is in it
     */
    public void end() throws IOException {
      if (inner != null) {
        inner.end();
        // What the unpacker inside did not need belongs to the sum of this one all the same.
        unpacked.transferTo(OutputStream.nullOutputStream());
      }
      if (!(in instanceof ZipArchiveInputStream zip)) return;
      ZipArchiveEntry second = guarded(source, () -> next(zip));
      // Where the sum stands behind the content it is known only now.
      if (entry.getCrc() != crc.getValue()) throw damaged(new ZipException("CRC"));
      if (second != null) {
        throw new ShedException(
            "This zip holds more than one file, \""
                + safe(second.getName())
                + "\" among them; bring in a zip with one image, or the image itself.");
      }
    }

    @Override
    public void close() throws IOException {
      in.close();
    }
  }

  /** A stream that is looked at by blocks only. */
  private abstract static class ByBlocks extends FilterInputStream {
    ByBlocks(InputStream in) {
      super(in);
    }

    @Override
    public final int read() throws IOException {
      byte[] one = new byte[1];
      return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
    }
  }

  /** Where the packed bytes come from; remembers whether it was the one that failed. */
  private static final class Source extends ByBlocks {
    private boolean failed;

    Source(InputStream in) {
      super(in);
    }

    @Override
    public int read(byte[] b, int at, int length) throws IOException {
      try {
        return super.read(b, at, length);
      } catch (IOException e) {
        failed = true;
        throw e;
      }
    }
  }

  /** Something that an unpacker does. */
  private interface Unpacking<T> {
    T run() throws IOException;
  }

  /** What an unpacker throws at damaged content becomes one sentence, whatever it is. */
  private static <T> T guarded(Source source, Unpacking<T> unpacking) throws IOException {
    try {
      return unpacking.run();
    } catch (ShedException e) {
      throw e;
    } catch (IOException e) {
      if (source.failed) throw e;
      throw damaged(e);
    } catch (RuntimeException | LinkageError e) {
      throw damaged(e);
    }
  }

  private static ShedException damaged(Throwable e) {
    return new ShedException(
        "What is packed in this file is damaged, cut off, or packed in a way that is not read. Look"
            + " whether the file is whole, or pack the image anew, and bring it in again.",
        e);
  }

  /** An unpacker's stream. */
  private static final class Guarded extends ByBlocks {
    private final Source source;

    Guarded(InputStream in, Source source) {
      super(in);
      this.source = source;
    }

    @Override
    public int read(byte[] b, int at, int length) throws IOException {
      return guarded(source, () -> in.read(b, at, length));
    }
  }

  /**
   * Looks at the first bytes and opens what they say. A VHD looks like a raw image here; {@link
   * Vhd#footer} tells by its end.
   */
  public static Opened open(InputStream raw) throws IOException {
    return open(raw, MOST_LAYERS);
  }

  private static Opened open(InputStream raw, int layers) throws IOException {
    Source source = new Source(raw);
    BufferedInputStream in = new BufferedInputStream(source, 1 << 16);
    byte[] head = head(in);
    Opened opened = guarded(source, () -> unpacked(head, in, source));
    if (opened.kind == RAW || layers == 1) return opened;
    BufferedInputStream again = new BufferedInputStream(new Bounded(opened.unpacked), 1 << 16);
    byte[] inside = head(again);
    opened.inner = open(again, layers - 1, inside);
    return opened;
  }

  /** What is inside: as it is, or opened once more. */
  private static Opened open(InputStream in, int layers, byte[] head) throws IOException {
    if (isPacked(head)) return open(in, layers);
    Source source = new Source(in);
    return guarded(source, () -> unpacked(head, in, source));
  }

  private static byte[] head(BufferedInputStream in) throws IOException {
    in.mark(HEAD);
    byte[] head = in.readNBytes(HEAD);
    in.reset();
    return head;
  }

  private static boolean isPacked(byte[] head) {
    return GZ.begins(head)
        || XZ.begins(head)
        || ZIP.begins(head)
        || BZ2.begins(head)
        || isLzma(head);
  }

  /**
   * The head of an lzma file: it has no mark, only properties, a dictionary of a power of two and a
   * length that is unknown or sensible.
   */
  private static boolean isLzma(byte[] head) {
    if (head.length < 13 || head[0] != 0x5D) return false;
    long dictionary = Bytes.u32(head, 1);
    long length = Bytes.u64(head, 5);
    return Long.bitCount(dictionary) == 1
        && dictionary >= 1 << 12
        && dictionary <= 1 << 28
        && (length == -1 || length > 0 && length < 1L << 42);
  }

  /** Its mark alone is short: length and sector size must be those of a small disk too. */
  private static boolean isAtr(byte[] head) {
    if (head.length < ATR_HEAD || !ATR.begins(head)) return false;
    long bytes = (Bytes.u16(head, 2) | (head[6] & 0xFFL) << 16) * 16;
    int sector = Bytes.u16(head, 4);
    return bytes > 0 && bytes % 128 == 0 && (sector == 128 || sector == 256);
  }

  /** A layer inside another, which may not take for ever to give nothing. */
  private static final class Bounded extends ByBlocks {
    private long left = MOST_INNER_BYTES;

    Bounded(InputStream in) {
      super(in);
    }

    @Override
    public int read(byte[] b, int at, int length) throws IOException {
      int n = in.read(b, at, length);
      left -= Math.max(0, n);
      if (left < 0) {
        throw new ShedException(
            "What is packed inside this file is itself packed and larger than 64 GiB; unpack the"
                + " outer one and bring in what is in it.");
      }
      return n;
    }
  }

  private static Opened unpacked(byte[] head, InputStream in, Source source) throws IOException {
    if (GZ.begins(head))
      return new Opened(
          GZ,
          GzipCompressorInputStream.builder()
              .setInputStream(in)
              .setDecompressConcatenated(true)
              .get(),
          source,
          null);
    if (XZ.begins(head)) return new Opened(XZ, new XZInputStream(in, XZ_KIB), source, null);
    if (BZ2.begins(head)) return new Opened(BZ2, new BZip2CompressorInputStream(in), source, null);
    if (isLzma(head)) return new Opened(LZMA, new LZMAInputStream(in, XZ_KIB), source, null);
    if (isAtr(head)) {
      in.skipNBytes(ATR_HEAD);
      return new Opened(ATR, in, source, null);
    }
    String other = otherContainer(head);
    if (!other.isEmpty()) {
      throw new ShedException(
          "This is a "
              + other
              + ", which is not read here. Convert it to a raw image, or pack the raw image as gz, xz or"
              + " zip, and bring that in.");
    }
    if (!ZIP.begins(head)) return new Opened(RAW, in, source, null);
    ZipArchiveInputStream zip = new ZipArchiveInputStream(in);
    ZipArchiveEntry first = next(zip);
    if (first == null) throw new ShedException("This zip holds no file.");
    if (!zip.canReadEntryData(first)) {
      throw new ShedException(
          "The file in this zip is packed or locked in a way that is not read; pack it plainly.");
    }
    return new Opened(ZIP, zip, source, first);
  }

  private static ZipArchiveEntry next(ZipArchiveInputStream zip) throws IOException {
    ZipArchiveEntry e = zip.getNextEntry();
    while (e != null && e.isDirectory()) e = zip.getNextEntry();
    return e;
  }

  private boolean begins(byte[] head) {
    return begins(head, magic);
  }

  private static boolean begins(byte[] head, String magic) {
    byte[] m = java.util.HexFormat.of().parseHex(magic);
    return m.length > 0
        && head.length >= m.length
        && Arrays.equals(head, 0, m.length, m, 0, m.length);
  }

  /**
   * The published name of a container that is known by its first bytes and not read; "" for none.
   */
  private static String otherContainer(byte[] head) {
    for (Map.Entry<String, String> c : OTHERS.entrySet()) {
      if (begins(head, c.getKey())) return c.getValue();
    }
    return "";
  }

  private static String safe(String name) {
    String s = name.replaceAll("\\p{Cntrl}", "");
    return s.length() > 60 ? s.substring(0, 60) : s;
  }

  /**
   * Writes a whole medium in this form.
   *
   * @param bytes of it that count; a small disk may end within the last sector
   * @param name of the file inside a zip
   * @param identity sixteen bytes that name the image, for a VHD
   */
  public void write(Medium from, long bytes, String name, byte[] identity, OutputStream to)
      throws IOException {
    switch (this) {
      case RAW -> copy(from, bytes, to);
      case ATR -> {
        to.write(atrHead(bytes));
        copy(from, bytes, to);
      }
      case GZ -> {
        GZIPOutputStream out = new GZIPOutputStream(to, 1 << 16);
        copy(from, bytes, out);
        out.finish();
      }
      case XZ -> {
        XZOutputStream out = new XZOutputStream(to, new LZMA2Options(1));
        copy(from, bytes, out);
        out.finish();
      }
      case ZIP -> {
        ZipArchiveOutputStream out = new ZipArchiveOutputStream(to);
        ZipArchiveEntry e = new ZipArchiveEntry(name + ".img");
        e.setTime(315_532_800_000L);
        e.setSize(bytes);
        out.putArchiveEntry(e);
        copy(from, bytes, out);
        out.closeArchiveEntry();
        out.finish();
      }
      case BZ2 -> {
        BZip2CompressorOutputStream out = new BZip2CompressorOutputStream(to);
        copy(from, bytes, out);
        out.finish();
      }
      case LZMA -> throw new ShedException("An image is not packed as lzma here; take xz.");
      case VHD -> {
        copy(from, from.bytes(), to);
        to.write(Vhd.footer(from.sectors(), identity));
      }
    }
    to.flush();
  }

  private static byte[] atrHead(long bytes) {
    if (bytes / 16 >= 1 << 24) {
      throw new ShedException("An atr file holds less than 256 MiB; take this image raw.");
    }
    byte[] out = new byte[ATR_HEAD];
    Bytes.put16(out, 0, 0x0296);
    Bytes.put16(out, 2, (int) (bytes / 16));
    out[6] = (byte) (bytes >> 20);
    Bytes.put16(out, 4, bytes <= ATR_SHORT ? 128 : 256);
    return out;
  }

  private static void copy(Medium from, long bytes, OutputStream to) throws IOException {
    byte[] b = new byte[2048 * 512];
    for (long s = 0; s < from.sectors(); s += 2048) {
      int n = (int) Math.min(2048, from.sectors() - s);
      from.read(s, n, b, 0);
      to.write(b, 0, (int) Math.min(n * 512L, bytes - s * 512));
    }
  }

  /** Whether the last bytes begin as a VHD's footer does, right or not. */
  public static boolean looksLikeFooter(byte[] last) {
    return Vhd.begins(last);
  }

  /**
   * What a raw stream of that end is: a VHD's footer is no part of the image.
   *
   * @param lastSector the last 512 bytes, or 511 where so many follow the last whole sector
   */
  public static Optional<Long> sectorsBeforeFooter(byte[] lastSector, long bytes) {
    return Vhd.sectors(lastSector, bytes);
  }
}
