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
    List<String> off = List.of("not measured");
    // Where other work keeps the compiler waiting it is measured again, for longer.
    for (int again = 0; again < 4 && !off.isEmpty(); again++) {
      List<QuickBench.Figure> figures = row.measure(QuickBench.Effort.brief(again));
      assertThat(page.keySet())
          .as("docs/performance.md has the rows")
          .containsAll(figures.stream().map(QuickBench.Figure::what).toList());
      // What has run in this process before makes a first time shorter.
      off =
          figures.stream()
              .filter(f -> !f.what().contains("first"))
              .filter(f -> off(f.value(), page.get(f.what())))
              .map(f -> f.text() + "; the page says " + page.get(f.what()))
              .toList();
    }
    assertThat(off).as("measure again by ./shed bench --only " + row.key()).isEmpty();
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
