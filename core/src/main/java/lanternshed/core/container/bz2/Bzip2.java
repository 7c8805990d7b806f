package lanternshed.core.container.bz2;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.util.Optional;
import lanternshed.core.container.Container;
import lanternshed.core.container.Marks;
import lanternshed.core.container.Packer;
import org.apache.commons.compress.compressors.bzip2.BZip2CompressorInputStream;
import org.apache.commons.compress.compressors.bzip2.BZip2CompressorOutputStream;

/** bzip2, in blocks of 900 kB. */
public final class Bzip2 implements Container, Packer {
  @Override
  public String key() {
    return "bz2";
  }

  @Override
  public boolean begins(byte[] head) {
    return Marks.begins(head, "425A68");
  }

  @Override
  public Content open(InputStream file) throws IOException {
    InputStream in = new BZip2CompressorInputStream(file);
    return () -> in;
  }

  @Override
  public Optional<Packer> packer() {
    return Optional.of(this);
  }

  @Override
  public String extension() {
    return "img.bz2";
  }

  @Override
  public void pack(Parcel parcel, OutputStream to) throws IOException {
    BZip2CompressorOutputStream out = new BZip2CompressorOutputStream(to);
    parcel.copy(out);
    out.finish();
  }
}
