package lanternshed.core.fault;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import lanternshed.core.fault.Posterior.H;

/**
 * What is likely, told simply (D-14): hypotheses that name the same elements are one explanation,
 * steady or not; and a second element that explains next to nothing beside the first is left out of
 * it.
 */
final class Explanations {
  /** Two things are told of only where together they fit so many times better than either alone. */
  static final double BETTER = 4;

  /**
   * One explanation.
   *
   * @param elements one or two, by index; none where nothing is wrong
   * @param share of 1
   * @param wanders the part of the share in which it comes and goes
   * @param best the likeliest hypothesis in it
   */
  record One(List<Integer> elements, double share, double wanders, H best) {}

  private Explanations() {}

  /** The likeliest first; their shares sum to 1. */
  static List<One> of(Posterior p) {
    Map<List<Integer>, One> all = new LinkedHashMap<>();
    for (H h : p.hypotheses()) {
      List<Integer> key = elements(p, h);
      boolean wanders =
          h.a() >= 0 && Posterior.wanders(h.a()) || h.b() >= 0 && Posterior.wanders(h.b());
      One now = all.get(key);
      double w = wanders ? h.share() : 0;
      all.put(
          key,
          now == null
              ? new One(key, h.share(), w, h)
              : new One(key, now.share() + h.share(), now.wanders() + w, now.best()));
    }
    List<One> out = new ArrayList<>(all.values());
    out.sort(Comparator.comparingDouble(One::share).reversed());
    return out;
  }

  private static List<Integer> elements(Posterior p, H h) {
    if (h.a() < 0) return List.of();
    if (h.b() < 0) return List.of(h.a() / 2);
    double a = p.fitAlone(h.a());
    double b = p.fitAlone(h.b());
    if (h.fit() - Math.max(a, b) < Math.log(BETTER)) return List.of((a >= b ? h.a() : h.b()) / 2);
    return List.of(h.a() / 2, h.b() / 2);
  }
}
