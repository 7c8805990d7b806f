package lanternshed.core.medium;

import com.sun.nio.file.ExtendedOpenOption;
import java.io.Closeable;
import java.io.EOFException;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.OpenOption;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * A device node past the system's cache: what is read comes from the medium, and what is written is
 * on it, so that a read-back proves what it says. Transfers are made in whole blocks of the system;
 * where fewer sectors are asked for, the block around them is read first.
 */
public final class NodeMedium implements Medium {
  private static final int SECTOR = 512;
  private static final int BUFFER = 1 << 20;

  /** What is closed with it; held against all others where it is written. */
  private final List<Closeable> opened;

  private final FileChannel direct;

  /** For a tail shorter than a block, which cannot go past the cache. */
  private final FileChannel plain;

  private final String name;
  private final long bytes;
  private final int block;
  private final ByteBuffer buffer;
  private final Runnable guard;

  private NodeMedium(
      List<Closeable> opened,
      FileChannel direct,
      FileChannel plain,
      String name,
      int block,
      Runnable guard)
      throws IOException {
    this.opened = opened;
    this.direct = direct;
    this.plain = plain;
    this.name = name;
    this.bytes = plain.size() / SECTOR * SECTOR;
    this.block = block;
    this.guard = guard;
    this.buffer = ByteBuffer.allocateDirect(BUFFER + block).alignedSlice(block);
  }

  /**
   * Opens a node that the caller was allowed to open.
   *
   * @param guard throws where the node may not be used any more; asked before each write
   * @throws MediumException where it does not open, where nothing is in it, or where it is to be
   *     written and another holds it
   */
  public static NodeMedium open(Path node, boolean writable, Runnable guard) {
    String name = String.valueOf(node.getFileName());
    List<OpenOption> how = new ArrayList<>(List.of(StandardOpenOption.READ));
    if (writable) how.add(StandardOpenOption.WRITE);
    List<Closeable> opened = new ArrayList<>();
    boolean whole = false;
    try {
      if (writable) opened.add(Held.of(node));
      int block = (int) Files.getFileStore(node).getBlockSize();
      FileChannel plain = FileChannel.open(node, how.toArray(OpenOption[]::new));
      opened.add(plain);
      how.add(ExtendedOpenOption.DIRECT);
      FileChannel direct = FileChannel.open(node, how.toArray(OpenOption[]::new));
      opened.add(direct);
      NodeMedium made = new NodeMedium(opened, direct, plain, name, block, guard);
      whole = true;
      return made;
    } catch (IOException e) {
      throw new MediumException(name + " cannot be opened: " + FileMedium.why(e) + ".", e);
    } finally {
      if (!whole) close(opened, name);
    }
  }

  /** All of them, the last opened first, whatever one of them says. */
  private static void close(List<Closeable> opened, String name) {
    Optional<IOException> failed = Optional.empty();
    for (int i = opened.size() - 1; i >= 0; i--) {
      try {
        opened.get(i).close();
      } catch (IOException e) {
        failed = Optional.of(e);
      }
    }
    if (failed.isEmpty()) return;
    throw new MediumException(
        name + " could not be closed: " + FileMedium.why(failed.get()) + ".", failed.get());
  }

  @Override
  public int sectorSize() {
    return SECTOR;
  }

  @Override
  public long sectors() {
    return bytes / SECTOR;
  }

  /** Where the last whole block ends. */
  private long blocks() {
    return bytes / block * block;
  }

  @Override
  public synchronized void read(long lba, int count, byte[] into, int at) {
    bound(lba, count);
    long from = lba * SECTOR;
    long end = from + (long) count * SECTOR;
    for (long p = from; p < end; ) {
      long base = p / block * block;
      int n = load(base, end);
      int skip = (int) (p - base);
      int got = (int) Math.min(n - skip, end - p);
      buffer.position(skip);
      buffer.get(into, at + (int) (p - from), got);
      p += got;
    }
  }

  @Override
  public synchronized void write(long lba, int count, byte[] from, int at) {
    bound(lba, count);
    guard.run();
    long first = lba * SECTOR;
    long end = first + (long) count * SECTOR;
    for (long p = first; p < end; ) {
      long base = p / block * block;
      int n = window(base, end);
      int skip = (int) (p - base);
      int put = (int) Math.min(n - skip, end - p);
      if (skip > 0 || put < n) load(base, end);
      buffer.clear().position(skip);
      buffer.put(from, at + (int) (p - first), put);
      store(base, n);
      p += put;
    }
  }

  /** Bytes of the blocks from {@code base} that reach {@code end}, as many as the buffer holds. */
  private int window(long base, long end) {
    long last = base >= blocks() ? bytes : Math.min(blocks(), (end + block - 1) / block * block);
    return (int) Math.min(BUFFER, last - base);
  }

  private FileChannel at(long base) {
    return base >= blocks() ? plain : direct;
  }

  private int load(long base, long end) {
    int n = window(base, end);
    buffer.clear().limit(n);
    long p = base;
    try {
      while (buffer.hasRemaining()) {
        int r = at(base).read(buffer, p);
        if (r < 0) throw new EOFException("it ended");
        p += r;
      }
    } catch (IOException e) {
      throw (UnreadableException) new UnreadableException(name, p / SECTOR).initCause(e);
    }
    return n;
  }

  private void store(long base, int n) {
    buffer.position(0).limit(n);
    long p = base;
    try {
      while (buffer.hasRemaining()) p += at(base).write(buffer, p);
    } catch (IOException e) {
      throw new UnwritableException(
          "Writing "
              + name
              + " stopped at sector "
              + p / SECTOR
              + ": "
              + FileMedium.why(e)
              + ". Is the card still in its reader?",
          e);
    }
  }

  @Override
  public void flush() {
    try {
      plain.force(false);
      direct.force(false);
    } catch (IOException e) {
      throw new MediumException(name + " could not be made safe: " + FileMedium.why(e) + ".", e);
    }
  }

  @Override
  public void close() {
    close(opened, name);
  }

  @Override
  public String name() {
    return name;
  }
}
