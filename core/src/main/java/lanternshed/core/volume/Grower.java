package lanternshed.core.volume;

import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.Medium;

/** Writes a volume anew with more units, every unit where it was (F-10). */
public interface Grower {

  /** Is told how far the copying is. */
  interface Watch {
    void at(long sectors, long all);
  }

  /**
   * Grows into {@code to}, whose sector 0 is the new volume's first.
   *
   * @param sectors of the new volume, of 512 bytes
   * @param start first sector of it on its medium
   * @param code boot code; empty for a sector that says there is nothing to start
   * @throws VolumeException where its units cannot number so many, before anything is written
   */
  void grow(Volume old, Medium to, long sectors, Geometry g, long start, byte[] code, Watch watch);
}
