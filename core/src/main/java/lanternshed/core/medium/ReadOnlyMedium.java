package lanternshed.core.medium;

/** An original: every write is refused. */
public final class ReadOnlyMedium extends Wrapper {
  public ReadOnlyMedium(Medium base) {
    super(base);
  }

  @Override
  public void write(long lba, int count, byte[] from, int at) {
    throw new MediumException(name() + " is an original and is never written.");
  }
}
