package lanternshed.core.fault;

import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Sum;

/**
 * What the tests say (D-2, D-3).
 *
 * @param explanations the minimal explanations, the likeliest first; at most {@link
 *     Reasoner#MOST_SHOWN}
 * @param others minimal explanations that are not listed
 * @param othersShare of 1000
 * @param parts one for each part of the world, in its order
 * @param contradiction tests that cannot all be true, where there are any
 * @param next the tests to do next, the best first; at most three
 */
public record Reasoning(
    List<Explanation> explanations,
    long others,
    int othersShare,
    List<PartState> parts,
    Optional<Contradiction> contradiction,
    List<Advice> next,
    String nextNote,
    Conclusion verdict) {

  /**
   * One or two causes that together explain every failure and contradict no pass.
   *
   * @param share of 1000 among what is left
   * @param explains failing tests that it accounts for
   * @param agrees passing tests that its parts took part in, without contradiction
   */
  public record Explanation(
      String name,
      List<Cause> causes,
      int share,
      List<Integer> explains,
      List<Integer> agrees,
      Sum sum) {}

  /**
   * @param parts one id for a single part, two for a pair; for a group the part and all members
   * @param group name of the group, or ""
   */
  public record Cause(String name, List<String> parts, String group) {}

  /**
   * @param state "left" (alone explains all), "pair" (only together with another), "cleared",
   *     "aside" (in no failing test)
   * @param clearedBy tests that show it works where something failed
   */
  public record PartState(String id, String state, List<Integer> clearedBy, String because) {}

  public record Contradiction(List<Integer> trials, String sentence) {}

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
   * @param kind "open", "storage", "other", "pair" (one of two with a storage part), "both"
   */
  public record Conclusion(
      String kind, String sentence, List<String> evidence, List<String> parts, Sum sum) {}
}
