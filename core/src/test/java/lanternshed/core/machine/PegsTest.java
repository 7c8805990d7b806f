package lanternshed.core.machine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.stream.Stream;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.MethodSource;

class PegsTest {

  @ParameterizedTest
  @CsvSource({
    "G-2,1032192,528482304", "G-3,4127760,2113413120", "G-4,8257536,4227858432",
    "G-5,15482880,7927234560", "G-6,16450560,8422686720", "G-7,267386880,136902082560",
    "G-8,66059280,33822351360", "G-9,268435456,137438953472", "G-13,4294967296,2199023255552"
  })
  void everyCeilingIsTheHandbooksFigure(String rule, long sectors, long bytes) {
    Ceiling c = Ceiling.of(rule).orElseThrow();
    assertThat(c.sectors()).isEqualTo(sectors);
    assertThat(c.sectors() * 512).isEqualTo(bytes);
    assertThat(c.sum().result()).isEqualTo(sectors);
    assertThat(product(c)).isEqualTo(sectors);
    assertThat(c.sum().reason()).isNotBlank();
  }

  /** The figures of the sum really multiply to its result. */
  private static long product(Ceiling c) {
    long p = 1;
    for (var line : c.sum().lines()) {
      if (line.op().equals("=")) return p;
      p *= line.value();
    }
    return p;
  }

  @ParameterizedTest
  @EnumSource(Ceiling.class)
  void aPegLetsItsLastSectorPassAndNotTheNext(Ceiling c) {
    Peg peg = new Peg(c.rule(), c.title(), c.sectors(), Peg.Scope.MEDIUM, c.sum());
    assertThat(peg.holds(c.sectors() - 1)).isTrue();
    assertThat(peg.holds(c.sectors())).isTrue();
    assertThat(peg.holds(c.sectors() + 1)).isFalse();
  }

  static Stream<Arguments> cards() {
    // machine, firmware, system, card, binding rule, reach
    return Stream.of(
        Arguments.of("controller-pc", "plain", "dos-5", 1_032_191L, "U-1", 1_032_192L - 1008),
        Arguments.of("controller-pc", "plain", "dos-5", 1_032_192L, "G-2", 1_032_192L),
        Arguments.of("controller-pc", "plain", "dos-5", 1_032_193L, "G-2", 1_032_192L),
        Arguments.of("controller-pc", "plain", "dos-5", 1_033_200L, "G-2", 1_032_192L),
        Arguments.of("controller-pc", "plain", "dos-3.0", 1_032_193L, "G-14", 65_535L),
        Arguments.of("controller-pc", "plain", "dos-3.0", 65_534L, "U-1", 65_520L),
        Arguments.of("controller-pc", "plain", "dos-2", 1_032_192L, "F-4", 32_679L),
        Arguments.of(
            "pc-mid90s", "bit-shift", "dos-5", 8_257_535L, "U-1", 8_257_535L / 8064 * 8064),
        Arguments.of("pc-mid90s", "bit-shift", "dos-5", 8_257_536L, "G-4", 8_257_536L),
        Arguments.of("pc-mid90s", "bit-shift", "dos-5", 8_257_537L, "G-4", 8_257_536L),
        Arguments.of(
            "pc-mid90s", "twelve-bit", "dos-5", 4_127_759L, "U-1", 4_126_752L - 4_126_752L % 4032),
        Arguments.of(
            "pc-mid90s", "twelve-bit", "dos-5", 4_127_761L, "G-3", 4_127_760L - 4_127_760L % 4032),
        Arguments.of("pc-mid90s", "revised", "dos-5", 15_482_880L, "G-5", 15_482_880L),
        Arguments.of("pc-mid90s", "assisted", "dos-5", 16_450_559L, "U-1", 16_434_495L),
        Arguments.of("pc-mid90s", "assisted", "dos-5", 16_450_560L, "G-6", 16_450_560L),
        Arguments.of("pc-mid90s", "assisted", "dos-5", 16_450_561L, "G-6", 16_450_560L),
        Arguments.of("pc-late90s", "sixteen-bit", "w95-2", 66_059_279L, "U-1", 66_059_279L),
        Arguments.of("pc-late90s", "sixteen-bit", "w95-2", 66_059_280L, "U-1", 66_059_280L),
        Arguments.of("pc-late90s", "sixteen-bit", "w95-2", 66_059_281L, "G-8", 66_059_280L),
        Arguments.of("pc-late90s", "extended", "w95-2", 268_435_457L, "G-9", 268_435_456L),
        Arguments.of("pc-late90s", "extended", "dos-5", 268_435_457L, "G-6", 16_450_560L));
  }

