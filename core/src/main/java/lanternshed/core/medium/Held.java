package lanternshed.core.medium;

import com.sun.jna.LastErrorException;
import com.sun.jna.Native;
import java.io.Closeable;
import java.nio.file.Path;

/**
 * A device node that is held alone: as long as it is, the system mounts nothing of it and lets no
 * other program claim it, and where somebody has it already it is not given. Java has no such way
 * of opening, so the system is called itself: O_EXCL of open(2), which without O_CREAT is said for
 * block devices; of a regular file it changes nothing.
 */
final class Held implements Closeable {
  private static final int O_RDONLY = 0;
  private static final int O_EXCL = 0x80;
  private static final int O_CLOEXEC = 0x80000;
  private static final int EBUSY = 16;

  private final int descriptor;
  private boolean closed;

  private Held(int descriptor) {
    this.descriptor = descriptor;
  }

  /**
   * @throws MediumException where another holds it, or the system does not let it be held
   */
  static Held of(Path node) {
    String name = String.valueOf(node.getFileName());
    try {
      return new Held(Libc.open(node.toString(), O_RDONLY | O_EXCL | O_CLOEXEC));
    } catch (LinkageError e) {
      throw new MediumException(
          name
              + " cannot be held alone, as the system's own functions could not be reached from here"
              + " (java.io.tmpdir may forbid what lies in it to run); it is not written. "
              + e.getMessage(),
          e);
    } catch (LastErrorException e) {
      throw new MediumException(
          e.getErrorCode() == EBUSY
              ? name
                  + " is held already, by a program or as something of it is mounted. Close that, and"
                  + " begin again."
              : name + " cannot be held alone: " + e.getMessage() + ".",
          e);
    }
  }

  /** Once only: the number may be somebody else's afterwards. */
  @Override
  public synchronized void close() {
    if (!closed) Libc.close(descriptor);
    closed = true;
  }

  /** Loaded when it is first called, so that a failure of it can be said. */
  private static final class Libc {
    static {
      // The library's own native part, from its package; never one that lies about on the system.
      System.setProperty("jna.nosys", "true");
      Native.register(Libc.class, "c");
    }

    static native int open(String path, int flags) throws LastErrorException;

    static native int close(int descriptor);
  }
}
