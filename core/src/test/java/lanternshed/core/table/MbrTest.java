package lanternshed.core.table;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import lanternshed.core.Samples;
import lanternshed.core.Tool;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.table.TableMaker.Slot;
import lanternshed.core.table.mbr.Mbr;
import lanternshed.core.table.mbr.MbrWriter;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

class MbrTest {
  private static final Geometry G = new Geometry(1024, 16, 63);
  @TempDir private Path folder;

  private static MemoryMedium written(Slot... slots) {
    MemoryMedium m = new MemoryMedium(G.total());
    new MbrWriter().write(m, G, new byte[] {(byte) 0xFA}, 0xABCD_0123L, List.of(slots));
    return m;
  }

  private static TableReading read(MemoryMedium m) {
    return new Mbr().read(m).orElseThrow();
  }

  private static List<String> rules(TableReading t) {
    return t.findings().stream().map(Finding::rule).toList();
  }

  @Test
  void whatIsWrittenIsReadAndTheGeneralToolAgrees() {
    MemoryMedium m =
        written(
            new Slot(63, 262_080 - 63, "06", true, false, 0),
            new Slot(262_080 + 63, 262_080 - 63, "06", false, true, 262_080),
            new Slot(524_160 + 63, 100_800 - 63, "04", false, true, 524_160));
    TableReading t = read(m);
    assertThat(t.findings()).isEmpty();
    assertThat(Mbr.disagreements(t, G)).isEmpty();
    assertThat(t.volumes()).extracting(TableEntry::start).containsExactly(63L, 262_143L, 524_223L);
    assertThat(t.volumes()).extracting(TableEntry::number).containsExactly(1, 5, 6);
    Path file = folder.resolve("t.img");
    Samples.toFile(m, file);
    assertThat(Tool.run("sfdisk --verify " + file)).contains("No errors detected");
    assertThat(Tool.run("sfdisk -d " + file))
        .contains("label-id: 0xabcd0123")
        .containsPattern("img5 : start= +262143, size= +262017, type=6");
  }

  @Test
  void aTableOfTheGeneralToolIsReadToTheSector() {
    Path file = folder.resolve("s.img");
    FileMedium.create(file, 600_000).close();
    Tool.run(
        "printf 'label: dos\\nstart=2048,size=100000,type=6,bootable\\nstart=110592,size=400000,type=5\\n"
            + "start=112640,size=50000,type=4\\nstart=200000,size=60000,type=1\\n' | sfdisk -q "
            + file);
    try (FileMedium m = FileMedium.open(file)) {
      TableReading t = new Mbr().read(m).orElseThrow();
      assertThat(t.findings()).isEmpty();
      assertThat(t.entries())
          .extracting(TableEntry::start)
          .containsExactly(2048L, 110_592L, 112_640L, 200_000L);
      assertThat(t.entries())
          .extracting(TableEntry::length)
          .containsExactly(100_000L, 400_000L, 50_000L, 60_000L);
      assertThat(t.entries().get(0).active()).isTrue();
    }
  }

  @Test
  void aMissingMarkNoActiveOverlapAndPastEndAreFound() {
    MemoryMedium m =
        written(
            new Slot(63, 1000, "06", false, false, 0),
            new Slot(500, G.total(), "06", false, false, 0));
    byte[] b = m.sector(0);
    b[510] = 0;
    m.write(0, 1, b, 0);
    assertThat(rules(read(m))).containsExactlyInAnyOrder("P-5", "P-1", "P-2", "P-2");
    MemoryMedium two =
        written(
            new Slot(63, 1000, "06", true, false, 0), new Slot(2016, 1008, "06", true, false, 0));
    assertThat(rules(read(two))).containsExactly("P-1");
  }

  @Test
  void placesThatDisagreeAreFoundUnderTheTargetsGeometry() {
    TableReading t = read(written(new Slot(63, 262_080 - 63, "06", true, false, 0)));
    assertThat(Mbr.disagreements(t, G)).isEmpty();
    assertThat(Mbr.disagreements(t, new Geometry(900, 15, 63))).hasSize(1);
    assertThat(Mbr.disagreements(t, new Geometry(900, 15, 17)))
        .allSatisfy(f -> assertThat(f.rule()).isEqualTo("P-3"))
        .hasSize(2);
  }

  @Test
  @Timeout(5)
  void aChainThatComesBackOrLeavesIsFollowedOnce() {
    MemoryMedium m =
        written(
            new Slot(63, 1008 - 63, "06", true, false, 0),
            new Slot(1008 + 63, 1008 - 63, "06", false, true, 1008),
            new Slot(2016 + 63, 1008 - 63, "06", false, true, 2016));
    byte[] b = m.sector(2016);
    b[462 + 4] = 5;
    Bytes.put32(b, 462 + 8, 0);
    m.write(2016, 1, b, 0);
    TableReading loop = read(m);
    assertThat(rules(loop)).contains("P-6");
    assertThat(loop.volumes()).hasSize(3);
    Bytes.put32(b, 462 + 8, 0xFFFF_FF00L);
    m.write(2016, 1, b, 0);
    assertThat(rules(read(m))).contains("P-6");
  }

  @Test
  void fiveFirstsDoNotFit() {
    List<Slot> slots = new ArrayList<>();
    for (int i = 1; i <= 5; i++) slots.add(new Slot(i * 1008L, 1008, "06", i == 1, false, 0));
    assertThatThrownBy(
            () -> new MbrWriter().write(new MemoryMedium(G.total()), G, new byte[0], 0, slots))
        .hasMessageContaining("four entries");
  }

  @Test
  @Timeout(20)
  void nonsenseNeverThrows() {
    Random random = new Random(11);
    for (int i = 0; i < 3000; i++) {
      MemoryMedium m = new MemoryMedium(64);
      byte[] b = new byte[64 * 512];
      random.nextBytes(b);
      for (int s = 0; s < 64; s++) {
        Bytes.put16(b, s * 512 + 510, 0xAA55);
        for (int e = 0; e < 4; e++) {
          int at = s * 512 + 446 + e * 16;
          b[at] = (byte) (e == 0 ? 0x80 : 0);
          b[at + 4] = (byte) (random.nextBoolean() ? 5 : 6);
          if (random.nextInt(4) > 0) Bytes.put32(b, at + 8, random.nextInt(70));
        }
      }
      m.write(0, 64, b, 0);
      new Mbr().read(m).ifPresent(t -> assertThat(t.entries()).hasSizeLessThan(300));
    }
  }
}
