package lanternshed.core.container.atr;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import lanternshed.core.container.Marks;
import lanternshed.core.container.Packer;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.ShedException;

/** Sixteen bytes before a small disk's sectors: mark, length in paragraphs, sector size. */
public final class Atr implements Packer {
  private static final int HEADER = 16;
  private static final int PARAGRAPH = 16;

  /** A small disk of 720 sectors of 128 bytes; one that is longer has sectors of 256. */
  private static final int SHORT = 720 * 128;

  @Override
  public String key() {
    return "atr";
  }

  /** Its mark alone is short: length and sector size must be those of a small disk too. */
  @Override
  public boolean begins(byte[] head) {
    if (head.length < HEADER || !Marks.begins(head, "9602")) return false;
    long bytes = (Bytes.u16(head, 2) | (head[6] & 0xFFL) << 16) * PARAGRAPH;
    int sector = Bytes.u16(head, 4);
    return bytes > 0 && bytes % 128 == 0 && (sector == 128 || sector == 256);
  }

  @Override
  public boolean packed() {
    return false;
  }

  @Override
  public Content open(InputStream file) throws IOException {
    file.skipNBytes(HEADER);
    return () -> file;
  }

  @Override
  public String extension() {
    return "atr";
  }

  @Override
  public void pack(Parcel parcel, OutputStream to) throws IOException {
    to.write(header(parcel.bytes()));
    parcel.copy(to);
  }

  private static byte[] header(long bytes) {
    if (bytes / PARAGRAPH >= 1 << 24) {
      throw new ShedException("An atr file holds less than 256 MiB; take this image raw.");
    }
    byte[] out = new byte[HEADER];
    Bytes.put16(out, 0, 0x0296);
    Bytes.put16(out, 2, (int) (bytes / PARAGRAPH));
    out[6] = (byte) (bytes >> 20);
    Bytes.put16(out, 4, bytes <= SHORT ? 128 : 256);
    return out;
  }
}
