package lanternshed.core.transfer;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import lanternshed.core.measure.ShedException;
import lanternshed.core.transfer.LineEnd.Ending;
import lanternshed.core.transfer.LineRehearsal.Trouble;
import lanternshed.core.transfer.SerialLine.Protocol;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;

/**
 * The protocols as both ends speak them: between stand-ins, and with a general tool at the other
 * end.
 */
class LineRehearsalTest {
  private static byte[] noise(int bytes, long seed) {
    byte[] b = new byte[bytes];
    new Random(seed).nextBytes(b);
    return b;
  }

  private static SerialLine line(Protocol p, int errors) {
    return new SerialLine(p, 9600, 10, 20, errors);
  }

  @ParameterizedTest
  @EnumSource(Protocol.class)
  void aFileGoesOverWholeWithAndWithoutNoise(Protocol p) {
    for (int seed = 0; seed < 60; seed++) {
      byte[] file = noise(1 + new Random(seed).nextInt(20_000), seed);
      LineRehearsal quiet = LineRehearsal.of(file, line(p, 0), Trouble.NONE, seed);
      assertThat(quiet.whole()).isTrue();
      assertThat(quiet.repeats()).isZero();
      assertThat(quiet.fill()).isLessThan(128);
      LineRehearsal noisy = LineRehearsal.of(file, line(p, 20), Trouble.NONE, seed);
      // A sum of one byte lets one wrong block of 256 through, a check of six bits one of 64; a CRC
      // hardly one of 65 536.
      if (p == Protocol.XMODEM_CRC || p == Protocol.XMODEM_1K)
        assertThat(noisy.whole()).as("seed " + seed).isTrue();
      else if (noisy.explains().isEmpty()) assertThat(noisy.whole()).isTrue();
      if (noisy.repeats() > 0) assertThat(noisy.millis()).isGreaterThan(quiet.millis());
    }
  }

  @ParameterizedTest
  @EnumSource(Protocol.class)
  void itTakesAsLongAsIsReckoned(Protocol p) {
    byte[] file = noise(100 * 1024, 1);
    LineRehearsal r = LineRehearsal.of(file, line(p, 0), Trouble.NONE, 1);
    // Reckoned with the typing of one name, which nobody does here, and which packets carry.
    long reckoned = line(p, 0).road(new Load(1, file.length)).seconds();
    if (!p.quotes()) reckoned -= 20;
    assertThat(r.millis() / 1000.0).isBetween(reckoned * 0.98 - 3, reckoned * 1.02 + 3);
  }

  @ParameterizedTest
  @CsvSource({"KERMIT, SOFTWARE_FLOW", "KERMIT_SEVEN, SOFTWARE_FLOW", "KERMIT_SEVEN, SEVEN_BITS"})
  void whatIsQuotedGoesOverALineThatDoesNotCarryEveryByte(Protocol p, Trouble trouble) {
    for (int seed = 0; seed < 50; seed++) {
      LineRehearsal r = LineRehearsal.of(noise(5_000, seed), line(p, 0), trouble, seed);
      assertThat(r.whole()).as("seed " + seed + r.log()).isTrue();
      assertThat(r.repeats()).isZero();
      assertThat(r.fill()).isZero();
    }
  }

  @Test
  void anEighthBitThatIsNotQuotedIsMissedOnALineOfSeven() {
    for (int seed = 0; seed < 50; seed++) {
      LineRehearsal r =
          LineRehearsal.of(noise(5_000, seed), line(Protocol.KERMIT, 0), Trouble.SEVEN_BITS, seed);
      assertThat(r.whole()).isFalse();
      assertThat(r.explains()).contains("or have the eighth bit quoted");
    }
  }

  @Test
  void aReceiverIsNotLedAstrayByWhatIsNoPacket() {
    // Packets of every kind, right by their check, in an order that nobody sends.
    for (int seed = 0; seed < 500; seed++) {
      Random random = new Random(seed);
      KermitReceiver r = new KermitReceiver(1000);
      for (int i = 0; i < 30 && r.ending() == Ending.NOT_YET; i++) {
        byte[] data = noise(random.nextInt(Kermit.LONGEST - Kermit.AROUND), seed + i);
        byte type = (byte) "SFDZBYNEQ".charAt(random.nextInt(9));
        int number = random.nextInt(4) == 0 ? random.nextInt(64) : i;
        for (byte b : Kermit.over(number, type, data, Kermit.Wishes.mine('N'))) {
          r.came(b & 0xFF, i, answer -> assertThat(answer.length).isLessThan(200));
        }
      }
      assertThat(r.file().length).isLessThanOrEqualTo(1000);
    }
  }

  @ParameterizedTest
  @CsvSource({
    "SOFTWARE_FLOW, Turn software flow control off",
    "SEVEN_BITS, Set eight bits and no parity"
  })
  void aLineThatDoesNotCarryEveryByteIsExplainedFromWhatCame(Trouble trouble, String says) {
    for (int seed = 0; seed < 50; seed++) {
      LineRehearsal r =
          LineRehearsal.of(noise(20_000, seed), line(Protocol.XMODEM_CRC, 0), trouble, seed);
      assertThat(r.whole()).isFalse();
      assertThat(r.explains()).as("seed " + seed + r.log()).contains(says);
    }
  }

