package lanternshed.core.cpu;

/** A run ended: by the processor itself, or because what is around it has seen enough. */
public final class Stop extends RuntimeException {
  private static final long serialVersionUID = 1;
  private final String what;
  private final boolean leaves;

  /**
   * @param what in a sentence
   */
  public Stop(String what) {
    this(what, false);
  }

  Stop(String what, boolean leaves) {
    super(what, null, false, false);
    this.what = what;
    this.leaves = leaves;
  }

  /** Whether it leaves what is followed here, rather than failing. */
  public boolean leaves() {
    return leaves;
  }

  public String what() {
    return what;
  }
}
