package lanternshed.core.measure;

import java.util.List;

/**
 * What was found wrong or worth knowing: what, where, why it matters and what to do, with the rule
 * and the sum behind it.
 *
 * @param rule id as in the handbook, "F-9"
 * @param weight how much it stops
 * @param where the place: "sector 0", "C:\\PATTERNS\\HERON.PAT", "FAT 2, entry 117"
 * @param what one clear sentence: what is there and why that matters
 * @param todo what to do about it; empty when nothing has to be done
 * @param because the arithmetic; may have no lines
 */
public record Finding(
    String rule, Weight weight, String where, String what, String todo, Sum because) {

  /** Sorted by what it stops: the first stops the work, the last is only worth knowing. */
  public enum Weight {
    STOPS,
    WRONG,
    NOTE
  }

  public static Finding stops(String rule, String where, String what, String todo) {
    return of(rule, Weight.STOPS, where, what, todo);
  }

  public static Finding wrong(String rule, String where, String what, String todo) {
    return of(rule, Weight.WRONG, where, what, todo);
  }

  public static Finding note(String rule, String where, String what) {
    return of(rule, Weight.NOTE, where, what, "");
  }

  public static Finding of(String rule, Weight weight, String where, String what, String todo) {
    return new Finding(
        rule, weight, where, what, todo, new Sum(rule, where, List.of(), what, List.of()));
  }

  public Finding because(Sum sum) {
    return new Finding(rule, weight, where, what, todo, sum);
  }
}
