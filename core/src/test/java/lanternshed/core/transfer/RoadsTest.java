package lanternshed.core.transfer;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.SplittableRandom;
import lanternshed.core.measure.ShedException;
import lanternshed.core.transfer.Roads.Floppy;
import lanternshed.core.transfer.Roads.Hands;
import lanternshed.core.transfer.SerialLine.Protocol;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

class RoadsTest {
  private static final Hands HANDS = new Hands(30, 600);

  private static Road serial(Protocol p, int rate, int turnaround, int errors, Load load) {
    return new SerialLine(p, rate, 10, turnaround, errors).road(load);
  }

  @Test
  void aLineTakesWhatItsBlocksAndAnswersTake() {
    // 1 MiB in one file: 8 192 blocks of (132 + 1) × 10 bits at 9 600, and the name once.
    Road r = serial(Protocol.XMODEM, 9600, 0, 0, new Load(1, 1 << 20));
    assertThat(r.seconds()).isEqualTo(Math.round(8192 * 1330 / 9600.0 + 20));
    assertThat(r.note()).isEqualTo("96 % of the line's rate");
    assertThat(serial(Protocol.XMODEM_1K, 9600, 0, 0, new Load(1, 1 << 20)).seconds())
        .isEqualTo(Math.round(1024 * 10300 / 9600.0 + 20));
    Road slow = serial(Protocol.XMODEM, 9600, 200, 0, new Load(1, 1 << 20));
    assertThat(slow.seconds() - r.seconds()).as("8 192 turns").isBetween(1638L, 1639L);
  }

  /** Blocks with a bit error are sent again: against tossing a coin for every block. */
  @ParameterizedTest
  @EnumSource(Protocol.class)
  void errorsCostWhatSendingBlocksAgainCosts(Protocol p) {
    Load load = new Load(1, 2_000_000);
    Road clean = serial(p, 19_200, 20, 0, load);
    Road noisy = serial(p, 19_200, 20, 40, load);
    int bits =
        p == Protocol.XMODEM
            ? 1330
            : p == Protocol.XMODEM_CRC ? 1340 : p == Protocol.XMODEM_1K ? 10300 : 1030;
    SplittableRandom r = new SplittableRandom(4);
    long sent = 0;
    int blocks = 20_000;
    for (int i = 0; i < blocks; i++) {
      do sent++;
      while (r.nextDouble() > Math.pow(1 - 40e-6, bits));
    }
    double factor = (double) sent / blocks;
    double typing = p == Protocol.KERMIT ? 0 : 20;
    assertThat((noisy.seconds() - typing) / (clean.seconds() - typing))
        .isBetween(factor * 0.98, factor * 1.02);
  }

  @Test
  void floppiesAreCountedByBytesAndByEntries() {
    Road bytes = road(new Load(10, 5_000_000), "floppies");
    assertThat(bytes.note()).isEqualTo("4 disks");
    assertThat(bytes.seconds()).isEqualTo(4 * 270);
    assertThat(road(new Load(500, 1000), "floppies").note()).isEqualTo("3 disks");
    assertThat(road(new Load(1, 0), "floppies").note()).isEqualTo("1 disk");
  }

  private static Road road(Load load, String name) {
    SerialLine line = new SerialLine(Protocol.XMODEM_CRC, 9600, 10, 50, 0);
    return Roads.of(load, line, Floppy.KB1440, HANDS).stream()
        .filter(r -> r.name().startsWith(name))
        .findFirst()
        .orElseThrow();
  }

  @Test
  void theShortestComesFirstAndItsSumComesToIt() {
    SerialLine line = new SerialLine(Protocol.KERMIT, 38_400, 10, 30, 1);
    List<Road> small = Roads.of(new Load(1, 20_000), line, Floppy.KB720, HANDS);
    assertThat(small.get(0).name()).startsWith("serial line");
    List<Road> large = Roads.of(new Load(3000, 80_000_000), line, Floppy.KB720, HANDS);
    assertThat(large.get(0).name()).startsWith("the card");
    for (Road r : large) assertThat(r.because().result()).isEqualTo(r.seconds());
    assertThatThrownBy(() -> new Load(0, 1)).isInstanceOf(ShedException.class);
    assertThatThrownBy(() -> new SerialLine(Protocol.XMODEM, 0, 10, 0, 0))
        .hasMessageContaining("bits a second");
  }
}
