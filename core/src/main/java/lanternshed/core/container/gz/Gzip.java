package lanternshed.core.container.gz;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.util.zip.GZIPOutputStream;
import lanternshed.core.container.Compressed;
import org.apache.commons.compress.compressors.gzip.GzipCompressorInputStream;

/** One or more gzip members behind each other (RFC 1952). */
public final class Gzip extends Compressed {
  private static final int BUFFER = 1 << 16;

  public Gzip() {
    super("gz", "1F8B");
  }

  @Override
  protected InputStream unpacking(InputStream packed) throws IOException {
    return GzipCompressorInputStream.builder()
        .setInputStream(packed)
        .setDecompressConcatenated(true)
        .get();
  }

  @Override
  protected OutputStream packing(OutputStream to) throws IOException {
    return new GZIPOutputStream(to, BUFFER);
  }
}
