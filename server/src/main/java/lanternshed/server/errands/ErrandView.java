package lanternshed.server.errands;

/**
 * How an errand stands.
 *
 * @param done bytes of {@code total}; 0 of 0 while it waits for its turn
 * @param sentence why it failed; else ""
 * @param made number of the image or medium that it made; 0 where it made none
 */
public record ErrandView(
    String id,
    State state,
    String phase,
    long done,
    long total,
    String doneText,
    String leftText,
    String sentence,
    long made) {

  /** How it stands. */
  public enum State {
    RUNNING,
    DONE,
    STOPPED,
    FAILED
  }
}
