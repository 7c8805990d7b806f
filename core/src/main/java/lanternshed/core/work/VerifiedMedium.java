package lanternshed.core.work;

import java.util.BitSet;
import java.util.List;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.Wrapper;

/**
 * An image whose bytes are held against the digests that were kept with it: each chunk of 16 MiB
 * the first time it is read from this opening. Disks change bytes silently; what is read from here
 * is what was put there, or an error says that it is not.
 */
public final class VerifiedMedium extends Wrapper {
  private final List<String> chunks;
  private final BitSet seen = new BitSet();
  private final int perChunk;

  /**
   * @param chunks digest of each 16 MiB, as {@link Digests#chunks()} has them
   * @param sectors how many sectors were kept
   * @throws ShedException where the image has another length than it was kept with
   */
  public VerifiedMedium(Medium image, List<String> chunks, long sectors) {
    super(image);
    this.chunks = List.copyOf(chunks);
    this.perChunk = Digests.CHUNK_BYTES / image.sectorSize();
    if (image.sectors() != sectors) {
      image.close();
      throw new ShedException(
          "The shelf's file "
              + image.name()
              + " has "
              + Say.sectors(image.sectors())
              + ", but "
              + Say.count(sectors)
              + " were kept: it was changed on the disk. Bring a good copy in again; it takes its"
              + " place.");
    }
  }

  @Override
  public void read(long lba, int count, byte[] into, int at) {
    bound(lba, count);
    if (count > 0) {
      verify(lba / perChunk, (lba + count - 1) / perChunk);
    }
    super.read(lba, count, into, at);
  }

  private void verify(long first, long last) {
    for (int c = (int) first; c <= last; c++) {
      if (seen.get(c)) continue;
      long from = (long) c * perChunk;
      int n = (int) Math.min(perChunk, sectors() - from);
      if (!Digests.isChunk(base(), from, n, chunks.get(c))) {
        throw new ShedException(
            "The shelf's file "
                + name()
                + " has changed on the disk since it was kept: sectors "
                + Say.count(from)
                + " to "
                + Say.count(from + n - 1)
                + " are not what their digest says. Nothing is made from it. Bring a good copy in"
                + " again; it takes its place.");
      }
      seen.set(c);
    }
  }
}
