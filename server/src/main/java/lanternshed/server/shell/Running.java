package lanternshed.server.shell;

import java.util.function.BiConsumer;
import lanternshed.core.work.Progress;
import lanternshed.core.work.StoppedException;

/**
 * A piece of work while it runs: hears its progress, reckons its rate, and stops it when asked.
 * Tells at most four times a second and keeps at most once.
 */
public final class Running implements Progress {
  /** What was asked of it. */
  public enum Wish {
    GO_ON,
    PAUSE,
    CANCEL
  }

  private static final long TELL_EVERY = 250_000_000;
  private static final long KEEP_EVERY = 1_000_000_000;
  private final BiConsumer<Running, Boolean> listener;
  private volatile Wish wish = Wish.GO_ON;
  private volatile String phase = "starting";
  private volatile long done;
  private volatile long total;
  private volatile long rate;
  private long phaseStart;
  private long phaseFrom;
  private long told;
  private long kept;

  /**
   * @param listener is called to tell; its second argument says whether to keep as well
   */
  public Running(BiConsumer<Running, Boolean> listener) {
    this.listener = listener;
  }

  public void ask(Wish w) {
    wish = w;
  }

  public Wish wish() {
    return wish;
  }

  public String phase() {
    return phase;
  }

  public long done() {
    return done;
  }

  public long total() {
    return total;
  }

  public long rate() {
    return rate;
  }

  @Override
  public void at(String newPhase, long newDone, long newTotal) {
    if (wish != Wish.GO_ON) throw new StoppedException("Stopped as asked; what it has is kept.");
    long now = System.nanoTime();
    boolean changed = !newPhase.equals(phase);
    if (changed) {
      phaseStart = now;
      phaseFrom = newDone;
    }
    phase = newPhase;
    done = newDone;
    total = newTotal;
    long elapsed = now - phaseStart;
    if (elapsed > 100_000_000) {
      rate = (long) ((newDone - phaseFrom) * 1e9 / elapsed);
    }
    if (!changed && now - told < TELL_EVERY) return;
    told = now;
    boolean keep = changed || now - kept >= KEEP_EVERY;
    if (keep) kept = now;
    listener.accept(this, keep);
  }
}
