package lanternshed.core.medium;

import java.util.HashMap;
import java.util.Map;

/**
 * A stand-in for an old drive: reads over a base medium with zones that do not come back, come back
 * late, or come back slowly, and keeps the device's own time. It is an original and is never
 * written, except where it is wiped at the end: then a dead zone takes nothing, and one that hung
 * gives up at once.
 *
 * <p>Time: 1 ms to reach a place that is not the next one, then 1 MB/s; a sector that does not come
 * back costs 1.2 s of the drive's own retries, a slow one 12 ms.
 */
public final class FailingDrive extends Wrapper {
  private static final long SEEK = 1_000_000;
  private static final long PER_SECTOR = 512_000;
  private static final long SLOW_SECTOR = 12_000_000;
  private static final long DEAD_SECTOR = 1_200_000_000;
  private final Damage damage;
  private final Pace pace;
  private final Map<Long, Integer> tried = new HashMap<>();
  private final boolean wiped;
  private long next;

  public FailingDrive(Medium base, Damage damage, Pace pace) {
    this(base, damage, pace, false);
  }

  private FailingDrive(Medium base, Damage damage, Pace pace, boolean wiped) {
    super(base);
    this.damage = damage;
    this.pace = pace;
    this.wiped = wiped;
  }

  /** The drive of which nothing is needed any more. */
  public static FailingDrive toWipe(Medium base, Damage damage, Pace pace) {
    return new FailingDrive(base, damage, pace, true);
  }

  @Override
  public synchronized void read(long lba, int count, byte[] into, int at) {
    bound(lba, count);
    long nanos = lba == next ? 0 : SEEK;
    next = lba + count;
    long bad = -1;
    long end = lba + count;
    for (Damage.Zone z : damage.zones()) {
      if (!z.overlaps(lba, end - lba)) continue;
      long from = Math.max(lba, z.start());
      long to = Math.min(end, z.start() + z.length());
      switch (z.kind()) {
        case SLOW -> nanos += (to - from) * SLOW_SECTOR;
        case STALL -> {
          if (wiped) bad = first(bad, from);
          else if (tried.merge(z.start(), 1, Integer::sum) <= z.tries()) hang(from);
        }
        case DEAD -> bad = first(bad, from);
        case LATE -> {
          for (long s = from; s < to; s++) {
            if (tried.merge(s, 1, Integer::sum) <= z.tries()) {
              bad = first(bad, s);
              break;
            }
          }
        }
      }
    }
    if (bad >= 0) {
      pace.spend(nanos + (bad - lba) * PER_SECTOR + DEAD_SECTOR);
      next = -1;
      if (bad > lba) base.read(lba, (int) (bad - lba), into, at);
      throw new UnreadableException(name(), bad);
    }
    pace.spend(nanos + count * PER_SECTOR);
    base.read(lba, count, into, at);
  }

  /** Answers nothing until somebody lets go; what was asked does not come. */
  private void hang(long sector) {
    try {
      Thread.sleep(Long.MAX_VALUE);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
    throw new UnreadableException(name(), sector);
  }

  @Override
  public synchronized void write(long lba, int count, byte[] from, int at) {
    bound(lba, count);
    if (!wiped) throw new MediumException(name() + " is an original and is never written.");
    for (Damage.Zone z : damage.zones()) {
      boolean takes = z.kind() == Damage.Kind.LATE || z.kind() == Damage.Kind.SLOW;
      if (takes || !z.overlaps(lba, count)) continue;
      pace.spend(DEAD_SECTOR);
      throw new UnwritableException(
          "Sector " + Math.max(lba, z.start()) + " of " + name() + " takes nothing.");
    }
    pace.spend((lba == next ? 0 : SEEK) + count * PER_SECTOR);
    next = lba + count;
    base.write(lba, count, from, at);
  }

  private static long first(long a, long b) {
    return a < 0 ? b : Math.min(a, b);
  }
}
