package lanternshed.core.medium;

import java.util.Arrays;
import lanternshed.core.measure.Bytes;

/**
 * A stand-in for a memory card: it claims so many sectors and really has so many. Where it has
 * fewer than it claims, addresses past its end wrap to its start, as false-capacity cards do, or
 * what is written there is lost.
 */
public final class CardStandIn extends Wrapper {
  private final long claimed;
  private final long real;
  private final boolean loses;
  private final String name;
  private final Pace pace;

  /** One that wraps. */
  public CardStandIn(Medium base, String name, long claimed, long real, Pace pace) {
    this(base, name, claimed, real, false, pace);
  }

  /**
   * @param base holds at least {@code real} sectors
   * @param claimed sectors as the card answers when asked
   * @param real sectors that it keeps apart
   * @param loses whether what lies past them reads as zeros; else it wraps
   */
  public CardStandIn(Medium base, String name, long claimed, long real, boolean loses, Pace pace) {
    super(base);
    this.loses = loses;
    if (real < 1 || real > base.sectors() || claimed < real) {
      throw new MediumException(
          "A card stand-in of " + claimed + " sectors cannot have " + real + " real ones.");
    }
    this.name = name;
    this.claimed = claimed;
    this.real = real;
    this.pace = pace;
  }

  @Override
  public long sectors() {
    return claimed;
  }

  @Override
  public void read(long lba, int count, byte[] into, int at) {
    bound(lba, count);
    pace.spend(count * 25_000L);
    if (loses) Arrays.fill(into, at, at + count * sectorSize(), (byte) 0);
    wrapped(lba, count, at, (place, n, offset) -> base.read(place, n, into, offset));
  }

  @Override
  public void write(long lba, int count, byte[] from, int at) {
    bound(lba, count);
    pace.spend(count * 60_000L);
    wrapped(lba, count, at, (place, n, offset) -> put(place, n, from, offset));
  }

  @Override
  public String name() {
    return name;
  }

  /** Zeros over zeros would only fill this computer's disk: a stand-in stays sparse. */
  private void put(long place, int count, byte[] from, int at) {
    int bytes = count * sectorSize();
    if (Bytes.allZero(from, at, at + bytes)) {
      byte[] there = base.sectors(place, count);
      if (Bytes.allZero(there, 0, bytes)) return;
    }
    base.write(place, count, from, at);
  }

  private interface Run {
    void at(long place, int count, int offset);
  }

  private void wrapped(long lba, int count, int at, Run run) {
    while (count > 0) {
      if (loses && lba >= real) return;
      long place = lba % real;
      int n = (int) Math.min(count, real - place);
      run.at(place, n, at);
      lba += n;
      at += n * sectorSize();
      count -= n;
    }
  }
}
