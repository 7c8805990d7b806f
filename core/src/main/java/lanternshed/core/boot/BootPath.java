package lanternshed.core.boot;

import java.util.Optional;
import java.util.function.LongFunction;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Place;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.Mending;

/** How one kind of machine starts: the face of each package of boot. */
public interface BootPath {

  /**
   * Walks the chain on the bytes of a medium.
   *
   * @param target what the target firmware's disk call shows
   * @param reach sectors that the boot path can reach
   */
  BootChain walk(Medium medium, Geometry target, long reach);

  /** Code of our own that goes with the table. */
  byte[] tableCode();

  /**
   * Code of our own for a volume.
   *
   * @param kind published name of the volume, "FAT16"
   * @param contract of the system that is to start, as its generation names it (B-9)
   * @param systemFile the loader that it starts
   * @return empty where our own code meets no contract of that kind (B-9)
   */
  byte[] volumeCode(String kind, String contract, String systemFile);

  /**
   * What a start computes with, put right for one geometry; nothing of it is written yet.
   *
   * @return empty where starts of this family are not mended
   */
  default Optional<Mending> mending(Medium medium, Geometry target) {
    return Optional.empty();
  }

  /**
   * The same bytes, read as if one entry of the table alone were marked as the one that starts.
   *
   * @param entry counted from 1; 0 for none
   * @return the medium itself where this way of starting knows no such mark
   */
  default Medium marked(Medium medium, int entry) {
    return medium;
  }

  /**
   * Runs what is on a medium as the machine would; nothing of it is changed.
   *
   * @param what says what lies at a sector; empty for nothing that is known
   * @return empty where this way of starting is not run here
   */
  default Optional<Rehearsal> rehearse(
      Medium medium, Around around, LongFunction<Optional<Place>> what) {
    return Optional.empty();
  }
}
