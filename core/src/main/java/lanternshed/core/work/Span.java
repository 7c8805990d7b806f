package lanternshed.core.work;

/**
 * Sectors in a row.
 *
 * @param start the first
 * @param length how many
 */
public record Span(long start, long length) {
  long end() {
    return start + length;
  }
}
