package lanternshed.core.machine;

import static org.assertj.core.api.Assertions.assertThat;

import lanternshed.core.volume.fat.FatKind;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;

/** F-4 at its edges: the last volume that a system mounts, and how its table calls it. */
class GenerationTest {

  @ParameterizedTest
  @CsvSource({
    "dos-2, 32679, 1",
    "dos-3.0, 65535, 1",
    "dos-3.3, 65535, 24",
    "dos-5, 4194081, 24",
    "w95-1, 4194081, 24",
    "w95-2, 4294967295, 24",
    "nt, 4294967295, 24"
  })
  void ceilingsAreTheHandbooks(String key, long sectors, int volumes) {
    Generation g = Generation.of(key).orElseThrow();
    assertThat(g.volumeSectors()).isEqualTo(sectors);
    assertThat(g.volumes()).isEqualTo(volumes);
    assertThat(g.extendedContainer()).isEqualTo(volumes > 1);
    assertThat(g.volumeSum().result()).isEqualTo(sectors);
  }

  @ParameterizedTest
  @CsvSource({
    "dos-5, 32679, FAT12, 1", "dos-5, 32680, FAT16, 4", "dos-5, 65535, FAT16, 4",
    "dos-5, 65536, FAT16, 6", "dos-3.3, 65535, FAT16, 4", "dos-2, 32679, FAT12, 1",
    "dos-2, 32000, FAT12, 1", "w95-1, 1048576, FAT16, 6", "w95-2, 1048575, FAT16, 6",
    "w95-2, 1048576, FAT32, 11", "nt, 4194304, FAT32, 11"
  })
  void kindAndTypeFollowTheSize(String key, long sectors, FatKind kind, int type) {
    Generation g = Generation.of(key).orElseThrow();
    assertThat(g.kind(sectors)).isEqualTo(kind);
    assertThat(g.type(kind, sectors, false)).isEqualTo(type);
  }

  @ParameterizedTest
  @EnumSource(Generation.class)
  void everyGenerationSaysItsLimitAndWhatLiftsIt(Generation g) {
    assertThat(g.title()).isNotBlank();
    assertThat(g.volumeSum().reason()).isNotBlank();
    assertThat(g.volumeSum().lifts()).isNotEmpty();
    assertThat(Generation.of(g.key())).contains(g);
  }

  @Test
  void pastCylinder1023TypesOfLbaStandWhereTheSystemHasThem() {
    assertThat(Generation.W95_SECOND.type(FatKind.FAT16, 100_000, true)).isEqualTo(0x0E);
    assertThat(Generation.NT.type(FatKind.FAT32, 9_000_000, true)).isEqualTo(0x0C);
    assertThat(Generation.DOS_5.type(FatKind.FAT16, 100_000, true)).isEqualTo(0x06);
  }

  @Test
  void theLargestVolumeIsTheHandbooksBytesAndItsOwnStructures() {
    assertThat((Ceiling.FAT16_SECTORS - 545) * 512).isEqualTo(2_147_090_432L);
    assertThat(Generation.of("none")).isEmpty();
    assertThat(Generation.W95_SECOND.extendedCalls()).isTrue();
    assertThat(Generation.DOS_5.extendedCalls()).isFalse();
    assertThat(Generation.W95_FIRST.longNames()).isTrue();
  }
}
