package lanternshed.core.measure;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class MeasureTest {

  @ParameterizedTest
  @CsvSource({
    "1024,16,63, 0,0,1, 0",
    "1024,16,63, 0,1,1, 63",
    "1024,16,63, 1023,15,63, 1032191",
    "615,4,17, 614,3,17, 41819",
    "1024,255,63, 1023,254,63, 16450559"
  })
  void placesAndSectorsConvertBothWays(int c, int h, int s, int pc, int ph, int ps, long lba) {
    Geometry g = new Geometry(c, h, s);
    assertThat(g.toLba(new Chs(pc, ph, ps))).isEqualTo(lba);
    assertThat(g.toChs(lba)).isEqualTo(new Chs(pc, ph, ps));
  }

  @Test
  void everySectorOfASmallDriveConvertsBack() {
    Geometry g = new Geometry(40, 3, 17);
    for (long lba = 0; lba < g.total(); lba++) assertThat(g.toLba(g.toChs(lba))).isEqualTo(lba);
  }

  @ParameterizedTest
  @CsvSource({"0,0,1", "1023,254,63", "255,15,1", "256,7,63", "512,0,33"})
  void threeBytesHoldAPlace(int c, int h, int s) {
    byte[] b = new byte[5];
    new Chs(c, h, s).pack(b, 1);
    assertThat(Chs.unpack(b, 1)).isEqualTo(new Chs(c, h, s));
    assertThat(b[0]).isZero();
    assertThat(b[4]).isZero();
  }

  @Test
  void pastCylinder1023TheTableSaysTheLargestPlace() {
    Geometry g = new Geometry(2000, 255, 63);
    byte[] b = new byte[3];
    g.toTableChs(g.total() - 1).pack(b, 0);
    assertThat(b).containsExactly(0xFE, 0xFF, 0xFF);
    assertThat(g.toTableChs(1024L * 255 * 63 - 1)).isEqualTo(new Chs(1023, 254, 63));
  }

  @ParameterizedTest
  @CsvSource({
    "528482304, 504.0 MiB, 528.4 MB",
    "1048575, 0.9 MiB, 1.0 MB",
    "1048576, 1.0 MiB, 1.0 MB"
  })
  void capacitiesAreRoundedDownInBothUnits(long bytes, String mib, String mb) {
    assertThat(Say.mib(bytes)).isEqualTo(mib);
    assertThat(Say.mb(bytes)).isEqualTo(mb);
  }

  @Test
  void thousandsAreSetApartByThinSpaces() {
    assertThat(Say.count(1_032_192)).isEqualTo("1\u202F032\u202F192");
    assertThat(Say.count(999)).isEqualTo("999");
    assertThat(Say.count(-1000)).isEqualTo("−1\u202F000");
    assertThat(Say.seconds(125)).isEqualTo("2 min 05 s");
  }

  @Test
  void aSumComesToItsLastResult() {
    Sum s =
        Sum.of("U-1", "t")
            .line("", "a", 2)
            .line("×", "b", 3)
            .line("=", "c", 6)
            .note("x", "y")
            .done();
    assertThat(s.result()).isEqualTo(6);
    assertThat(new Geometry(10, 2, 5).lbaSum(new Chs(1, 1, 3)).result()).isEqualTo(17);
  }

  @Test
  void aGeometryThatCannotExistIsRefused() {
    assertThatThrownBy(() -> new Geometry(10, 0, 17))
        .isInstanceOf(ShedException.class)
        .hasMessageContaining("0 heads");
  }
}
