package lanternshed.server.shell;

/** Two hands on one thing: what was asked does not fit what is there now. */
public class ConflictException extends RuntimeException {
  public ConflictException(String sentence) {
    super(sentence);
  }
}
