package lanternshed.core.fault;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import lanternshed.core.measure.ShedException;

/**
 * The parts in play, the tests done with them, and the symptoms that were noticed.
 *
 * @param symptoms keys of {@link Symptom}; they move the priors of kinds
 */
public record World(List<Part> parts, List<Trial> trials, List<String> symptoms) {
  /** A set of parts is kept in the bits of a long. */
  public static final int MOST_PARTS = 40;

  public static final int MOST_TRIALS = 120;

  /** Repetitions counted; more than that and the shares of what is left say nothing any more. */
  static final int MOST_TIMES = 150;

  public World {
    parts = List.copyOf(parts);
    trials = List.copyOf(trials);
    symptoms = List.copyOf(symptoms);
    if (parts.size() > MOST_PARTS) {
      throw new ShedException(
          "A board holds " + MOST_PARTS + " parts; take out those that no test can involve.");
    }
    int times = trials.stream().mapToInt(t -> t.good() + t.bad()).sum();
    if (trials.size() > MOST_TRIALS || times > MOST_TIMES) {
      throw new ShedException(
          "A board holds "
              + MOST_TRIALS
              + " tests with "
              + MOST_TIMES
              + " tries in all; take out repetitions.");
    }
  }

  Map<String, Integer> indexes() {
    Map<String, Integer> out = new HashMap<>();
    for (int i = 0; i < parts.size(); i++) out.put(parts.get(i).id(), i);
    return out;
  }

  /** The parts in these bits, in their order. */
  List<Part> partsOf(long bits) {
    List<Part> out = new ArrayList<>();
    for (long left = bits; left != 0; left &= left - 1) {
      out.add(parts.get(Long.numberOfTrailingZeros(left)));
    }
    return out;
  }

  /**
   * The parts as bits.
   *
   * @throws ShedException when one is not on the board
   */
  static long bits(Map<String, Integer> indexes, Iterable<String> ids) {
    long out = 0;
    for (String id : ids) {
      Integer i = indexes.get(id);
      if (i == null)
        throw new ShedException("A test names a part that is not on the board: " + id + ".");
      out |= 1L << i;
    }
    return out;
  }
}
