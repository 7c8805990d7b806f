package lanternshed.core.medium;

/** A medium read as if its first sector were another: a backup, or one that was worked out. */
public final class WithFirstSector extends Wrapper {
  private final byte[] first;

  public WithFirstSector(Medium base, byte[] first) {
    super(base);
    this.first = first.clone();
  }

  @Override
  public void read(long lba, int count, byte[] into, int at) {
    super.read(lba, count, into, at);
    if (lba == 0 && count > 0) System.arraycopy(first, 0, into, at, first.length);
  }
}
