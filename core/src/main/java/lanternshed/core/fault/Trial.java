package lanternshed.core.fault;

import java.util.Set;

/**
 * One test that was done (D-1): which parts took part, what was asked of them, how it went.
 *
 * @param number as the board shows it
 * @param parts ids of {@link Part}
 * @param operation "lists drive C"; {@link #READING} for a reading, which speaks for every
 *     operation
 */
public record Trial(
    int number, String title, Set<String> parts, String operation, Outcome outcome, String words) {
  public static final String READING = "reading";

  /** Partly is a failure for the reasoning: something in it does not do all that was asked. */
  public enum Outcome {
    WORKS,
    FAILS,
    PARTLY;

    boolean fails() {
      return this != WORKS;
    }
  }

  public Trial {
    parts = Set.copyOf(parts);
  }
}
