package lanternshed.core.table.rdb;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.Optional;
import lanternshed.core.measure.Bytes;
import lanternshed.core.table.TableDrivers;

/**
 * Drivers in FSHD and LSEG blocks: a head that says for which volumes and in which way it is
 * mounted, then the loadable file in pieces of 492 bytes. Source: the published layout of the
 * table's blocks.
 */
final class RdbDrivers implements TableDrivers {
  private static final int BLOCK = 512;
  private static final int VERSION = 36;
  private static final int PATCHED = 40;
  private static final int GLOBALS = 76;

  /** The name under which it was brought, which newer tools keep there; zero at its end. */
  private static final int NAME = 172;

  private static final int MOST_NAME = 83;

  /** What the head changes of a plain mount: the loaded file, and that it needs no globals. */
  private static final int FILE_AND_GLOBALS = 0x180;

  private static final int HEAD_LONGS = 64;
  private static final int LOADED = 20;
  private static final int PIECE = BLOCK - LOADED;

  @Override
  public String version(String name, byte[] file) {
    return HunkFile.version(name, file);
  }

  @Override
  public byte[] with(byte[] kept, String type, String name, byte[] file) {
    String version = version(name, file);
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    for (int at = 0; at < kept.length; ) {
      int end = end(kept, at);
      if (serves(kept, at) != RdbWriter.dosType(type)) out.write(kept, at, end - at);
      at = end;
    }
    out.writeBytes(head(type, name, version));
    for (int at = 0; at < file.length; at += PIECE) {
      byte[] b = new byte[BLOCK];
      int n = Math.min(PIECE, file.length - at);
      RdbWriter.head(b, Rdb.LSEG);
      Bytes.putBe32(b, Rdb.SUMMED_LONGS, (LOADED + n + 3) / 4);
      System.arraycopy(file, at, b, LOADED, n);
      out.writeBytes(b);
    }
    return out.toByteArray();
  }

  private static byte[] head(String type, String name, String version) {
    byte[] b = new byte[BLOCK];
    RdbWriter.head(b, Rdb.FSHD);
    Bytes.putBe32(b, Rdb.SUMMED_LONGS, HEAD_LONGS);
    Bytes.putBe32(b, Rdb.FILESYSTEM_TYPE, RdbWriter.dosType(type));
    if (!version.isEmpty()) {
      String[] n = version.split("\\.");
      Bytes.putBe32(b, VERSION, Long.parseLong(n[0]) << 16 | Long.parseLong(n[1]));
    }
    Bytes.putBe32(b, PATCHED, FILE_AND_GLOBALS);
    Bytes.putBe32(b, GLOBALS, Rdb.END);
    byte[] latin = name.getBytes(StandardCharsets.ISO_8859_1);
    System.arraycopy(latin, 0, b, NAME, Math.min(MOST_NAME, latin.length));
    return b;
  }

  @Override
  public Optional<byte[]> file(byte[] kept, String type) {
    for (int at = 0; at < kept.length; ) {
      int end = end(kept, at);
      if (serves(kept, at) == RdbWriter.dosType(type)) return Optional.of(loaded(kept, at, end));
      at = end;
    }
    return Optional.empty();
  }

  private static byte[] loaded(byte[] kept, int head, int end) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    for (int at = head + BLOCK; at < end; at += BLOCK) {
      long longs = Bytes.be32(kept, at + Rdb.SUMMED_LONGS);
      int n = (int) Math.max(0, Math.min(PIECE, 4 * longs - LOADED));
      out.write(kept, at + LOADED, n);
    }
    return out.toByteArray();
  }

  private static long serves(byte[] kept, int at) {
    return Bytes.be32(kept, at + Rdb.FILESYSTEM_TYPE);
  }

  /** Where the driver that begins here ends: at the next head. */
  private static int end(byte[] kept, int head) {
    int at = head + BLOCK;
    while (at < kept.length && Bytes.be32(kept, at) != Rdb.FSHD) at += BLOCK;
    return Math.min(at, kept.length);
  }
}
