package lanternshed.core.container;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import org.apache.commons.io.output.CloseShieldOutputStream;

/** What the forms that squeeze one stream into another have in common. */
public abstract class Compressed implements Packer {
  private final String key;
  private final String mark;

  /**
   * @param key short name, which is its extension too
   * @param mark its first bytes, "1F8B"
   */
  protected Compressed(String key, String mark) {
    this.key = key;
    this.mark = mark;
  }

  /** The unpacker of a library, bounded in memory. */
  protected abstract InputStream unpacking(InputStream packed) throws IOException;

  /** The packer of a library, whose close ends the form. */
  protected abstract OutputStream packing(OutputStream to) throws IOException;

  @Override
  public final String key() {
    return key;
  }

  @Override
  public final String extension() {
    return "img." + key;
  }

  @Override
  public final boolean begins(byte[] head) {
    return Marks.begins(head, mark);
  }

  @Override
  public final Content open(InputStream file) throws IOException {
    InputStream in = unpacking(file);
    return () -> in;
  }

  /** Where a sector does not read the form is left without its end: it must not look whole. */
  @Override
  public final void pack(Parcel parcel, OutputStream to) throws IOException {
    OutputStream out = packing(CloseShieldOutputStream.wrap(to));
    parcel.copy(out);
    out.close();
  }
}
