package lanternshed.core.medium;

/** A run of sectors of another medium, numbered from 0: a volume inside its partition. */
public final class SliceMedium extends Wrapper {
  private final long start;
  private final long length;

  /** A slice that would reach past its medium ends with the medium. */
  public SliceMedium(Medium base, long start, long length) {
    super(base);
    if (start < 0 || start > base.sectors() || length < 0) {
      throw new MediumException(
          "A slice from sector "
              + start
              + " lies outside "
              + base.name()
              + ", which ends at sector "
              + base.sectors()
              + ".");
    }
    this.start = start;
    this.length = Math.min(length, base.sectors() - start);
  }

  @Override
  public long sectors() {
    return length;
  }

  @Override
  public void read(long lba, int count, byte[] into, int at) {
    bound(lba, count);
    base.read(start + lba, count, into, at);
  }

  @Override
  public void write(long lba, int count, byte[] from, int at) {
    bound(lba, count);
    base.write(start + lba, count, from, at);
  }

  @Override
  public boolean take(FileMedium from, long start, int count, long at) {
    bound(at, count);
    return base.take(from, start, count, this.start + at);
  }

  /** The medium underneath is its owner's to close. */
  @Override
  public void close() {}
}
