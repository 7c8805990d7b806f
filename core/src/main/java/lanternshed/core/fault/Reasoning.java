package lanternshed.core.fault;

import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Sum;

/**
 * What the tests say (D-2, D-3, D-13).
 *
 * @param explanations the likeliest, with what is left out of them; at most {@link
 *     Reasoner#MOST_SHOWN}
 * @param others explanations above one in a thousand that are not listed
 * @param othersShare of 1000, of all that is not listed
 * @param parts one for each part of the world, in its order
 * @param doubt what does not fit, where something does not
 * @param offers groups that the board put together and that explain more than single parts do
 * @param next the tests to do next, the best first; at most three
 */
public record Reasoning(
    List<Explanation> explanations,
    long others,
    int othersShare,
    List<PartState> parts,
    Optional<Doubt> doubt,
    List<Offer> offers,
    List<Advice> next,
    String nextNote,
    Conclusion verdict) {

  /**
   * One or two causes that together explain the failures.
   *
   * @param share of 1000
   * @param wanders whether more likely it comes and goes than is always there
   * @param explains failing tests that it accounts for
   * @param agrees passing tests that its parts took part in
   */
  public record Explanation(
      String name,
      List<Cause> causes,
      int share,
      boolean wanders,
      List<Integer> explains,
      List<Integer> agrees,
      Sum sum) {}

  /**
   * @param parts one id for a single part, two for a pair; for a group the part and all members
   * @param group name of the group, or ""
   */
  public record Cause(String name, List<String> parts, String group) {}

  /**
   * @param state "left" (it may be the fault by itself), "pair" (only together with another),
   *     "cleared" (below one in a hundred), "aside" (in no failing test)
   * @param share of 1000: how likely it is the fault by itself
   * @param clearedBy tests that speak for it
   */
  public record PartState(
      String id, String state, int share, List<Integer> clearedBy, String because) {}

  /** Tests that do not fit the likeliest explanation; the repeat of one of them tells most. */
  public record Doubt(List<Integer> trials, String sentence) {}

  /**
   * A group that was not named: "all that failed are newer than 1993".
   *
   * @param parts members of the group
   */
  public record Offer(String group, List<String> parts, int share, String sentence) {}

  /**
   * A test that could be done.
   *
   * @param control it replaces or tests one part with something known good (D-4)
   * @param bits expected split in thousandths of a bit
   */
  public record Advice(
      String title,
      List<String> parts,
      String operation,
      Cost cost,
      boolean control,
      int bits,
      OutcomeLeaves works,
      OutcomeLeaves fails,
      Sum sum) {}

  /**
   * @param share of 1000: how likely this outcome is
   * @param leaves the likeliest explanations after it
   * @param then the best test after it; "" when nothing is left to split
   */
  public record OutcomeLeaves(int share, List<String> leaves, String then) {}

  /**
   * What it means for the job.
   *
   * @param kind "open", "storage", "other", "pair" (storage together with another part), "both"
   * @param leads the kind that leads while it is open; the same as {@code kind} where it is decided
   * @param odds of 1000, of the kind that leads
   * @param parts those that are named: one that alone holds 0.9, or a pair that does; else none
   * @param remain parts that may still be the fault
   */
  public record Conclusion(
      String kind,
      String leads,
      int odds,
      String sentence,
      List<String> evidence,
      List<String> parts,
      List<String> remain,
      Sum sum) {}
}
