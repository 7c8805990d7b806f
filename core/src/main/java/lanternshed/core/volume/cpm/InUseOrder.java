package lanternshed.core.volume.cpm;

import lanternshed.core.medium.Medium;
import lanternshed.core.medium.Wrapper;

/**
 * The blocks of a volume as they are used, one behind the other: what lies before them on their
 * medium, and in which order the sectors of its tracks follow, is not seen from here.
 */
final class InUseOrder extends Wrapper {
  private static final int SECTOR = 512;
  private final CpmLayout layout;

  InUseOrder(Medium base, CpmLayout layout) {
    super(base);
    this.layout = layout;
  }

  @Override
  public int sectorSize() {
    return SECTOR;
  }

  @Override
  public long sectors() {
    return (long) layout.blocks() * layout.block() / SECTOR;
  }

  @Override
  public void read(long lba, int count, byte[] into, int at) {
    bound(lba, count);
    byte[] b = layout.bytes(base(), lba * SECTOR, count * SECTOR);
    System.arraycopy(b, 0, into, at, b.length);
  }

  /** A sector of the medium that is shared with something else keeps the other part. */
  @Override
  public void write(long lba, int count, byte[] from, int at) {
    bound(lba, count);
    int done = 0;
    while (done < count * SECTOR) {
      CpmLayout.Piece p = layout.piece(lba * SECTOR + done, count * SECTOR - done);
      int sectors = (p.skip() + p.length() + SECTOR - 1) / SECTOR;
      byte[] there = base().sectors(p.sector(), sectors);
      System.arraycopy(from, at + done, there, p.skip(), p.length());
      base().write(p.sector(), sectors, there, 0);
      done += p.length();
    }
  }

  /** The medium underneath is its owner's to close. */
  @Override
  public void close() {}
}
