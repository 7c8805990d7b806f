package lanternshed.core.medium;

import java.io.EOFException;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.channels.OverlappingFileLockException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.BasicFileAttributes;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.Arrays;
import lanternshed.core.measure.Say;

/**
 * A plain file, or a device node that the caller was allowed to open, as a medium of 512-byte
 * sectors. A tail shorter than a sector is left out of {@link #sectors()} and told by {@link
 * #tailBytes()}, unless the length is that of a small disk ({@link SmallDisks}).
 */
public final class FileMedium implements Medium {
  private static final int SECTOR = 512;

  /** Which bits of a mode tell the kind of a file, and what a block device has there (stat(2)). */
  private static final int FILE_TYPE = 0170000;

  private static final int BLOCK_DEVICE = 0060000;
  private final FileChannel channel;
  private final String name;
  private final long bytes;
  private final boolean writable;

  private FileMedium(FileChannel channel, String name, long bytes, boolean writable) {
    this.channel = channel;
    this.name = name;
    this.bytes = bytes;
    this.writable = writable;
  }

  /** Opens for reading only: how every original is opened. */
  public static FileMedium open(Path path) {
    return open(path, false);
  }

  /** Opens an existing file for reading and writing. */
  public static FileMedium openWritable(Path path) {
    return open(path, true);
  }

  private static FileMedium open(Path path, boolean writable) {
    try {
      needMedium(path);
      FileChannel ch =
          writable
              ? FileChannel.open(path, StandardOpenOption.READ, StandardOpenOption.WRITE)
              : FileChannel.open(path, StandardOpenOption.READ);
      return new FileMedium(ch, name(path), ch.size(), writable);
    } catch (NoSuchFileException e) {
      throw new MediumException("There is no file " + name(path) + ".", e);
    } catch (IOException e) {
      throw new MediumException("The file " + name(path) + " cannot be opened: " + why(e) + ".", e);
    }
  }

  /** A pipe would wait for ever, and a character device has no length. */
  private static void needMedium(Path path) throws IOException {
    BasicFileAttributes is = Files.readAttributes(path, BasicFileAttributes.class);
    if (is.isRegularFile()) return;
    if (is.isDirectory()) throw new MediumException(name(path) + " is a folder and no image.");
    boolean unix = path.getFileSystem().supportedFileAttributeViews().contains("unix");
    int mode = unix ? (int) Files.getAttribute(path, "unix:mode") : BLOCK_DEVICE;
    if ((mode & FILE_TYPE) == BLOCK_DEVICE) return;
    throw new MediumException(name(path) + " is neither a file nor a drive, so it has no sectors.");
  }

  /**
   * Makes a file of that many sectors, sparse, replacing nothing: the file must not exist yet.
   *
   * @throws MediumException where it exists or the disk refuses
   */
  public static FileMedium create(Path path, long sectors) {
    if (Files.exists(path)) {
      throw new MediumException("The file " + name(path) + " exists already and is not replaced.");
    }
    return made(path, sectors, false);
  }

  /**
   * A file that is to be filled, kept for this opening alone: a new one, or one that who began it
   * before left. Where that ended before the file had its length, it gets it now.
   *
   * @throws MediumException where somebody has it already, or the disk refuses
   */
  public static FileMedium begin(Path path, long sectors) {
    try {
      if (!Files.exists(path) || Files.size(path) == 0) return made(path, sectors, true);
    } catch (IOException e) {
      throw new MediumException("The file " + name(path) + " cannot be opened: " + why(e) + ".", e);
    }
    FileMedium begun = openWritable(path);
    return begun.kept();
  }

  private static FileMedium made(Path path, long sectors, boolean keep) {
    try {
      RandomAccessFile file = new RandomAccessFile(path.toFile(), "rw");
      FileMedium m = new FileMedium(file.getChannel(), name(path), sectors * SECTOR, true);
      try {
        if (keep) m.lock();
        if (file.length() > 0) {
          throw new MediumException(
              "Somebody else has begun the file "
                  + name(path)
                  + " meanwhile; nothing was changed.");
        }
        // Somebody's only copy is nobody else's to read.
        if (path.getFileSystem().supportedFileAttributeViews().contains("posix")) {
          Files.setPosixFilePermissions(path, PosixFilePermissions.fromString("rw-------"));
        }
        file.setLength(Math.multiplyExact(sectors, (long) SECTOR));
        return m;
      } catch (IOException | RuntimeException e) {
        // Else the next try here would find it kept by this one.
        m.close();
        throw e;
      }
    } catch (IOException e) {
      throw new MediumException("The file " + name(path) + " cannot be made: " + why(e) + ".", e);
    }
  }

