package lanternshed.core.medium;

/** A sector that does not come back. {@link #lba()} is the first one of the read that failed. */
public final class UnreadableException extends MediumException {
  private final long lba;

  public UnreadableException(String medium, long lba) {
    super("Sector " + lba + " of " + medium + " does not read.");
    this.lba = lba;
  }

  public long lba() {
    return lba;
  }
}
