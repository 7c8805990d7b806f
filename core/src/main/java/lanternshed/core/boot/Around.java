package lanternshed.core.boot;

import java.util.Optional;
import lanternshed.core.cpu.Level;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.Medium;

/**
 * What the code of a start meets around it.
 *
 * @param shown what the firmware's disk call shows of the drive
 * @param reach sectors that it reads and writes
 * @param extended whether it has the calls that pass an LBA
 * @param level of the processor
 * @param keys what is typed meanwhile
 * @param past whether the run goes on behind the loader's entry
 * @param second a second drive beside the one that starts
 */
public record Around(
    Geometry shown,
    long reach,
    boolean extended,
    Level level,
    Keys keys,
    boolean past,
    Optional<Drive> second) {

  /**
   * A drive as the firmware has it.
   *
   * @param reach sectors that it reads and writes
   */
  public record Drive(Medium medium, Geometry shown, long reach) {}

  /** One drive, nobody at the keyboard, and no further than the loader. */
  public Around(Geometry shown, long reach, boolean extended, Level level) {
    this(shown, reach, extended, level, Keys.NONE, false, Optional.empty());
  }

  /** The same under other heads and sectors. */
  public Around under(Geometry other) {
    return new Around(other, reach, extended, level, keys, past, second);
  }

  /** The same with another reach. */
  public Around reaching(long sectors) {
    return new Around(shown, sectors, extended, level, keys, past, second);
  }

  /** The same with or without the calls that pass an LBA. */
  public Around calls(boolean there) {
    return new Around(shown, reach, there, level, keys, past, second);
  }

  /** The same on another processor. */
  public Around on(Level other) {
    return new Around(shown, reach, extended, other, keys, past, second);
  }

  /** The same with keys that are typed, and followed further. */
  public Around typed(Keys typed, boolean further) {
    return new Around(shown, reach, extended, level, typed, further, second);
  }

  /** The same with a second drive. */
  public Around beside(Drive other) {
    return new Around(shown, reach, extended, level, keys, past, Optional.of(other));
  }
}
