package lanternshed.core.boot;

import lanternshed.core.cpu.Level;
import lanternshed.core.measure.Geometry;

/**
 * What the code of a start meets around it.
 *
 * @param shown what the firmware's disk call shows of the drive
 * @param reach sectors that it reads and writes
 * @param extended whether it has the calls that pass an LBA
 * @param level of the processor
 */
public record Around(Geometry shown, long reach, boolean extended, Level level) {}
