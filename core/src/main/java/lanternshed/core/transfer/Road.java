package lanternshed.core.transfer;

import lanternshed.core.measure.Sum;

/**
 * A way for files, with how long it takes (T-9).
 *
 * @param note what decides it, in a few words
 */
public record Road(String name, long seconds, String note, Sum because) {}
