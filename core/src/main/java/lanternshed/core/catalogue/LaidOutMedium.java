package lanternshed.core.catalogue;

import java.util.List;
import java.util.Optional;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.Wrapper;
import lanternshed.core.table.TableEntry;
import lanternshed.core.volume.Recognised;

/**
 * A medium without a table of which somebody says how it lies: whoever opens it finds the volume of
 * those figures, and nothing is guessed.
 */
public final class LaidOutMedium extends Wrapper {
  private final Recognised found;

  /**
   * @param layout a filesystem that writes no mark of its own, and its figures:
   *     "cpm:offset=4096,block=2048,entries=64"
   * @throws lanternshed.core.measure.ShedException where there is no such filesystem, or its
   *     figures make no volume of this medium
   */
  public LaidOutMedium(Medium base, String layout) {
    super(base);
    String[] kind = layout.split(":", 2);
    found = Catalogue.laidOut(kind[0], base, kind.length > 1 ? kind[1] : "");
  }

  Opener.Opened opened() {
    TableEntry all = TableEntry.plain(0, 0, sectors(), "no table", false, 0);
    Opener.Part part = new Opener.Part(all, Optional.of(base()), Optional.of(found));
    return new Opener.Opened(Optional.empty(), List.of(), List.of(part));
  }
}
