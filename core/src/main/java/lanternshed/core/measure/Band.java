package lanternshed.core.measure;

import java.math.BigDecimal;
import java.util.Map;
import java.util.Optional;

/**
 * The expected band of a reading (D-5), both ends included: rails 5 V ± 5 %, a contact open above 1
 * MΩ or closed below 5 Ω.
 *
 * @param unit "V", "Ω"; "" where no band is expected
 */
public record Band(double low, double high, String unit) {
  public static final Band NONE = new Band(0, 0, "");

  private static final Map<String, Double> SCALE =
      Map.of(
          "mV", 1e-3, "kV", 1e3, "mA", 1e-3, "mΩ", 1e-3, "kΩ", 1e3, "MΩ", 1e6, "ohm", 1.0, "kohm",
          1e3, "Mohm", 1e6);

  /** How a reading stands to the band. */
  public enum Verdict {
    WITHIN,
    BELOW,
    ABOVE
  }

  public boolean expected() {
    return !unit.isEmpty();
  }

  /** Nothing when there is no band or no value in its unit in the text. */
  public Optional<Verdict> judge(String text) {
    if (!expected()) return Optional.empty();
    Optional<Double> value = Reading.in(text).flatMap(this::inUnit);
    if (value.isEmpty()) value = bare(text);
    return value.map(v -> v < low ? Verdict.BELOW : v > high ? Verdict.ABOVE : Verdict.WITHIN);
  }

  /** "4.75 to 5.25 V". */
  public String text() {
    if (high >= 1e12) return "above " + plain(low) + " " + unit;
    return plain(low) + " to " + plain(high) + " " + unit;
  }

  private Optional<Double> inUnit(Reading r) {
    String u = r.unit();
    double scale = SCALE.getOrDefault(u, 1.0);
    String base = u.endsWith("ohm") ? "Ω" : SCALE.containsKey(u) ? u.substring(1) : u;
    return base.equals(unit) ? Optional.of(r.amount().doubleValue() * scale) : Optional.empty();
  }

  private static Optional<Double> bare(String text) {
    String t = text.strip().replace(',', '.').replace('−', '-');
    return t.matches("-?\\d{1,9}(\\.\\d{1,6})?")
        ? Optional.of(Double.valueOf(t))
        : Optional.empty();
  }

  private static String plain(double d) {
    return BigDecimal.valueOf(d).stripTrailingZeros().toPlainString();
  }
}
