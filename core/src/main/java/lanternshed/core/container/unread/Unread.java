package lanternshed.core.container.unread;

import java.io.InputStream;
import lanternshed.core.container.Container;
import lanternshed.core.container.Marks;
import lanternshed.core.measure.ShedException;

/**
 * A form that is known by its mark and not read.
 *
 * @param mark its first bytes, "377ABCAF271C"
 * @param what a person calls such a file, "7z archive"
 */
public record Unread(String key, String mark, String what) implements Container {
  @Override
  public boolean begins(byte[] head) {
    return Marks.begins(head, mark);
  }

  @Override
  public Content open(InputStream file) {
    throw new ShedException(
        "This is a "
            + what
            + ", which is not read here. Convert it to a raw image, or pack the raw image as gz, xz or"
            + " zip, and bring that in.");
  }
}
