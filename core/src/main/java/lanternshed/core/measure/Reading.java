package lanternshed.core.measure;

import java.math.BigDecimal;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** A measured value in a line of text: "5.02 V on pin 1". */
public record Reading(BigDecimal amount, String unit) {
  private static final Pattern FORM =
      Pattern.compile(
          "(?<![\\w.,])([−-]?\\d{1,9}(?:[.,]\\d{1,6})?)\\s?"
              + "(mV|kV|V|mA|A|mΩ|kΩ|MΩ|Ω|ohm|kohm|Mohm|MB/s|kB/s|MiB/s|°C|rpm|kHz|Hz|ms|mm)(?![\\w/])");

  /** The first value with a unit; a decimal comma is taken as a point. */
  public static Optional<Reading> in(String line) {
    Matcher m = FORM.matcher(line);
    if (!m.find()) return Optional.empty();
    String number = m.group(1).replace(',', '.').replace('−', '-');
    return Optional.of(new Reading(new BigDecimal(number), m.group(2)));
  }
}
