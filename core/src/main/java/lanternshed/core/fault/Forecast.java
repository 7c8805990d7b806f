package lanternshed.core.fault;

import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import lanternshed.core.fault.Advisor.Candidate;
import lanternshed.core.fault.Posterior.H;

/**
 * What the likeliest hypotheses foretell of tests that could be done. For an operation a hypothesis
 * foretells only four things: of a test that meets neither of its elements, the first, the second,
 * or both. Hypotheses of the same elements meet the same tests, whatever their modes: they are one
 * row.
 */
final class Forecast {
  private static final int CASES = Posterior.CASES;

  private final Posterior posterior;
  private final List<H> hypotheses;
  private final int[] rowOf;

  /** The likeliest hypothesis of each row. */
  private final H[] rows;

  private final Map<String, double[]> tables = new HashMap<>();
  private final List<Candidate> candidates;

  /** By candidate and row: which elements it meets, as {@link Posterior#met} counts them. */
  private final byte[][] met;

  Forecast(Posterior posterior, List<H> hypotheses, List<Candidate> candidates) {
    this.posterior = posterior;
    this.hypotheses = hypotheses;
    this.rowOf = new int[hypotheses.size()];
    Map<Long, Integer> numbers = new LinkedHashMap<>();
    for (int i = 0; i < rowOf.length; i++) {
      H h = hypotheses.get(i);
      rowOf[i] =
          numbers.computeIfAbsent(
              (long) (h.a() >> 1) << 32 | (h.b() >> 1) & 0xffffffffL, k -> numbers.size());
    }
    this.rows = new H[numbers.size()];
    for (int i = 0; i < rowOf.length; i++) {
      if (rows[rowOf[i]] == null) rows[rowOf[i]] = hypotheses.get(i);
    }
    this.candidates = candidates;
    this.met = candidates.stream().map(this::meet).toArray(byte[][]::new);
  }

  /** The weights of hypotheses of the same elements, added up by row. */
  double[] byElements(double[] weight) {
    double[] out = new double[rows.length];
    for (int i = 0; i < weight.length; i++) out[rowOf[i]] += weight[i];
    return out;
  }

  /** The likeliest hypothesis of a row. */
  H first(int row) {
    return rows[row];
  }

  /**
   * How likely each hypothesis has a test reported to fail.
   *
   * @param candidate its place in the list
   */
  double[] reportedToFail(int candidate) {
    double[] table = table(candidates.get(candidate).operation());
    byte[] cases = met[candidate];
    double[] out = new double[rowOf.length];
    for (int i = 0; i < out.length; i++) out[i] = table[i * CASES + cases[rowOf[i]]];
    return out;
  }

  /**
   * How many bits each test tells of which elements are wrong: the mutual information of its
   * outcome and the row. Whether they come and go is nothing that a repair asks for.
   *
   * @param weight of each hypothesis; they sum to 1
   */
  double[] bits(double[] weight) {
    Map<String, double[]> sums = new HashMap<>();
    double[] of = byElements(weight);
    double[] out = new double[candidates.size()];
    for (int i = 0; i < out.length; i++) {
      Candidate c = candidates.get(i);
      double[] sum = sums.computeIfAbsent(c.operation(), o -> sum(o, weight, of));
      byte[] cases = met[i];
      double fails = 0;
      double inside = 0;
      for (int row = 0; row < cases.length; row++) {
        int at = (row * CASES + cases[row]) * 2;
        fails += sum[at];
        inside += sum[at + 1];
      }
      out[i] = entropy(fails) - inside;
    }
    return out;
  }

  /** By row and case: how likely a failure, and how many bits stay open even where it is true. */
  private double[] sum(String operation, double[] weight, double[] of) {
    double[] table = table(operation);
    double[] out = new double[rows.length * CASES * 2];
    for (int i = 0; i < weight.length; i++) {
      for (int k = 0; k < CASES; k++) {
        out[(rowOf[i] * CASES + k) * 2] += weight[i] * table[i * CASES + k];
      }
    }
    for (int at = 0; at < out.length; at += 2) {
      double share = of[at / (CASES * 2)];
      if (share > 0) out[at + 1] = share * entropy(Math.min(1, out[at] / share));
    }
    return out;
  }

  /** By hypothesis and case: how likely a failure. */
  private double[] table(String operation) {
    return tables.computeIfAbsent(
        operation,
        o -> {
          double[] out = new double[rowOf.length * CASES];
          double[] p = new double[CASES];
          for (int i = 0; i < rowOf.length; i++) {
            posterior.reportedToFail(hypotheses.get(i), o, p);
            System.arraycopy(p, 0, out, i * CASES, CASES);
          }
          return out;
        });
  }

  private byte[] meet(Candidate c) {
    boolean reading = c.operation().equals(Trial.READING);
    byte[] out = new byte[rows.length];
    for (int row = 0; row < out.length; row++) {
      out[row] = (byte) posterior.met(rows[row], c.parts(), reading);
    }
    return out;
  }

  static double entropy(double p) {
    if (p <= 1e-12 || p >= 1 - 1e-12) return 0;
    return -(p * Math.log(p) + (1 - p) * Math.log(1 - p)) / Math.log(2);
  }
}
