package lanternshed.core.volume;

import lanternshed.core.measure.Sum;

/**
 * A filesystem that is recognised and not read yet.
 *
 * @param kind its published name, "FFS"
 * @param evidence why it is taken for it
 */
public record Known(String kind, String label, Sum evidence) {}
