package lanternshed.server.images;

import lanternshed.core.medium.Medium;

/** A medium inside another one, which is closed with it. */
final class Within implements Medium {
  private final Medium outer;
  private final Medium inner;

  Within(Medium outer, Medium inner) {
    this.outer = outer;
    this.inner = inner;
  }

  @Override
  public String name() {
    return inner.name();
  }

  @Override
  public long sectors() {
    return inner.sectors();
  }

  @Override
  public int sectorSize() {
    return inner.sectorSize();
  }

  @Override
  public void read(long lba, int count, byte[] to, int at) {
    inner.read(lba, count, to, at);
  }

  @Override
  public void write(long lba, int count, byte[] from, int at) {
    inner.write(lba, count, from, at);
  }

  @Override
  public void flush() {
    inner.flush();
  }

  @Override
  public void close() {
    inner.close();
    outer.close();
  }
}
