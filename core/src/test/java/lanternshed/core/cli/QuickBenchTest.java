package lanternshed.core.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** What docs/performance.md says of the quick rows is true today, within a factor of three. */
class QuickBenchTest {
  private static final double OFF = 3;
  private static final Pattern ROW =
      Pattern.compile("\\| ([^|]+) \\| ([0-9.]+) \\| (ms|million a second) \\|.*");

  private static Map<String, Double> page() throws Exception {
    Map<String, Double> out = new LinkedHashMap<>();
    for (String line : Files.readAllLines(Path.of("../docs/performance.md"))) {
      Matcher m = ROW.matcher(line);
      if (m.matches()) out.put(m.group(1).strip(), Double.parseDouble(m.group(2)));
    }
    return out;
  }

  @ParameterizedTest
  @EnumSource
  void thePageSaysWhatIsMeasured(QuickBench row) throws Exception {
    Map<String, Double> page = page();
    List<QuickBench.Figure> figures = row.measure();
    for (QuickBench.Figure f : figures) {
      assertThat(page).as("docs/performance.md has the row").containsKey(f.what());
      double said = page.get(f.what());
      System.out.printf("%s; the page says %.1f%n", f.text(), said);
      // What has run in this process before makes a first time shorter.
      if (f.what().contains("first")) continue;
      // Other work beside it makes it slower, never faster: a slow one is tried again.
      double measured = f.value();
      for (int again = 0; again < 3 && off(measured, said); again++) {
        measured =
            row.measure().stream()
                .filter(x -> x.what().equals(f.what()))
                .findFirst()
                .orElseThrow()
                .value();
      }
      assertThat(off(measured, said))
          .as(
              "%s: measured %.1f, the page says %.1f; measure again by ./shed bench --only %s",
              f.what(), measured, said, row.key())
          .isFalse();
    }
  }

  private static boolean off(double measured, double said) {
    return measured > OFF * said || measured < said / OFF;
  }

  @Test
  void aFigureThatIsOffIsSeen() {
    assertThat(off(100, 31)).isTrue();
    assertThat(off(10, 31)).isTrue();
    assertThat(off(40, 31)).isFalse();
  }
}
