package lanternshed.core.fault;

import java.util.Map;

/**
 * A kind of part as data ({@code /faults/kinds.json}): how often it is the fault, what it costs to
 * borrow a good one, how it is tested alone.
 *
 * @param prior how often this kind is the fault on machines of this age, of 1000; an estimate that
 *     the screen shows and that {@link Suspicion} moves
 * @param storage whether a card and adapter take this part's place
 * @param spare whether a known good one can be tried in its place
 * @param borrow what it takes to try a known good one
 * @param alone how it is tested by itself; its text is empty where it cannot be
 * @param wanders of 1000 faults of this kind so many come and go
 * @param shows of 1000 tests that meet one which comes and goes so many show it
 * @param quarrels kinds with which it may disagree though both are good, and how often, of 1000
 */
public record PartKind(
    String key,
    String name,
    int prior,
    boolean storage,
    boolean spare,
    Cost borrow,
    Alone alone,
    int wanders,
    int shows,
    Map<String, Integer> quarrels) {

  /**
   * A test of the part by itself.
   *
   * @param text "Measure the rails at the drive plug, under load"; "" for none
   * @param reading whether it is a reading, which clears the part for every operation (D-5)
   */
  public record Alone(String text, boolean reading, Cost cost) {}

  public PartKind {
    quarrels = Map.copyOf(quarrels);
  }
}
