package lanternshed.core.cpu;

import java.util.Optional;

/** A run ended: by the processor itself, or because what is around it has seen enough. */
public final class Stop extends RuntimeException {
  private static final long serialVersionUID = 1;
  private final String what;
  private final boolean leaves;
  private final Level needs;

  /**
   * @param what in a sentence
   */
  public Stop(String what) {
    this(what, false);
  }

  Stop(String what, boolean leaves) {
    this(what, leaves, null);
  }

  /**
   * @param needs the least processor that would go on
   */
  Stop(String what, boolean leaves, Level needs) {
    super(what, null, false, false);
    this.what = what;
    this.leaves = leaves;
    this.needs = needs;
  }

  /** The least processor that has the instruction; empty where it ended for another reason. */
  public Optional<Level> needs() {
    return Optional.ofNullable(needs);
  }

  /** Whether it leaves what is followed here, rather than failing. */
  public boolean leaves() {
    return leaves;
  }

  public String what() {
    return what;
  }
}
