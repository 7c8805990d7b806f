package lanternshed.core.work;

import lanternshed.core.measure.ShedException;

/** Long work stops before its end, as asked or because it must; what it has is kept. */
public class StoppedException extends ShedException {
  public StoppedException(String sentence) {
    super(sentence);
  }
}
