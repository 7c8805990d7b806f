package lanternshed.core.volume;

import java.util.Arrays;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import lanternshed.core.measure.Say;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;

/**
 * Lays down files and folders one behind the other, each from a cluster on, in one sweep of large
 * pieces. One piece is filled while the one before it is being written, so that reading the sources
 * and writing the volume overlap.
 */
public final class ClusterWriter implements Sink, AutoCloseable {
  private static final int BUFFER = 1 << 20;

  private final Medium medium;
  private final int clusterBytes;
  private final byte[][] buffers;
  private final ExecutorService writer =
      Executors.newSingleThreadExecutor(
          r -> {
            Thread t = new Thread(r, "volume writer");
            t.setDaemon(true);
            return t;
          });
  private Future<?> writing;
  private int current;
  private long lba;
  private int filled;
  private long total;

  /**
   * @param lba sector of 512 bytes at which the first cluster begins
   */
  public ClusterWriter(Medium medium, long lba, int clusterBytes) {
    this.medium = medium;
    this.lba = lba;
    this.clusterBytes = clusterBytes;
    // A whole number of clusters, so that the fill level tells where in a cluster we are.
    int size = Math.max(BUFFER, clusterBytes);
    this.buffers = new byte[][] {new byte[size], new byte[size]};
  }

  /**
   * Writes a file and fills its last cluster.
   *
   * @throws VolumeException where its source gives another length than announced
   */
  public void file(FileSet.Item item, Maker.Watch watch) {
    long before = total;
    Told told = new Told(this, item.path(), watch);
    if (item.bytes() < BUFFER || !straight(item, told)) item.copyTo(told);
    told.end();
    if (total - before != item.bytes()) {
      throw new VolumeException(
          item.path()
              + " was announced with "
              + Say.bytes(item.bytes())
              + " and gave "
              + Say.bytes(total - before)
              + ".");
    }
    fillCluster();
  }

  /**
   * Lets the kernel copy a long file, where both sides are files; false where nothing was written.
   */
  private boolean straight(FileSet.Item item, Told told) {
    if (clusterBytes % 512 != 0) return false;
    try (FileMedium from = item.file().orElse(null)) {
      if (from == null || from.bytes() != item.bytes()) return false;
      if (filled > 0) flush();
      settle();
      long whole = from.bytes() / clusterBytes * clusterBytes / 512;
      long done = 0;
      while (done < whole) {
        int n = (int) Math.min(Told.STEP / 512, whole - done);
        if (!medium.take(from, done, n, lba)) return false;
        done += n;
        lba += n;
        total += n * 512L;
        told.passed(n * 512L);
      }
      // What is less than a cluster stands in the buffer, so that the rest of the cluster follows.
      byte[] rest = from.sectors(done, (int) (from.sectors() - done));
      told.take(rest, 0, rest.length);
      return true;
    }
  }

  /** Writes a structure and fills its last cluster. */
  public void whole(byte[] b) {
    take(b, 0, b.length);
    fillCluster();
  }

  @Override
  public void take(byte[] b, int at, int length) {
    total += length;
    while (length > 0) {
      if (filled == buffers[current].length) flush();
      int n = Math.min(length, buffers[current].length - filled);
      System.arraycopy(b, at, buffers[current], filled, n);
      filled += n;
      at += n;
      length -= n;
    }
  }

  /** Zeros: no trace of another file in the slack. */
  private void fillCluster() {
    int over = filled % clusterBytes;
    if (over == 0) return;
    int n = clusterBytes - over;
    Arrays.fill(buffers[current], filled, filled + n, (byte) 0);
    filled += n;
  }

  private void flush() {
    settle();
    byte[] full = buffers[current];
    long at = lba;
    int count = filled / 512;
    writing = writer.submit(() -> medium.write(at, count, full, 0));
    lba += count;
    current = 1 - current;
    filled = 0;
  }

  /** Waits for the piece that is being written; its failure is the caller's. */
  private void settle() {
    if (writing == null) return;
    try {
      writing.get();
    } catch (ExecutionException e) {
      if (e.getCause() instanceof RuntimeException r) throw r;
      throw new IllegalStateException(e.getCause());
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new VolumeException("Writing the volume was interrupted; it is not whole.");
    }
  }

  /** Writes what is left; only then all of it is on the medium. */
  public void finish() {
    if (filled > 0) flush();
    settle();
  }

  @Override
  public void close() {
    writer.shutdownNow();
  }
}
