package lanternshed.core.container.xz;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import lanternshed.core.container.Compressed;
import org.tukaani.xz.LZMA2Options;
import org.tukaani.xz.XZInputStream;
import org.tukaani.xz.XZOutputStream;

/** The .xz file format 1.1. */
public final class Xz extends Compressed {
  /** The fastest: an image is mostly zeros or already as dense as it gets. */
  private static final int PRESET = 1;

  public Xz() {
    super("xz", "FD377A585A00");
  }

  @Override
  protected InputStream unpacking(InputStream packed) throws IOException {
    return new XZInputStream(packed, MOST_KIB);
  }

  @Override
  protected OutputStream packing(OutputStream to) throws IOException {
    return new XZOutputStream(to, new LZMA2Options(PRESET));
  }
}
