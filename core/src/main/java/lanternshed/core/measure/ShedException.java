package lanternshed.core.measure;

/**
 * Work that cannot go on. The message is one sentence that a person can use: what happened, to
 * what, why, and what to do.
 */
public class ShedException extends RuntimeException {
  public ShedException(String sentence) {
    super(sentence);
  }

  public ShedException(String sentence, Throwable cause) {
    super(sentence, cause);
  }
}
