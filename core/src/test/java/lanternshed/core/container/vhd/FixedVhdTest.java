package lanternshed.core.container.vhd;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import lanternshed.core.container.Container;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.survey.Surveyor;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class FixedVhdTest {
  private static final Container VHD = new FixedVhd();

  @ParameterizedTest
  @CsvSource({
    "65535, 963, 4, 17",
    "1032192, 1024, 16, 63",
    "16514064, 16383, 16, 63",
    "66059280, 16191, 16, 255"
  })
  void theGeometryIsTheSpecifications(long sectors, int c, int h, int s) {
    assertThat(FixedVhd.geometry(sectors)).containsExactly(c, h, s);
  }

  @Test
  void aFooterWithAWrongSumOrLengthIsNone() {
    byte[] footer = FixedVhd.footer(100, 100, new byte[16]);
    assertThat(VHD.sectorsBefore(footer, 101 * 512)).contains(100L);
    assertThat(VHD.sectorsBefore(footer, 99 * 512)).as("a wrong length").isEmpty();
    footer[70]++;
    assertThat(VHD.sectorsBefore(footer, 101 * 512)).as("a wrong sum").isEmpty();
  }

  @Test
  void aFooterOf511BytesIsOneAndAWrongOneIsTold() {
    byte[] footer = FixedVhd.footer(100, 100, new byte[16]);
    byte[] early = Arrays.copyOf(footer, 511);
    assertThat(VHD.sectorsBefore(early, 100 * 512 + 511)).contains(100L);
    footer[100] ^= 1;
    assertThat(VHD.sectorsBefore(footer, 101 * 512)).isEmpty();
    MemoryMedium m = new MemoryMedium(101);
    m.write(100, 1, footer, 0);
    assertThat(Surveyor.survey(m).findings())
        .anyMatch(f -> f.what().contains("the footer of a VHD whose sum or length is not right"));
  }
}
