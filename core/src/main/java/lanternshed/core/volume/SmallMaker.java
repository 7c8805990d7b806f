package lanternshed.core.volume;

import java.io.ByteArrayOutputStream;
import lanternshed.core.measure.Say;

/** What makers of small disks share: such a disk is put together in memory. */
public final class SmallMaker {

  private SmallMaker() {}

  /**
   * Refuses files that do not fit, before anything is written.
   *
   * @throws VolumeException with the figures
   */
  public static void refuse(Maker.Fit fit) {
    if (fit.fits()) return;
    throw new VolumeException(
        "The files need "
            + fit.needed()
            + " sectors and "
            + fit.rootNeeded()
            + " entries; there are "
            + fit.there()
            + " and "
            + fit.rootEntries()
            + ": take another disk for some of them.");
  }

  /**
   * A file's content, which fits on the disk.
   *
   * @throws VolumeException where its source gives another length than announced
   */
  public static byte[] content(FileSet.Item i) {
    ByteArrayOutputStream out = new ByteArrayOutputStream((int) i.bytes());
    i.copyTo(out::write);
    if (out.size() == i.bytes()) return out.toByteArray();
    throw new VolumeException(
        i.path()
            + " was announced with "
            + Say.bytes(i.bytes())
            + " and gave "
            + Say.bytes(out.size())
            + ".");
  }
}
