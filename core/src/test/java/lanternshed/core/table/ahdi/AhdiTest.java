package lanternshed.core.table.ahdi;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import lanternshed.core.family.Families;
import lanternshed.core.machine.Profiles;
import lanternshed.core.machine.Setup;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.table.TableMaker;
import lanternshed.core.table.TableReading;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class AhdiTest {
  private static final Geometry G = new Geometry(1000, 1, 32);

  private static List<TableMaker.Slot> six() {
    List<TableMaker.Slot> out = new ArrayList<>();
    for (int i = 0; i < 6; i++) {
      long table = 20_000L * i + 32;
      boolean chained = i >= 3;
      out.add(
          new TableMaker.Slot(
              table + (chained ? 32 : 0), 19_000, "GEM", i == 0, chained, chained ? table : 0));
    }
    return out;
  }

  @Test
  void sixVolumesStandInRootAndChainAndReadBack() {
    MemoryMedium m = new MemoryMedium(130_000);
    new AhdiWriter().write(m, G, new byte[0], 0, six());
    TableReading r = new Ahdi().read(m).orElseThrow();
    assertThat(r.entries()).extracting(e -> e.start()).containsExactlyElementsOf(starts());
    assertThat(r.entries()).allMatch(e -> e.length() == 19_000);
    assertThat(r.startOrder()).containsExactly(1);
    assertThat(r.findings()).allMatch(f -> f.weight() == Finding.Weight.NOTE);
    assertThat(Ahdi.sum(m.sector(0))).isNotEqualTo(Ahdi.EXECUTABLE);
  }

  private static List<Long> starts() {
    return six().stream().map(TableMaker.Slot::start).toList();
  }

  @Test
  void aRootSectorThatWasExecutedIsExecutedAgainWithOtherEntries() {
    MemoryMedium old = new MemoryMedium(130_000);
    byte[] b = new byte[512];
    for (int i = 0; i < 200; i++) b[i] = (byte) (i * 7);
    Bytes.putBe16(b, Ahdi.SUM_AT, Ahdi.EXECUTABLE - Ahdi.sum(b));
    old.write(0, 1, b, 0);
    AhdiWriter w = new AhdiWriter();
    byte[] kept = w.kept(old);
    assertThat(kept).hasSize(512);
    MemoryMedium m = new MemoryMedium(130_000);
    w.write(m, G, kept, 0, six());
    assertThat(Ahdi.sum(m.sector(0))).isEqualTo(Ahdi.EXECUTABLE);
    assertThat(m.sector(0)).startsWith(Arrays.copyOf(b, 200));
    assertThat(new Ahdi().read(m).orElseThrow().entries()).hasSize(6);
  }

  /** P-21 at its edges: the sector doubles with the first that is too many. */
  @ParameterizedTest
  @CsvSource({
    "ahdi-1,32767,512",
    "ahdi-1,32768,1024",
    "ahdi-1,524272,8192",
    "ahdi-2,65535,512",
    "ahdi-2,65536,1024",
    "ahdi-2,1046528,8192",
    "ahdi-3,2097120,16384",
  })
  void logicalSectorsGrowWithTheVolume(String system, long sectors, int bytes) {
    Setup s = Setup.of(Profiles.get("m68k-ahdi"), "dma", system);
    assertThat(Families.named("ahdi68k").sectorBytes(s, sectors)).isEqualTo(bytes);
    assertThat(sectors).isLessThanOrEqualTo(s.system().volumeSectors());
  }

  /** A sector that looks two-sided and whose volume is nonsense is told, and never a fault. */
  @Test
  void nonsenseBehindTwoSidesIsTold() {
    Random r = new Random(23);
    int told = 0;
    for (int i = 0; i < 2000; i++) {
      MemoryMedium m = new MemoryMedium(60_000);
      new AhdiWriter().write(m, G, new byte[0], 0, List.of(six().get(0)));
      byte[] b = m.sector(0);
      b[0x1F2] = 6;
      Bytes.put32(b, 0x1F6, r.nextInt(4) == 0 ? r.nextInt() : 31);
      Bytes.put16(b, 510, 0xAA55);
      m.write(0, 1, b, 0);
      byte[] boot = new byte[512];
      r.nextBytes(boot);
      if (i % 2 == 0) Bytes.put16(boot, 11, 512 << r.nextInt(5));
      if (i % 2 == 0) boot[13] = 2;
      m.write(32, 1, boot, 0);
      TableReading t = new TwoSided().read(m).orElseThrow();
      if (t.findings().stream().anyMatch(f -> f.rule().equals("P-23"))) told++;
      assertThat(new TwoSided().places(t, m)).isNotEmpty();
    }
    assertThat(told).isEqualTo(2000);
  }
}
