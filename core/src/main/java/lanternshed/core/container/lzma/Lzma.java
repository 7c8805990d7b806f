package lanternshed.core.container.lzma;

import java.io.IOException;
import java.io.InputStream;
import lanternshed.core.container.Container;
import lanternshed.core.measure.Bytes;
import org.tukaani.xz.LZMAInputStream;

/**
 * The older form of xz. It has no mark, only properties, a dictionary of a power of two and a
 * length that is unknown or sensible. Read only: xz is the better one to send.
 */
public final class Lzma implements Container {
  private static final int HEADER = 13;
  private static final int PROPERTIES = 0x5D;

  @Override
  public String key() {
    return "lzma";
  }

  @Override
  public boolean begins(byte[] head) {
    if (head.length < HEADER || head[0] != PROPERTIES) return false;
    long dictionary = Bytes.u32(head, 1);
    long length = Bytes.u64(head, 5);
    return Long.bitCount(dictionary) == 1
        && dictionary >= 1 << 12
        && dictionary <= 1 << 28
        && (length == -1 || length > 0 && length < 1L << 42);
  }

  @Override
  public Content open(InputStream file) throws IOException {
    InputStream in = new LZMAInputStream(file, MOST_KIB);
    return () -> in;
  }
}
