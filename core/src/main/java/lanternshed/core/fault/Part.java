package lanternshed.core.fault;

/**
 * A part in play.
 *
 * @param group parts that may misbehave alike with one other part, "newer drives"; "" for none
 * @param fitted whether it is in the machine as it came; else it lies on the bench
 * @param swap what it takes to put it in
 * @param traits by which the board groups parts itself
 */
public record Part(
    String id,
    String name,
    String kind,
    String group,
    boolean fitted,
    Cost swap,
    Suspicion suspicion,
    Traits traits) {

  /**
   * What is known of a part beside its kind; 0 for what is not.
   *
   * @param year in which it was made
   * @param megabytes that it holds, decimal
   * @param tenthsOfVolt at which it works: 33 or 50
   */
  public record Traits(int year, int megabytes, int tenthsOfVolt) {
    public static final Traits NONE = new Traits(0, 0, 0);
  }

  /** A part of which no more is known. */
  public Part(
      String id,
      String name,
      String kind,
      String group,
      boolean fitted,
      Cost swap,
      Suspicion suspicion) {
    this(id, name, kind, group, fitted, swap, suspicion, Traits.NONE);
  }
}
