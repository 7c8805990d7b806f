package lanternshed.core.volume;

import java.io.ByteArrayOutputStream;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;

/** What makers of small disks share: such a disk is put together in memory. */
public final class SmallMaker {

  private SmallMaker() {}

  /**
   * What the files need and what the disk has.
   *
   * @param units what its sectors are called, "blocks"
   * @param most files that its catalogue has room for
   */
  public static Maker.Fit fit(
      String units, long needed, long there, int files, int most, String because) {
    Sum sum =
        Sum.of("F-16", "Does it fit")
            .line("", units + " of files", needed)
            .line(needed <= there ? "≤" : ">", "there", there)
            .line("", "files", files)
            .line(files <= most ? "≤" : ">", "entries there", most)
            .because(because)
            .done();
    return new Maker.Fit(needed, there, files, most, sum);
  }

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
