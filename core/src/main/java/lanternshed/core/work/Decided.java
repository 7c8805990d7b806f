package lanternshed.core.work;

import lanternshed.core.measure.ShedException;
import lanternshed.core.volume.Volume;

/** Lets through only volumes whose layout is no guess: by a wrong one files would come torn. */
final class Decided {
  private Decided() {}

  /**
   * @param so what is not done therefore, as the end of a sentence
   * @throws ShedException where several ways of lying explain it equally
   */
  static Volume volume(Volume v, String so) {
    if (v.guesses().isEmpty()) return v;
    throw new ShedException(
        "How this volume lies is a guess, so "
            + so
            + ". Look into a file whose content you know, and say then how the volume lies.");
  }
}
