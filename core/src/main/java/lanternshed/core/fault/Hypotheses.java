package lanternshed.core.fault;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;

/**
 * Everything that can be wrong, weighed by the tests. An element is <i>cleared for an operation</i>
 * by a passing test of that operation (or a good reading) that met it; it <i>covers</i> a failing
 * test that met it and for whose operation it is not cleared. One or two elements that cover every
 * failing test are a hypothesis that no test contradicts.
 */
final class Hypotheses {
  /** A fault that shows in one operation and not in another is rarer, by this factor each. */
  static final double SELECTIVE = 0.3;

  /** A fault not seen in an operation yet will show there this often. */
  static final double SHOWS = 0.8;

  final World world;
  final List<Element> elements;
  final List<Trial> failing;
  private final List<String> operations;
  private final Map<String, Integer> indexes;

  /** Bit of each failing test that the element covers. */
  final long[] covers;

  /** Bit of each operation for which the element is cleared. */
  final long[] cleared;

  final double[] weight;
  final long all;
  private final long[] failingOf;

  /** One hypothesis: index of an element, index of a second or -1, weight. */
  record H(int a, int b, double weight) {}

  Hypotheses(World world) {
    this.world = world;
    this.indexes = world.indexes();
    this.elements = Element.all(world);
    this.failing = world.trials().stream().filter(t -> t.outcome().fails()).toList();
    this.operations = world.trials().stream().map(Trial::operation).distinct().limit(62).toList();
    this.covers = new long[elements.size()];
    this.cleared = new long[elements.size()];
    this.weight = new double[elements.size()];
    this.all = (1L << failing.size()) - 1;
    this.failingOf = new long[operations.size()];
    long[] parts = new long[world.trials().size()];
    for (int t = 0; t < parts.length; t++) {
      parts[t] = World.bits(indexes, world.trials().get(t).parts());
    }
    int f = 0;
    for (int t = 0; t < parts.length; t++) {
      if (!world.trials().get(t).outcome().fails()) continue;
      failingOf[operation(world.trials().get(t).operation())] |= 1L << f++;
    }
    for (int e = 0; e < elements.size(); e++) weigh(e, parts);
  }

  private void weigh(int e, long[] parts) {
    Element el = elements.get(e);
    for (int t = 0; t < parts.length; t++) {
      Trial trial = world.trials().get(t);
      if (trial.outcome().fails() || !meets(el, parts[t], trial.operation())) continue;
      cleared[e] |= isReading(trial.operation()) ? -1L : 1L << operation(trial.operation());
    }
    int f = 0;
    for (int t = 0; t < parts.length; t++) {
      Trial trial = world.trials().get(t);
      if (!trial.outcome().fails()) continue;
      boolean clear = (cleared[e] & 1L << operation(trial.operation())) != 0;
      if (!clear && meets(el, parts[t], trial.operation())) covers[e] |= 1L << f;
      f++;
    }
    double w = prior(el);
    for (int o = 0; o < operations.size(); o++) {
      if ((cleared[e] & 1L << o) != 0) w *= SELECTIVE;
    }
    weight[e] = w;
  }

  static boolean isReading(String operation) {
    return operation.equals(Trial.READING);
  }

  /** Readings are taken on single parts: a pair that quarrels reads well. */
  static boolean meets(Element e, long parts, String operation) {
    return e.in(parts) && (e.single() || !isReading(operation));
  }

  private int operation(String name) {
    int i = operations.indexOf(name);
    return i < 0 ? 63 : i;
  }

  double prior(Element e) {
    List<Part> one = partsOf(e.one());
    List<Part> other = partsOf(e.other());
    if (e.single()) {
      Part p = one.get(0);
      return PartKinds.get(p.kind()).prior()
          / 1000.0
          * p.suspicion().factor()
          * Symptom.factor(world.symptoms(), p.kind());
    }
    return other.stream()
            .mapToDouble(p -> PartKinds.quarrel(one.get(0).kind(), p.kind()))
            .average()
            .orElse(PartKinds.RARE_QUARREL)
        / 1000;
  }

  List<Part> partsOf(long bits) {
    List<Part> out = new ArrayList<>();
    for (int i = 0; i < world.parts().size(); i++) {
      if ((bits & 1L << i) != 0) out.add(world.parts().get(i));
    }
    return out;
  }

  long bits(Iterable<String> ids) {
    return World.bits(indexes, ids);
  }

  /**
   * The minimal explanations: consistent, and not so when one of the two is left out. The heaviest
   * first.
   */
  List<H> minimal() {
    return collect(true);
  }

  /** Every consistent hypothesis, also those whose second element has nothing to explain yet. */
  List<H> consistent() {
    return collect(false);
  }

  private List<H> collect(boolean onlyMinimal) {
    List<H> out = new ArrayList<>();
    for (int a = 0; a < covers.length; a++) {
      if (covers[a] == all) out.add(new H(a, -1, weight[a]));
    }
    for (int a = 0; a < covers.length; a++) {
      if (onlyMinimal && (covers[a] == all || covers[a] == 0)) continue;
      for (int b = a + 1; b < covers.length; b++) {
        if ((covers[a] | covers[b]) != all) continue;
        if (onlyMinimal && (covers[b] == all || covers[b] == 0)) continue;
        out.add(new H(a, b, weight[a] * weight[b]));
      }
    }
    out.sort(Comparator.comparingDouble(H::weight).reversed());
    return out;
  }

  boolean possible() {
    for (int a = 0; a < covers.length; a++) {
      for (int b = a; b < covers.length; b++) if ((covers[a] | covers[b]) == all) return true;
    }
    return false;
  }

  /** How likely a test with these parts fails if the hypothesis is true. */
  double fails(H h, long parts, String operation) {
    int o = operation(operation);
    double a = shows(h.a(), h.b(), parts, operation, o);
    double b = h.b() < 0 ? 0 : shows(h.b(), h.a(), parts, operation, o);
    return 1 - (1 - a) * (1 - b);
  }

  private double shows(int e, int other, long parts, String operation, int o) {
    if (!meets(elements.get(e), parts, operation) || (cleared[e] & 1L << o) != 0) return 0;
    if (o == 63) return SHOWS;
    long alone = covers[e] & failingOf[o];
    if (other >= 0) alone &= ~covers[other];
    return alone != 0 ? 1 : SHOWS;
  }

  String name(H h) {
    String a = name(elements.get(h.a()));
    return h.b() < 0 ? a : a + ", and " + name(elements.get(h.b()));
  }

  String name(Element e) {
    String one = partsOf(e.one()).get(0).name();
    if (e.single()) return one;
    return one + " × " + (e.group().isEmpty() ? partsOf(e.other()).get(0).name() : e.group());
  }
}
