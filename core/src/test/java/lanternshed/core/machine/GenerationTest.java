package lanternshed.core.machine;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import lanternshed.core.table.TableMaker;
import lanternshed.core.table.mbr.MbrWriter;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;

/** F-4 at its edges: the last volume that a system mounts, and how its table calls it. */
class GenerationTest {
  private static final TableMaker TABLE = new MbrWriter();

  private static Generation of(String key) {
    return Generation.of(key).orElseThrow();
  }

  @ParameterizedTest
  @CsvSource({
    "dos-2, 32679, 1",
    "dos-3.0, 65535, 1",
    "dos-3.3, 65535, 24",
    "dos-5, 4194081, 24",
    "w95-1, 4194081, 24",
    "w95-2, 4294967295, 24",
    "nt, 4294967295, 24",
    "free-dos, 4294967295, 24"
  })
  void ceilingsAreTheHandbooks(String key, long sectors, int volumes) {
    Generation g = of(key);
    assertThat(g.volumeSectors()).isEqualTo(sectors);
    assertThat(g.volumes()).isEqualTo(volumes);
    assertThat(g.severalVolumes()).isEqualTo(volumes > 1);
    assertThat(g.volumeSum().result()).isEqualTo(sectors);
  }

  @ParameterizedTest
  @CsvSource({
    "dos-5, 32679, FAT12, 01", "dos-5, 32680, FAT16, 04", "dos-5, 65535, FAT16, 04",
    "dos-5, 65536, FAT16, 06", "dos-3.3, 65535, FAT16, 04", "dos-2, 32679, FAT12, 01",
    "dos-2, 32000, FAT12, 01", "w95-1, 1048576, FAT16, 06", "w95-2, 1048575, FAT16, 06",
    "w95-2, 1048576, FAT32, 0B", "nt, 4194304, FAT32, 0B", "free-dos, 4194081, FAT16, 06",
    "free-dos, 4194082, FAT32, 0B", "carrier-exfat, 4194304, exFAT, 07"
  })
  void kindAndTypeFollowTheSize(String key, long sectors, String kind, String type) {
    assertThat(of(key).kind(sectors)).isEqualTo(kind);
    assertThat(TABLE.type(kind, sectors, false)).isEqualTo(type);
    assertThat(TABLE.refusal(type, kind, sectors)).isEmpty();
    assertThat(TABLE.refusal("DA", kind, sectors)).isPresent();
  }

  static List<Generation> all() {
    return Generation.all();
  }

  @ParameterizedTest
  @MethodSource("all")
  void everyGenerationSaysItsLimitAndWhatLiftsIt(Generation g) {
    assertThat(g.title()).isNotBlank();
    assertThat(g.volumeSum().reason()).isNotBlank();
    assertThat(g.volumeSum().lifts()).isNotEmpty();
    assertThat(g.contract()).isNotBlank();
    assertThat(Generation.of(g.key())).contains(g);
    for (int i = 1; i < g.kinds().size(); i++) {
      assertThat(g.kinds().get(i).from()).isGreaterThan(g.kinds().get(i - 1).from());
    }
  }

  @Test
  void pastCylinder1023TypesOfLbaStandWhereTheSystemHasThem() {
    assertThat(TABLE.type("FAT16", 100_000, true)).isEqualTo("0E");
    assertThat(TABLE.type("FAT32", 9_000_000, true)).isEqualTo("0C");
    assertThat(TABLE.type("FAT16", 100_000, false)).isEqualTo("06");
  }

  @Test
  void theLargestVolumeIsTheHandbooksBytesAndItsOwnStructures() {
    assertThat((of("dos-5").volumeSectors() - 545) * 512).isEqualTo(2_147_090_432L);
    assertThat(Generation.of("none")).isEmpty();
    assertThat(of("w95-2").extendedCalls()).isTrue();
    assertThat(of("dos-5").extendedCalls()).isFalse();
    assertThat(of("w95-1").longNames()).isTrue();
  }
}
