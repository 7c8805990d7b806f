package lanternshed.core.fault;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import lanternshed.core.fault.Posterior.H;

/** The one test that carries a verdict alone. */
final class Hinge {
  private Hinge() {}

  /**
   * The test without which nothing would be named, where it was done once (D-13): one in fifty is
   * misread. An exchange that was undone has been repeated by that.
   */
  static Optional<Trial> of(Posterior p, Explanations all) {
    if (all.first().share() < Verdicts.ENOUGH) return Optional.empty();
    List<H> left = all.likeliest();
    List<Integer> named = all.first().elements();
    Set<Trial> undone =
        p.evidence.exchanges.stream()
            .flatMap(e -> Stream.of(e.first(), e.between(), e.back()))
            .collect(Collectors.toSet());
    Map<String, double[][]> foretold = new HashMap<>();
    for (Trial t : p.trials()) {
      if (undone.contains(t) || repeated(p, t)) continue;
      double[][] bad = foretold.computeIfAbsent(t.operation(), o -> reportedToFail(p, left, o));
      long parts = p.bits(t.parts());
      double with = 0;
      double sum = 0;
      for (int i = 0; i < bad.length; i++) {
        H h = left.get(i);
        double fails = bad[i][p.met(h, parts, t.isReading())];
        double without = h.share() / (t.bad() > 0 ? fails : 1 - fails);
        sum += without;
        if (names(h, named)) with += without;
      }
      if (with < sum / 2) return Optional.of(t);
    }
    return Optional.empty();
  }

  private static double[][] reportedToFail(Posterior p, List<H> hypotheses, String operation) {
    double[][] out = new double[hypotheses.size()][Posterior.CASES];
    for (int i = 0; i < out.length; i++) p.reportedToFail(hypotheses.get(i), operation, out[i]);
    return out;
  }

  private static boolean names(H h, List<Integer> elements) {
    if (h.a() == Posterior.NONE) return elements.isEmpty();
    boolean both = h.b() == Posterior.NONE || elements.contains(h.b() / 2);
    return elements.contains(h.a() / 2) && both;
  }

  private static boolean repeated(Posterior p, Trial t) {
    if (t.good() + t.bad() > 1) return true;
    return p.trials().stream()
        .anyMatch(
            u ->
                u.number() != t.number()
                    && u.operation().equals(t.operation())
                    && u.parts().equals(t.parts())
                    && u.bad() > 0 == t.bad() > 0);
  }
}
