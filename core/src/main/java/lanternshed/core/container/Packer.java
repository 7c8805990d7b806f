package lanternshed.core.container;

import java.io.IOException;
import java.io.OutputStream;
import java.util.Optional;
import lanternshed.core.medium.Medium;

/** A form that is written too: a whole medium, a block at a time. */
public interface Packer extends Container {

  /**
   * What goes out.
   *
   * @param bytes of the medium that count; a small disk may end within the last sector
   * @param name of the file inside an archive, without its ending
   * @param identity sixteen bytes that name the image, where the form has room for them
   */
  record Parcel(Medium medium, long bytes, String name, byte[] identity) {

    /** The bytes that count, as they are. */
    public void copy(OutputStream to) throws IOException {
      byte[] b = new byte[2048 * 512];
      for (long s = 0; s < medium.sectors(); s += 2048) {
        int n = (int) Math.min(2048, medium.sectors() - s);
        medium.read(s, n, b, 0);
        to.write(b, 0, (int) Math.min(n * 512L, bytes - s * 512));
      }
    }
  }

  @Override
  default Optional<Packer> packer() {
    return Optional.of(this);
  }

  /** What follows the name of such a file, "img.gz". */
  String extension();

  /**
   * Writes it; the stream stays open.
   *
   * @throws lanternshed.core.measure.ShedException where the form has no room for it
   */
  void pack(Parcel parcel, OutputStream to) throws IOException;
}
