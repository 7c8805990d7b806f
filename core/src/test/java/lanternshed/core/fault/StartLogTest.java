package lanternshed.core.fault;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import lanternshed.core.measure.ShedException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class StartLogTest {
  private static final String GOOD =
      """
      BRIDGE 2.1 start, board B
      card: SDHC 7580 MB serial 4A1F
      fs: FAT32 clusters 32 KB
      config: bridge.txt read
      image: DRIVE1.img 41943040 bytes contiguous, id 1
      bus: termination on
      bus: first select after 812 ms, id 1
      ready
      """;

  @Test
  void everyLineOfAGoodStartIsExplainedAndNoCauseIsNamed() {
    StartLog.LogReading r = StartLog.read(GOOD);
    assertThat(r.lines()).hasSize(8).allMatch(l -> !l.says().isEmpty());
    assertThat(r.cause()).isEmpty();
    assertThat(r.lines().get(4).says()).contains("41943040").contains("id 1");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "image: DRIVE1.img 41943040 bytes contiguous, id 1|image: DRIVE1.img refused, 3 fragments|5|3 pieces",
        "image: DRIVE1.img 41943040 bytes contiguous, id 1|image: drive.img skipped, name|5|template",
        "image: DRIVE1.img 41943040 bytes contiguous, id 1|image: DRIVE1.img not found|5|spelling",
        "card: SDHC 7580 MB serial 4A1F|card: none|2|not seated",
        "bus: first select after 812 ms, id 1|bus: no select in 30 s|7|termination",
        "image: DRIVE1.img 41943040 bytes contiguous, id 1|something else|0|No image is found",
        "ready|.|0|cut off",
      })
  void theFirstCauseIsNamed(String line, String instead, int at, String says) {
    StartLog.LogReading r = StartLog.read(GOOD.replace(line, instead));
    assertThat(r.causeLine()).isEqualTo(at);
    assertThat(r.cause()).contains(says);
  }

  @Test
  void whatIsNoLogIsRefusedInWords() {
    assertThatThrownBy(() -> StartLog.read("hello"))
        .isInstanceOf(ShedException.class)
        .hasMessageContaining("No format knows");
    assertThatThrownBy(() -> StartLog.read("BRIDGE 2.1 start\0"))
        .hasMessageContaining("no plain text");
    assertThatThrownBy(() -> StartLog.read("BRIDGE 2.1 start\n".repeat(6000)))
        .hasMessageContaining("5 000 lines");
    assertThat(StartLog.read("BRIDGE 2.1 start\n" + "x".repeat(1_000_000)).lines().get(1).text())
        .hasSize(400);
  }
}