  /** This, locked; closed where somebody else has it. */
  private FileMedium kept() {
    try {
      lock();
      return this;
    } catch (MediumException e) {
      close();
      throw e;
    }
  }

  /** Not a hole that another try may read: what was there is not there any more. */
  private MediumException cut() throws IOException {
    return new MediumException(
        name
            + " had "
            + Say.bytes(bytes)
            + " when it was opened and has "
            + Say.bytes(channel.size())
            + " now; somebody cut it meanwhile.");
  }

  /**
   * Keeps the file for this opening alone.
   *
   * @throws MediumException where somebody has it already
   */
  public void lock() {
    try {
      if (channel.tryLock() != null) return;
    } catch (OverlappingFileLockException e) {
      // Somebody in this very program has it.
    } catch (IOException e) {
      throw new MediumException(name + " cannot be locked: " + why(e) + ".", e);
    }
    throw new MediumException(
        name + " is being written by somebody else; wait until that work has ended.");
  }

  @Override
  public int sectorSize() {
    return SECTOR;
  }

  @Override
  public long sectors() {
    return SmallDisks.sectors(bytes);
  }

  /**
   * Bytes of the file: of some small disks less than its sectors have, the last of which is cut.
   */
  public long length() {
    return bytes;
  }

  /** Bytes after the last whole sector; not zero means the file was cut or is not a raw image. */
  public int tailBytes() {
    return (int) Math.max(0, bytes - sectors() * SECTOR);
  }

  @Override
  public void read(long lba, int count, byte[] into, int at) {
    bound(lba, count);
    ByteBuffer buffer = ByteBuffer.wrap(into, at, count * SECTOR);
    long position = lba * SECTOR;
    try {
      while (buffer.hasRemaining()) {
        int n = channel.read(buffer, position);
        if (n < 0 && position == bytes && bytes < bytes()) {
          Arrays.fill(into, buffer.position(), buffer.limit(), (byte) 0);
          return;
        }
        if (n < 0) throw cut();
        position += n;
      }
    } catch (IOException e) {
      // A real device node answers a bad sector with an input/output error: that is a hole, not an
      // end.
      throw (UnreadableException)
          new UnreadableException(name, lba + (position / SECTOR - lba)).initCause(e);
    }
  }

  @Override
  public void write(long lba, int count, byte[] from, int at) {
    bound(lba, count);
    if (!writable) throw new MediumException(name + " was opened for reading only.");
    ByteBuffer buffer = ByteBuffer.wrap(from, at, count * SECTOR);
    long position = lba * SECTOR;
    try {
      while (buffer.hasRemaining()) position += channel.write(buffer, position);
    } catch (IOException e) {
      throw new MediumException(
          "Writing " + name + " stopped at sector " + position / SECTOR + ": " + why(e) + ".", e);
    }
  }

  @Override
  public synchronized boolean take(FileMedium from, long start, int count, long at) {
    bound(at, count);
    from.bound(start, count);
    // A small disk that ends within a sector is filled up by reading only.
    if (!writable || (start + count) * SECTOR > from.bytes) return false;
    long all = (long) count * SECTOR;
    long done = 0;
    try {
      // Only here has the channel a place of its own; everything else names it.
      channel.position(at * SECTOR);
      while (done < all) {
        long n = from.channel.transferTo(start * SECTOR + done, all - done, channel);
        if (n <= 0) throw new EOFException(from.name + " became shorter while it was read");
        done += n;
      }
      return true;
    } catch (IOException e) {
      throw new MediumException(
          "Copying "
              + from.name
              + " to "
              + name
              + " stopped at sector "
              + (at + done / SECTOR)
              + ": "
              + why(e)
              + ".",
          e);
    }
  }

  @Override
  public void flush() {
    try {
      if (writable) channel.force(false);
    } catch (IOException e) {
      throw new MediumException(name + " could not be made safe on disk: " + why(e) + ".", e);
    }
  }

  @Override
  public void close() {
    try {
      channel.close();
    } catch (IOException e) {
      throw new MediumException(name + " could not be closed: " + why(e) + ".", e);
    }
  }

  @Override
  public String name() {
    return name;
  }

  private static String name(Path path) {
    return String.valueOf(path.getFileName());
  }

  /** What the system says, as a part of a sentence. */
  static String why(IOException e) {
    String m = e.getMessage();
    return m == null ? e.getClass().getSimpleName() : m.replaceAll("\\.$", "");
  }
}
