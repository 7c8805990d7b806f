package lanternshed.core.measure;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class ReadingTest {
  @ParameterizedTest
  @CsvSource({
    "5.02 V on pin 1, 5.02, V",
    "rail 12.1V, 12.1, V",
    "'contact: 4,7 kΩ', 4.7, kΩ",
    "−5 V rail, -5, V",
    "reads 3.3 MB/s, 3.3, MB/s",
    "spins at 3600 rpm now, 3600, rpm"
  })
  void aValueWithItsUnitIsKept(String line, String amount, String unit) {
    Reading r = Reading.in(line).orElseThrow();
    assertThat(r.amount()).isEqualByComparingTo(amount);
    assertThat(r.unit()).isEqualTo(unit);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {"type 47", "KD-3", "5 Volts of hope", "the 120 MB drive", "pin 5", "v5.02 V1"})
  void whatIsNoReadingStaysText(String line) {
    assertThat(Reading.in(line)).isEmpty();
  }
}
