package lanternshed.core.boot.pc;

import lanternshed.core.cpu.Level;
import lanternshed.core.measure.Geometry;

/**
 * What the start of a PC meets around it.
 *
 * @param shown what the firmware's disk call shows of the drive
 * @param reach sectors that it reads and writes
 * @param extended whether it has the calls that pass an LBA
 * @param level of the processor
 */
public record PcFacts(Geometry shown, long reach, boolean extended, Level level) {}
