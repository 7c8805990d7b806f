package lanternshed.core.medium;

import lanternshed.core.measure.ShedException;

/** A medium that cannot do what was asked: outside its bounds, read-only, full or gone. */
public class MediumException extends ShedException {
  public MediumException(String sentence) {
    super(sentence);
  }

  public MediumException(String sentence, Throwable cause) {
    super(sentence, cause);
  }
}
