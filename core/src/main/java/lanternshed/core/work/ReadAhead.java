package lanternshed.core.work;

import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MediumException;

/**
 * Blocks of a medium from the front to the back: while one is used the next is read, so that two
 * media that are slow are waited for once and not after each other. Two blocks of memory.
 */
final class ReadAhead implements AutoCloseable {
  private final ExecutorService thread =
      Executors.newSingleThreadExecutor(
          r -> {
            Thread t = new Thread(r, "read ahead");
            t.setDaemon(true);
            return t;
          });

  private final Medium medium;
  private final int block;
  private byte[] used;
  private byte[] spare;
  private Future<?> reading;
  private long ahead = -1;
  private int many;

  /**
   * @param block sectors that are read at once at most
   */
  ReadAhead(Medium medium, int block) {
    this.medium = medium;
    this.block = block;
    used = new byte[block * medium.sectorSize()];
    spare = new byte[used.length];
  }

  /**
   * Sectors in an array that is theirs until the next call.
   *
   * @param until before which sector more may be read ahead
   * @throws MediumException as the medium says it
   */
  byte[] at(long lba, int count, long until) {
    boolean there = took(lba, count);
    byte[] b = used;
    used = spare;
    spare = b;
    // Now "spare" is what was handed out before; what was read ahead lies in "used".
    if (!there) medium.read(lba, count, used, 0);
    begin(lba + count, until);
    return used;
  }

  private boolean took(long lba, int count) {
    if (reading == null) return false;
    boolean wanted = ahead == lba && many >= count;
    try {
      reading.get();
      return wanted;
    } catch (ExecutionException e) {
      // What nobody asked for may fail; asked for, it fails by itself once more.
      return false;
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new MediumException(medium.name() + " was left while it was read.", e);
    } finally {
      reading = null;
    }
  }

  private void begin(long lba, long until) {
    int n = (int) Math.min(block, until - lba);
    if (n <= 0) return;
    ahead = lba;
    many = n;
    byte[] into = spare;
    reading = thread.submit(() -> medium.read(lba, n, into, 0));
  }

  /** What is still read ahead has ended before the medium may be closed. */
  @Override
  public void close() {
    try {
      if (reading != null) reading.get();
    } catch (ExecutionException e) {
      // Nobody asked for it.
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    } finally {
      thread.shutdown();
    }
  }
}
