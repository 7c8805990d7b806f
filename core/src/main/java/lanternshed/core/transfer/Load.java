package lanternshed.core.transfer;

import lanternshed.core.measure.ShedException;

/** What is to be carried over. */
public record Load(int files, long bytes) {
  private static final long MOST = 1L << 40;

  public Load {
    if (files < 1 || files > 1_000_000 || bytes < 0 || bytes > MOST) {
      throw new ShedException("Between one file and a million, and 1 TiB at most, is reckoned.");
    }
  }
}
