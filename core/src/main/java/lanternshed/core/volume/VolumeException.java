package lanternshed.core.volume;

import lanternshed.core.measure.ShedException;

/** A volume that does not hold what was asked of it. */
public class VolumeException extends ShedException {
  public VolumeException(String sentence) {
    super(sentence);
  }
}