  @Test
  void tooMuchNoiseIsSaidToBeNoise() {
    LineRehearsal r =
        LineRehearsal.of(noise(20_000, 2), line(Protocol.XMODEM_1K, 1000), Trouble.NONE, 2);
    assertThat(r.whole()).isFalse();
    assertThat(r.explains()).contains("too much noise");
  }

  @Test
  void aFileThatIsTooLongIsRefused() {
    assertThatThrownBy(
            () ->
                LineRehearsal.of(
                    new byte[LineRehearsal.MOST + 1], line(Protocol.XMODEM, 0), Trouble.NONE, 0))
        .isInstanceOf(ShedException.class);
  }

  @TempDir Path folder;

  /** Speaks with a program at the other end, and spoils some of what we say. */
  private static void spoken(LineEnd end, Process other, int spoilEvery) throws Exception {
    InputStream in = other.getInputStream();
    OutputStream out = other.getOutputStream();
    int[] said = {0};
    LineEnd.Wire wire =
        b -> {
          byte[] over = b.clone();
          if (spoilEvery > 0 && b.length > 100 && ++said[0] % spoilEvery == 0) over[50] ^= 0x10;
          try {
            out.write(over);
            out.flush();
          } catch (java.io.IOException e) {
            throw new java.io.UncheckedIOException(e);
          }
        };
    long began = System.nanoTime();
    while (end.ending() == Ending.NOT_YET) {
      long now = (System.nanoTime() - began) / 1_000_000;
      assertThat(now).as("it ends").isLessThan(90_000);
      if (in.available() > 0) end.came(in.read(), now, wire);
      else {
        end.waited(now, wire);
        Thread.sleep(1);
      }
    }
    out.close();
    assertThat(other.waitFor(20, TimeUnit.SECONDS)).isTrue();
  }

  @ParameterizedTest
  @CsvSource({"false, false, 0", "true, false, 0", "true, true, 0", "true, false, 7"})
  void aGeneralToolReceivesWhatWeSend(boolean crc, boolean longBlocks, int spoilEvery)
      throws Exception {
    byte[] file = noise(9_000, 3);
    Path to = folder.resolve("got.bin");
    // Over pipes: as it ends, this tool drops its last answer from a terminal.
    // By name in its own folder: since a security fix this tool takes no path from anybody.
    ProcessBuilder rx =
        crc
            ? new ProcessBuilder("rx", "-q", "-c", "got.bin")
            : new ProcessBuilder("rx", "-q", "got.bin");
    rx.directory(folder.toFile());
    XmodemSender sender = new XmodemSender(file, longBlocks);
    spoken(sender, rx.start(), spoilEvery);
    assertThat(sender.ending()).isEqualTo(Ending.WHOLE);
    byte[] got = Files.readAllBytes(to);
    assertThat(Arrays.copyOf(got, file.length)).isEqualTo(file);
  }

  /** A program whose line is a pseudo terminal; what it says and hears is on our pipes. */
  private Process onATerminal(String command) throws Exception {
    return new ProcessBuilder(
            "socat", "-t3", "-", "EXEC:" + command.strip().replaceAll(" +", " ") + ",pty,rawer")
        .directory(folder.toFile())
        .redirectError(ProcessBuilder.Redirect.DISCARD)
        .start();
  }

  @ParameterizedTest
  @CsvSource({"false, ''", "true, ''", "true, -k"})
  void weReceiveWhatAGeneralToolSends(boolean crc, String more) throws Exception {
    byte[] file = noise(9_000, 4);
    Path from = Files.write(folder.resolve("file.bin"), file);
    XmodemReceiver r = new XmodemReceiver(crc, 20_000);
    spoken(r, onATerminal("sx -q " + more + " " + from), 0);
    assertThat(r.ending()).isEqualTo(Ending.WHOLE);
    assertThat(Arrays.copyOf(r.file(), file.length)).isEqualTo(file);
  }

  @ParameterizedTest
  @CsvSource({"false, '', 0", "true, -p s, 0", "false, '', 7", "true, -p s, 7"})
  void aGeneralToolReceivesOurPackets(boolean sevenBits, String parity, int spoilEvery)
      throws Exception {
    byte[] file = noise(6_000, 5);
    Process other = onATerminal("gkermit -q -S -i -r " + parity);
    spoken(new KermitSender(file, "GOT.BIN", sevenBits), other, spoilEvery);
    Path to = folder.resolve("got.bin");
    assertThat(Files.readAllBytes(Files.exists(to) ? to : folder.resolve("GOT.BIN")))
        .isEqualTo(file);
  }

  @ParameterizedTest
  @CsvSource({"''", "-p s"})
  void weReceiveThePacketsOfAGeneralTool(String parity) throws Exception {
    byte[] file = noise(6_000, 6);
    Files.write(folder.resolve("file.bin"), file);
    KermitReceiver r = new KermitReceiver(20_000);
    spoken(r, onATerminal("gkermit -q -S -i " + parity + " -s file.bin"), 0);
    assertThat(r.ending()).as(r.log().toString()).isEqualTo(Ending.WHOLE);
    assertThat(r.file()).isEqualTo(file);
  }
}
