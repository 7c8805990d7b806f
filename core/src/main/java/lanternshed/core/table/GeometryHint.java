package lanternshed.core.table;

/**
 * What a table or a volume says of heads and sectors (G-15).
 *
 * @param source who says it, in words
 * @param evidence where it was read
 */
public record GeometryHint(String source, int heads, int sectors, String evidence) {}
