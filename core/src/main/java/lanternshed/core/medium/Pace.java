package lanternshed.core.medium;

import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicLong;

/**
 * The clock of a stand-in: it counts the time that the real device would have taken, and may also
 * let that time pass, so that a demonstration runs at the pace of the drive.
 */
public final class Pace {
  private final AtomicLong spent = new AtomicLong();
  private final int realPercent;

  private Pace(int realPercent) {
    this.realPercent = realPercent;
  }

  /** Counts only; nothing waits. */
  public static Pace counted() {
    return new Pace(0);
  }

  /** Waits for that share of the device's time, 100 being real time. */
  public static Pace lived(int percent) {
    return new Pace(percent);
  }

  void spend(long nanos) {
    spent.addAndGet(nanos);
    if (realPercent == 0) return;
    try {
      TimeUnit.NANOSECONDS.sleep(nanos / 100 * realPercent);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }

  /** Nanoseconds of device time so far. */
  public long nanos() {
    return spent.get();
  }
}
