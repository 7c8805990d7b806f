package lanternshed.core.medium;

import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;

/**
 * Makes safe what was written, while the same medium is read: that waits for the disk and a proof
 * for the processor. Closing waits until it is safe.
 */
public final class Settling implements AutoCloseable {
  private final CompletableFuture<Void> safe;

  private Settling(CompletableFuture<Void> safe) {
    this.safe = safe;
  }

  /** Begins in a thread of its own. */
  public static Settling of(Medium m) {
    return new Settling(
        CompletableFuture.runAsync(m::flush, r -> new Thread(r, "settling").start()));
  }

  /**
   * Waits, uninterrupted: a medium must not be closed under its flush.
   *
   * @throws MediumException where it could not be made safe
   */
  @Override
  public void close() {
    try {
      safe.join();
    } catch (CompletionException e) {
      if (e.getCause() instanceof RuntimeException r) throw r;
      throw e;
    }
  }
}
