package lanternshed.core.medium;

/** A sector that takes nothing; a full disk or a medium that may not be written is none of that. */
public final class UnwritableException extends MediumException {
  public UnwritableException(String sentence) {
    super(sentence);
  }

  public UnwritableException(String sentence, Throwable cause) {
    super(sentence, cause);
  }
}
