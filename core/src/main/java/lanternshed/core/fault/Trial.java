package lanternshed.core.fault;

import java.util.Set;
import lanternshed.core.measure.ShedException;

/**
 * One test that was done (D-1): which parts took part, what was asked of them, how it went.
 *
 * @param number as the board shows it, in the order in which they were done
 * @param parts ids of {@link Part}
 * @param operation "lists drive C"; {@link #READING} for a reading, which speaks for every
 *     operation
 * @param worked of {@link Outcome#SOMETIMES}: how often it worked
 * @param of of {@link Outcome#SOMETIMES}: how often it was tried
 */
public record Trial(
    int number,
    String title,
    Set<String> parts,
    String operation,
    Outcome outcome,
    String words,
    int worked,
    int of) {
  public static final String READING = "reading";

  /** So many repetitions of one test tell all that repeating it can. */
  public static final int MOST_TIMES = 20;

  /**
   * How it went, and how often people misjudge that (D-13). Bad ones say that something in it does
   * not do all that was asked.
   */
  public enum Outcome {
    WORKS(false, 0.02, "works"),
    FAILS(true, 0.02, "fails"),
    SOMETIMES(true, 0.02, "works now and then"),
    PARTLY(true, 0.05, "works partly"),
    SLOW(true, 0.2, "works, but slowly"),
    /** Looked at, and it says neither. */
    NOTED(false, 0.5, "is noted"),
    /** No test: something was done to these parts, so that what was before counts less for them. */
    CHANGED(false, 0.5, "something was done to it");

    private final boolean bad;
    private final double misread;
    private final String words;

    Outcome(boolean bad, double misread, String words) {
      this.bad = bad;
      this.misread = misread;
      this.words = words;
    }

    double misread() {
      return misread;
    }

    public String words() {
      return words;
    }
  }

  public Trial {
    parts = Set.copyOf(parts);
    if (outcome == Outcome.SOMETIMES && (of < 2 || of > MOST_TIMES || worked < 0 || worked > of)) {
      throw new ShedException(
          "Say how often it worked, and of how many tries: 2 to " + MOST_TIMES + ".");
    }
  }

  /** A test that was done once. */
  public Trial(
      int number,
      String title,
      Set<String> parts,
      String operation,
      Outcome outcome,
      String words) {
    this(number, title, parts, operation, outcome, words, 0, 0);
  }

  /** Whether it tells anything of what works and what does not. */
  boolean tells() {
    return outcome != Outcome.NOTED && outcome != Outcome.CHANGED;
  }

  /** How many times something in it failed. */
  int bad() {
    if (outcome == Outcome.SOMETIMES) return of - worked;
    return outcome.bad ? 1 : 0;
  }

  /** How many times all in it worked. */
  int good() {
    if (outcome == Outcome.SOMETIMES) return worked;
    return outcome == Outcome.WORKS ? 1 : 0;
  }

  boolean isReading() {
    return operation.equals(READING);
  }
}
