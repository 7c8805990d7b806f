package lanternshed.core.container.xz;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.util.Optional;
import lanternshed.core.container.Container;
import lanternshed.core.container.Marks;
import lanternshed.core.container.Packer;
import org.tukaani.xz.LZMA2Options;
import org.tukaani.xz.XZInputStream;
import org.tukaani.xz.XZOutputStream;

/** The .xz file format 1.1. */
public final class Xz implements Container, Packer {
  /** It may ask for this much to unpack; more is refused. */
  private static final int MOST_KIB = 128 << 10;

  @Override
  public String key() {
    return "xz";
  }

  @Override
  public boolean begins(byte[] head) {
    return Marks.begins(head, "FD377A585A00");
  }

  @Override
  public Content open(InputStream file) throws IOException {
    InputStream in = new XZInputStream(file, MOST_KIB);
    return () -> in;
  }

  @Override
  public Optional<Packer> packer() {
    return Optional.of(this);
  }

  @Override
  public String extension() {
    return "img.xz";
  }

  @Override
  public void pack(Parcel parcel, OutputStream to) throws IOException {
    XZOutputStream out = new XZOutputStream(to, new LZMA2Options(1));
    parcel.copy(out);
    out.finish();
  }
}
