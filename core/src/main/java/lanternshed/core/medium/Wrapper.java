package lanternshed.core.medium;

/** A medium over another that adds one trait; what it does not change it passes on. */
public abstract class Wrapper implements Medium {
  final Medium base;

  protected Wrapper(Medium base) {
    this.base = base;
  }

  /** The medium beneath. */
  protected final Medium base() {
    return base;
  }

  @Override
  public int sectorSize() {
    return base.sectorSize();
  }

  @Override
  public long sectors() {
    return base.sectors();
  }

  @Override
  public void read(long lba, int count, byte[] into, int at) {
    base.read(lba, count, into, at);
  }

  @Override
  public void write(long lba, int count, byte[] from, int at) {
    base.write(lba, count, from, at);
  }

  @Override
  public String name() {
    return base.name();
  }

  @Override
  public void flush() {
    base.flush();
  }

  @Override
  public void close() {
    base.close();
  }
}
