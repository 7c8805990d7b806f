package lanternshed.core.work;

import lanternshed.core.measure.ShedException;

/** The user asked long work to stop; what it has is kept. */
public final class StoppedException extends ShedException {
  public StoppedException(String sentence) {
    super(sentence);
  }
}
