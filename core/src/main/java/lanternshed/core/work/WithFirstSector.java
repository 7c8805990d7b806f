package lanternshed.core.work;

import lanternshed.core.medium.Medium;
import lanternshed.core.medium.Wrapper;

/** A volume read as if its first sector were another: the backup, or one that was worked out. */
final class WithFirstSector extends Wrapper {
  private final byte[] first;

  WithFirstSector(Medium base, byte[] first) {
    super(base);
    this.first = first.clone();
  }

  @Override
  public void read(long lba, int count, byte[] into, int at) {
    super.read(lba, count, into, at);
    if (lba == 0 && count > 0) System.arraycopy(first, 0, into, at, first.length);
  }
}
