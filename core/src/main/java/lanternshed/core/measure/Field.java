package lanternshed.core.measure;

/**
 * A named run of bytes in a sector of a structure, with its specification's own name.
 *
 * @param at first byte of the sector
 */
public record Field(int at, int length, String name) {}
