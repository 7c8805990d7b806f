package lanternshed.core.container;

import java.io.IOException;
import java.io.InputStream;
import java.util.Optional;

/**
 * The face of each package of files that an image comes and goes in, unpacked from front to back
 * while it streams. Those whose blocks lie anywhere are {@link DiskImage}s.
 */
public interface Container {
  /** So many first bytes tell what a file is. */
  int HEAD = 72;

  /** An unpacker may ask for so much memory; a file that wants more is refused. */
  int MOST_KIB = 128 << 10;

  /** Short name as a person knows it, "gz". */
  String key();

  /**
   * Whether a file begins as this form does.
   *
   * @param head the first {@link #HEAD} bytes, fewer where the file is shorter
   */
  boolean begins(byte[] head);

  /**
   * Whether another form may be in it: an image is packed and packed again where a packed one is
   * sent.
   */
  default boolean packed() {
    return true;
  }

  /**
   * What is inside.
   *
   * @param file from its first byte on; may throw what it wants at damage, {@link Unpacker} says it
   *     in a sentence
   * @throws lanternshed.core.measure.ShedException where it is known and not read
   */
  Content open(InputStream file) throws IOException;

  /**
   * A file that has all sectors as they are.
   *
   * @param name plain, in the same folder
   */
  record Beside(String name, long sectors) {}

  /**
   * The one file beside this one that has the sectors, where this one only describes them.
   *
   * @param file from its first byte on
   */
  default Optional<Beside> describes(InputStream file) throws IOException {
    return Optional.empty();
  }

  /** Who writes this form; empty where images are only read from it. */
  default Optional<Packer> packer() {
    return Optional.empty();
  }

  /** Whether a file ends as this form does, right or not: some are told by their last bytes. */
  default boolean ends(byte[] tail) {
    return false;
  }

  /**
   * Sectors of the image before an end that is of this form and right.
   *
   * @param tail the last 512 bytes, or 511 where so many follow the last whole sector
   */
  default Optional<Long> sectorsBefore(byte[] tail, long bytes) {
    return Optional.empty();
  }

  /** An image as it streams out of its container. */
  interface Content {
    InputStream stream();

    /**
     * Called when all of the stream was read: its sum must be right and nothing may follow.
     *
     * @throws lanternshed.core.measure.ShedException where a second image is in it
     */
    default void end() throws IOException {}
  }
}
