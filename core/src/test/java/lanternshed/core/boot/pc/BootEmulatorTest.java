package lanternshed.core.boot.pc;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.stream.Stream;
import lanternshed.core.Samples;
import lanternshed.core.boot.Around;
import lanternshed.core.boot.BootChain;
import lanternshed.core.boot.Rehearsal;
import lanternshed.core.cpu.Level;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.survey.Whereabouts;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * Our boot code really runs: a general PC emulator starts the image with the drive's cylinders,
 * heads and sectors forced, and what stands on its screen is what the walk along the chain
 * predicted.
 */
class BootEmulatorTest {
  private static final Geometry G = new Geometry(240, 8, 32);
  @TempDir private Path folder;

  static Stream<Arguments> media() {
    return Stream.of(
        Arguments.of("as planned", G, (Consumer<byte[]>) b -> {}, (Consumer<byte[]>) b -> {}, null),
        Arguments.of(
            "another planned geometry",
            new Geometry(400, 16, 63),
            (Consumer<byte[]>) b -> {},
            (Consumer<byte[]>) b -> {},
            null),
        Arguments.of(
            "active flag cleared",
            G,
            (Consumer<byte[]>) b -> b[446] = 0,
            (Consumer<byte[]>) b -> {},
            BootCode.Message.NO_ACTIVE),
        Arguments.of(
            "two active",
            G,
            (Consumer<byte[]>)
                b -> {
                  System.arraycopy(b, 446, b, 462, 16);
                },
            (Consumer<byte[]>) b -> {},
            BootCode.Message.MANY_ACTIVE),
        Arguments.of(
            "wrong start C/H/S",
            G,
            (Consumer<byte[]>) b -> b[447] = 3,
            (Consumer<byte[]>) b -> {},
            BootCode.Message.NO_BOOT_SECTOR),
        Arguments.of(
            "wrong heads in the boot sector",
            G,
            (Consumer<byte[]>) b -> {},
            (Consumer<byte[]>) b -> Bytes.put16(b, 0x1A, 4),
            BootCode.Message.WRONG_GEOMETRY),
        Arguments.of(
            "wrong sectors in the boot sector",
            G,
            (Consumer<byte[]>) b -> {},
            (Consumer<byte[]>) b -> Bytes.put16(b, 0x18, 17),
            BootCode.Message.WRONG_GEOMETRY),
        Arguments.of(
            "wrong hidden sectors",
            G,
            (Consumer<byte[]>) b -> {},
            (Consumer<byte[]>) b -> Bytes.put32(b, 0x1C, 63),
            BootCode.Message.WRONG_HIDDEN),
        Arguments.of(
            "no system file",
            G,
            (Consumer<byte[]>) b -> {},
            (Consumer<byte[]>) b -> b[0x3E + BootCode.volume("A").length - 11] = 'X',
            BootCode.Message.NO_SYSTEM));
  }

  @ParameterizedTest(name = "{0}")
  @MethodSource("media")
  void theScreenSaysWhatTheWalkPredicts(
      String name,
      Geometry g,
      Consumer<byte[]> table,
      Consumer<byte[]> boot,
      BootCode.Message message)
      throws Exception {
    MemoryMedium m = Samples.drive(g);
    edit(m, 0, table);
    edit(m, g.sectors(), boot);
    BootChain chain = new PcBoot().walk(m, g, g.total());
    assertThat(chain.holds()).isEqualTo(message == null);
    assertThat(chain.message()).isEqualTo(Optional.ofNullable(message).map(BootCode.Message::text));
    Path image = folder.resolve("disk.img");
    Samples.toFile(m, image);
    String expected = message == null ? Samples.LOADER_TEXT : message.text();
    String screen = PcEmulator.screen(image, g, expected);
    assertThat(screen).contains(expected);
    if (message != null) assertThat(screen).doesNotContain(Samples.LOADER_TEXT);
    Rehearsal r = rehearsed(m, g, Level.I8086);
    assertThat(r.sentence()).isNotBlank();
    if (message == null) {
      assertThat(r.ending()).as(r.sentence()).isEqualTo(Rehearsal.Ending.ENTERED);
      assertThat(r.entered()).isEqualTo("LOOMIO.SYS");
      assertThat(r.reads()).extracting(Rehearsal.Read::what).contains("LOOMIO.SYS");
    } else {
      assertThat(r.ending()).as(r.sentence()).isEqualTo(Rehearsal.Ending.MESSAGE);
      assertThat(String.join("\n", r.screen())).contains(message.text());
    }
  }

  private static Rehearsal rehearsed(Medium m, Geometry g, Level level) {
    Whereabouts places = Whereabouts.of(m);
    return PcRehearsal.of(m, new Around(g, g.total(), true, level), places::at);
  }

  private static void edit(MemoryMedium m, long sector, Consumer<byte[]> change) {
    byte[] b = m.sector(sector);
    change.accept(b);
    m.write(sector, 1, b, 0);
  }
}
