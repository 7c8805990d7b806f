package lanternshed.core.boot.pc;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.Map;
import java.util.SplittableRandom;
import java.util.stream.Stream;
import lanternshed.core.Samples;
import lanternshed.core.Tool;
import lanternshed.core.Trials;
import lanternshed.core.boot.Around;
import lanternshed.core.boot.Rehearsal;
import lanternshed.core.cpu.Level;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.Copy;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.medium.Mending;
import lanternshed.core.survey.Whereabouts;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** A start that is broken, mended on a copy, and run again. */
@Tag("trial")
class StartMendingTest {
  private static final Geometry G = new Geometry(240, 8, 32);
  private static final Geometry OTHER = new Geometry(60, 16, 63);
  private static final long START = G.sectors();
  @TempDir private Path home;

  private interface Break {
    void on(byte[] table, byte[] boot);
  }

  static Stream<Arguments> broken() {
    return Stream.of(
        broken("B-1", (t, b) -> t[510] = 0),
        broken("B-2", (t, b) -> java.util.Arrays.fill(t, 0, 440, (byte) 0)),
        broken("B-3", (t, b) -> t[446] = 0),
        broken(
            "B-3",
            (t, b) -> {
              System.arraycopy(t, 446, t, 462, 16);
              t[470] = 0x41;
              t[471] = 0x50;
            }),
        broken("B-5", (t, b) -> t[447] = 5),
        broken("B-6", (t, b) -> b[0x1C] = 99),
        broken("B-7", (t, b) -> b[0x1A] = 3),
        broken("B-7", (t, b) -> b[0x18] = 17));
  }

  private static Arguments broken(String rule, Break b) {
    return Arguments.of(rule, b);
  }

  private static Rehearsal run(MemoryMedium m, Geometry g) {
    Around around = new Around(g, m.sectors(), false, Level.I80386);
    return PcRehearsal.of(m, around, Whereabouts.of(m)::at);
  }

  private static MemoryMedium copy(MemoryMedium m) {
    MemoryMedium out = new MemoryMedium(m.sectors());
    Copy.all(m, out, (n, all) -> {});
    return out;
  }

  @ParameterizedTest
  @MethodSource("broken")
  void whatBrokeItIsNamedMendedOnACopyAndStarts(String rule, Break b) {
    MemoryMedium m = Samples.drive(G);
    Map<String, String> files = Samples.digests(Samples.volume(m, G));
    byte[] table = m.sector(0);
    byte[] boot = m.sector(START);
    b.on(table, boot);
    m.write(0, 1, table, 0);
    m.write(START, 1, boot, 0);
    assertThat(run(m, G).starts()).isFalse();
    Mending mending = new PcBoot().mending(m, G).orElseThrow();
    assertThat(mending.changes()).extracting(Finding::rule).contains(rule);
    MemoryMedium mended = copy(m);
    mending.apply(mended);
    assertThat(run(mended, G).starts()).as("" + mending.changes()).isTrue();
    assertThat(run(m, G).starts()).as("the original stays as it is").isFalse();
    assertThat(new PcBoot().mending(mended, G).orElseThrow().changes()).isEmpty();
    assertThat(Samples.digests(Samples.volume(mended, G))).isEqualTo(files);
  }

  @Test
  void aDiskOfAnotherGeometryStartsUnderTheNewOneAndOtherToolsAgree() throws Exception {
    MemoryMedium m = Samples.drive(G);
    assertThat(run(m, OTHER).starts()).isFalse();
    MemoryMedium mended = copy(m);
    new PcBoot().mending(m, OTHER).orElseThrow().apply(mended);
    assertThat(run(mended, OTHER).starts()).isTrue();
    long changed = 0;
    for (long s = 0; s < m.sectors(); s++) {
      if (!java.util.Arrays.equals(m.sector(s), mended.sector(s))) changed++;
    }
    assertThat(changed).isEqualTo(2);
    Path file = home.resolve("mended");
    Samples.toFile(mended, file);
    assertThat(PcEmulator.screen(file, OTHER, Samples.LOADER_TEXT)).contains(Samples.LOADER_TEXT);
  }

  @Test
  void aLateFileSystemIsMendedWithTheCopyOfItsBootSector() throws Exception {
    Path file = home.resolve("late");
    Tool.run("truncate -s 40M " + file);
    Tool.run("echo '2048,,c,*' | sfdisk -q " + file);
    Tool.run("mkfs.fat -F 32 -s 1 --offset 2048 -g 4/17 -h 99 " + file + " 39936");
    try (FileMedium m = FileMedium.open(file)) {
      Mending mending = new PcBoot().mending(m, OTHER).orElseThrow();
      assertThat(mending.changes()).extracting(Finding::rule).contains("B-6", "B-7");
      MemoryMedium mended = new MemoryMedium(m.sectors());
      Copy.all(m, mended, (n, all) -> {});
      mending.apply(mended);
      assertThat(mended.sector(2048 + 6)).isEqualTo(mended.sector(2048));
      assertThat(new PcBoot().mending(mended, OTHER).orElseThrow().changes()).isEmpty();
    }
  }

  @Test
  void nonsenseIsMendedNeitherInEndlessTimeNorByAnException() {
    SplittableRandom random = new SplittableRandom(11);
    for (int i = 0; i < Trials.turns(40, 2000); i++) {
      MemoryMedium m = Samples.drive(G);
      byte[] table = m.sector(0);
      for (int at = 446; at < 510; at++)
        if (random.nextInt(3) > 0) table[at] = (byte) random.nextInt();
      m.write(0, 1, table, 0);
      byte[] boot = m.sector(START);
      for (int at = 11; at < 62; at++)
        if (random.nextInt(4) == 0) boot[at] = (byte) random.nextInt();
      m.write(START, 1, boot, 0);
      MemoryMedium mended = copy(m);
      new PcBoot().mending(m, G).orElseThrow().apply(mended);
    }
  }
}
