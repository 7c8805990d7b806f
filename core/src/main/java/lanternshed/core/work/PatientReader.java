package lanternshed.core.work;

import java.time.Duration;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import lanternshed.core.medium.Medium;

/**
 * Reads in a thread of its own and waits for no read longer than a bound: a drive that drops
 * off the bus must not take the program with it. After one read was given up no other is tried.
 */
final class PatientReader implements AutoCloseable {
  private final Medium source;
  private final Duration bound;
  private final ExecutorService thread =
      Executors.newSingleThreadExecutor(
          r -> {
            Thread t = new Thread(r, "patient reader");
            t.setDaemon(true);
            return t;
          });

  PatientReader(Medium source, Duration bound) {
    this.source = source;
    this.bound = bound;
  }

  /** A read that did not return within the bound. */
  static final class Stalled extends Exception {
    private static final long serialVersionUID = 1;
  }

  /** Reads as {@link Medium#read} does, or gives up. */
  void read(long lba, int count, byte[] into) throws Stalled {
    if (bound.isZero()) {
      source.read(lba, count, into, 0);
      return;
    }
    Future<?> read = thread.submit(() -> source.read(lba, count, into, 0));
    try {
      read.get(bound.toMillis(), TimeUnit.MILLISECONDS);
    } catch (TimeoutException e) {
      read.cancel(true);
      throw new Stalled();
    } catch (ExecutionException e) {
      if (e.getCause() instanceof RuntimeException r) throw r;
      throw new IllegalStateException(e.getCause());
    } catch (InterruptedException e) {
      read.cancel(true);
      Thread.currentThread().interrupt();
      throw new StoppedException("The work was interrupted; what it has is kept.");
    }
  }

  @Override
  public void close() {
    thread.shutdownNow();
  }
}
