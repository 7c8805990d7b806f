package lanternshed.core.fault;

import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Band;
import lanternshed.core.measure.Reading;

/**
 * What a measured value says by itself (D-5): a rail within five parts of a hundred works, a
 * contact of some hundred ohms is neither open nor closed. What it does not say is only noted.
 *
 * @param outcome suggested; the person decides
 */
public record Judged(Trial.Outcome outcome, String sentence) {
  private static final List<Double> RAILS = List.of(3.3, 5.0, 12.0);
  private static final double TOLERANCE = 0.05;

  /** Farther from every rail than this it is no rail. */
  private static final double NO_RAIL = 0.35;

  private static final Band CLOSED = new Band(0, 5, "Ω");
  private static final Band OPEN = new Band(1e6, 1e15, "Ω");

  /** Nothing where the words hold no value that has a band. */
  public static Optional<Judged> of(String words) {
    Optional<Band.Verdict> closed = CLOSED.judge(words);
    if (closed.isPresent() && Reading.in(words).isPresent()) return Optional.of(contact(words));
    return Reading.in(words).filter(r -> r.unit().equals("V")).flatMap(Judged::rail);
  }

  private static Judged contact(String words) {
    if (CLOSED.judge(words).filter(v -> v == Band.Verdict.WITHIN).isPresent()) {
      return new Judged(
          Trial.Outcome.NOTED,
          "Below 5 Ω: closed. It works if it should be closed now, and fails if it should be open.");
    }
    if (OPEN.judge(words).filter(v -> v == Band.Verdict.WITHIN).isPresent()) {
      return new Judged(
          Trial.Outcome.NOTED,
          "Above 1 MΩ: open. It works if it should be open now, and fails if it should be closed.");
    }
    return new Judged(
        Trial.Outcome.FAILS,
        "Between 5 Ω and 1 MΩ it is neither open nor closed: dirt or damage. Compare a neighbour.");
  }

  private static Optional<Judged> rail(Reading r) {
    double volts = Math.abs(r.amount().doubleValue());
    for (double rail : RAILS) {
      double off = Math.abs(volts - rail) / rail;
      if (off <= TOLERANCE) {
        return Optional.of(
            new Judged(Trial.Outcome.WORKS, "Within 5 % of " + rail + " V: as it should be."));
      }
    }
    for (double rail : RAILS) {
      double off = Math.abs(volts - rail) / rail;
      if (off > NO_RAIL) continue;
      return Optional.of(
          new Judged(
              Trial.Outcome.FAILS,
              Math.round(off * 100) + " % from " + rail + " V; 5 % is the bound."));
    }
    return Optional.empty();
  }
}
