package lanternshed.core.container.bz2;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import lanternshed.core.container.Compressed;
import org.apache.commons.compress.compressors.bzip2.BZip2CompressorInputStream;
import org.apache.commons.compress.compressors.bzip2.BZip2CompressorOutputStream;

/** bzip2, in blocks of 900 kB. */
public final class Bzip2 extends Compressed {
  public Bzip2() {
    super("bz2", "425A68");
  }

  @Override
  protected InputStream unpacking(InputStream packed) throws IOException {
    return new BZip2CompressorInputStream(packed);
  }

  @Override
  protected OutputStream packing(OutputStream to) throws IOException {
    return new BZip2CompressorOutputStream(to);
  }
}
