package lanternshed.core.container.gz;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.util.Optional;
import java.util.zip.GZIPOutputStream;
import lanternshed.core.container.Container;
import lanternshed.core.container.Marks;
import lanternshed.core.container.Packer;
import org.apache.commons.compress.compressors.gzip.GzipCompressorInputStream;

/** One or more gzip members behind each other (RFC 1952). */
public final class Gzip implements Container, Packer {
  @Override
  public String key() {
    return "gz";
  }

  @Override
  public boolean begins(byte[] head) {
    return Marks.begins(head, "1F8B");
  }

  @Override
  public Content open(InputStream file) throws IOException {
    InputStream in =
        GzipCompressorInputStream.builder()
            .setInputStream(file)
            .setDecompressConcatenated(true)
            .get();
    return () -> in;
  }

  @Override
  public Optional<Packer> packer() {
    return Optional.of(this);
  }

  @Override
  public String extension() {
    return "img.gz";
  }

  @Override
  public void pack(Parcel parcel, OutputStream to) throws IOException {
    GZIPOutputStream out = new GZIPOutputStream(to, 1 << 16);
    parcel.copy(out);
    out.finish();
  }
}
