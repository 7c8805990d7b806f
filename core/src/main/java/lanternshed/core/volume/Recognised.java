package lanternshed.core.volume;

import java.util.Optional;
import lanternshed.core.measure.Sum;

/**
 * A filesystem that was recognised.
 *
 * @param kind its published name, "FAT16"
 * @param label "" where it has none, or is read later from {@code volume}
 * @param sectors how long it says it is, in sectors of 512 bytes; 0 where it says nothing
 * @param evidence why it is taken for it
 * @param volume opened for reading; empty where its files are not read here
 */
public record Recognised(
    String kind, String label, long sectors, Sum evidence, Optional<Volume> volume) {}