  @ParameterizedTest
  @MethodSource("cards")
  void theLowestPegBindsAtItsEdge(
      String machine, String firmware, String system, long card, String rule, long reach) {
    Pegs pegs = Setup.of(Profiles.get(machine), firmware, system).pegs(new Card("c", 0, card));
    assertThat(pegs.reach()).isEqualTo(reach);
    if (card != pegs.binding().sectors()) assertThat(pegs.binding().rule()).isEqualTo(rule);
    assertThat(pegs.outOfReach(new Card("c", 0, card))).isEqualTo(card - reach);
    assertThat(pegs.pegs()).isSortedAccordingTo((a, b) -> Long.compare(a.sectors(), b.sectors()));
  }

  @Test
  void theLargestTypeInsideTheCardIsChosen() {
    Profile.Firmware f = Profiles.get("at-386-486").firmware("type-table").orElseThrow();
    Generation g = Generation.of("dos-5").orElseThrow();
    Pegs just = Pegs.of(f, g, new Card("c", 0, 139_944), List.of());
    assertThat(just.typeRow().orElseThrow().number()).isEqualTo(38);
    assertThat(just.reach()).isEqualTo(823L * 10 * 17);
    Pegs under = Pegs.of(f, g, new Card("c", 0, 139_909), List.of());
    assertThat(under.typeRow().orElseThrow().number()).isEqualTo(44);
    assertThat(under.outOfReach(new Card("c", 0, 139_909))).isEqualTo(139_909 - 820L * 10 * 17);
    Pegs none = Pegs.of(f, g, new Card("c", 0, 5000), List.of());
    assertThat(none.reach()).isZero();
    assertThat(none.binding().because().reason()).contains("larger than the card");
  }

  @ParameterizedTest
  @CsvSource({
    "NONE, 2000,16,63, 2016000, 1024,16,63",
    "BIT_SHIFT, 1024,16,63, 1032192, 1024,16,63",
    "BIT_SHIFT, 1025,16,63, 1033200, 512,32,63",
    "BIT_SHIFT, 16383,16,63, 20000000, 1024,128,63",
    "REVISED_BIT_SHIFT, 8192,16,63, 8257536, 1024,128,63",
    "REVISED_BIT_SHIFT, 8193,16,63, 8258544, 546,240,63",
    "ASSISTED, 1024,16,63, 1032192, 1024,16,63",
    "ASSISTED, 1025,16,63, 1032193, 512,32,63",
    "ASSISTED, 16383,16,63, 16450561, 1024,255,63",
    "ASSISTED, 8193,16,63, 8257537, 514,255,63"
  })
  void translationIsExact(Translation t, int c, int h, int s, long total, int tc, int th, int ts) {
    assertThat(t.of(new Geometry(c, h, s), total)).isEqualTo(new Geometry(tc, th, ts));
  }

  @Test
  void aLabelPromisesNinetyThreePerCentInWholeSteps() {
    Card byLabel = new Card("8 GB", 8_000_000_000L, 0);
    assertThat(byLabel.planSectors() * 512 % (16 * Say.MIB)).isZero();
    assertThat(byLabel.planSectors() * 512).isBetween(7_400_000_000L, 7_440_000_000L);
    Card measured = new Card("8 GB", 8_000_000_000L, 15_500_000);
    assertThat(measured.planSectors()).isEqualTo(15_500_000);
    assertThat(Card.smallest(List.of(measured, byLabel))).isEqualTo(byLabel);
    assertThat(byLabel.sum().result()).isEqualTo(byLabel.planSectors());
  }

  @Test
  void everyShippedProfileReadsAndSaysWhatMatters() {
    assertThat(Profiles.get("controller-pc").matters()).isNotBlank();
    assertThatThrownBy(() -> Profiles.get("nothing"))
        .isInstanceOf(ShedException.class)
        .hasMessageContaining("controller-pc");
  }
}
