package lanternshed.core.fault;

/** What is known of one part beside its kind: moves the prior by a stated factor. */
public enum Suspicion {
  LESS(1 / 3.0, "less likely than its kind"),
  USUAL(1, "as its kind"),
  MORE(3, "more likely than its kind");

  private final double factor;
  private final String text;

  Suspicion(double factor, String text) {
    this.factor = factor;
    this.text = text;
  }

  double factor() {
    return factor;
  }

  public String text() {
    return text;
  }
}
