package lanternshed.core.fault;

import java.util.Comparator;
import java.util.List;
import java.util.PriorityQueue;
import lanternshed.core.fault.Posterior.H;

/**
 * The likeliest hypotheses, of any number that are walked by. The next test is chosen to tell these
 * apart; what share of all they hold is known.
 */
final class Head {
  /** So many hypotheses hold nearly all there is on any board that has been tested at all. */
  static final int MOST = 1500;

  private final PriorityQueue<H> kept =
      new PriorityQueue<>(MOST, Comparator.comparingDouble(H::share));

  /** What weighs no more is not taken any more. */
  private double least = -1;

  /** What weighs no more is not kept. */
  double least() {
    return least;
  }

  /**
   * @param weight how likely it is, against the others
   */
  void take(int a, int b, double fit, double weight) {
    if (weight <= least) return;
    if (kept.size() == MOST) kept.poll();
    kept.add(new H(a, b, fit, weight));
    if (kept.size() == MOST) least = kept.peek().share();
  }

  /**
   * The likeliest first.
   *
   * @param total the weight of all hypotheses
   */
  List<H> hypotheses(double total) {
    return kept.stream()
        .sorted(Comparator.comparingDouble(H::share).reversed())
        .map(h -> new H(h.a(), h.b(), h.fit(), h.share() / total))
        .toList();
  }
}
