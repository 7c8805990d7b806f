package lanternshed.core.transfer;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import lanternshed.core.measure.ShedException;
import lanternshed.core.transfer.LineSteps.LineStep;
import lanternshed.core.transfer.SerialLine.Protocol;
import org.junit.jupiter.api.Test;

class LineStepsTest {
  private static List<LineStep> steps(Protocol p, String end, boolean toMachine) {
    return LineSteps.of(new SerialLine(p, 9600, 10, 50, 0), end, toMachine);
  }

  @Test
  void whoMustBeginFirstBeginsFirst() {
    assertThat(steps(Protocol.XMODEM_1K, "other", true))
        .extracting(LineStep::does)
        .satisfies(
            d -> assertThat(d.get(4)).startsWith("Send the file with XMODEM, blocks of 1 KiB"),
            d -> assertThat(d.get(5)).contains("within 60 s of the sender"),
            d -> assertThat(d.get(6)).contains("up to 1023 bytes of 1A"));
    List<LineStep> kermit = steps(Protocol.KERMIT, "dos", false);
    assertThat(kermit.get(4).there()).isFalse();
    assertThat(kermit.get(4).types()).contains("set speed 9600").endsWith("receive");
    assertThat(kermit.get(5).types()).endsWith("SEND FILE");
  }

  @Test
  void nothingIsLeftToBeFilledInWhateverIsChosen() {
    for (LineSteps.End e : LineSteps.ends()) {
      for (Protocol p : Protocol.values()) {
        for (boolean to : new boolean[] {true, false}) {
          assertThat(steps(p, e.key(), to))
              .allSatisfy(s -> assertThat(s.does() + s.types()).doesNotContain("{", "  "));
        }
      }
    }
    assertThatThrownBy(() -> steps(Protocol.XMODEM, "x", true)).isInstanceOf(ShedException.class);
  }
}
