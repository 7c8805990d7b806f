package lanternshed.core.machine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.stream.Stream;
import lanternshed.core.family.Families;
import lanternshed.core.machine.Inspection.Found;
import lanternshed.core.measure.Band;
import lanternshed.core.measure.ShedException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;

class ProfilesTest {
  static Stream<Profile> all() {
    return Profiles.all().stream();
  }

  @Test
  void allNineteenFamiliesShip() {
    assertThat(Profiles.all()).hasSize(19);
    assertThat(all().filter(Profile::planned)).hasSize(19);
  }

  @ParameterizedTest
  @MethodSource("all")
  void everyFamilyCarriesItsFacts(Profile p) {
    assertThat(p.inspection()).as("inspection").hasSizeGreaterThan(3);
    assertThat(p.bootChain()).as("boot chain").isNotEmpty();
    assertThat(p.parts()).as("parts").hasSizeGreaterThan(4);
    assertThat(p.operations()).isNotEmpty();
    assertThat(p.prerequisites()).isNotEmpty();
    assertThat(p.formats()).isNotEmpty();
    assertThat(p.nameRule()).isNotBlank();
    assertThat(p.planned() ? p.firmwares() : p.limits()).as("pegs or limits").isNotEmpty();
    assertThat(p.inspection()).as("something gates").anyMatch(Profile.Step::gate);
  }

  @ParameterizedTest
  @MethodSource("all")
  void aProfileReadsBackAsItWasWritten(Profile p) {
    assertThat(ProfileFile.read(ProfileFile.write(p))).isEqualTo(p);
  }

  @ParameterizedTest
  @MethodSource("all")
  void limitsAreSortedPegsWithTheCardAmongThem(Profile p) {
    List<Peg> pegs = Pegs.facts(p, new Card("c", 0, 1_000_000));
    assertThat(pegs)
        .hasSizeGreaterThan(p.limits().size())
        .allMatch(x -> !x.because().lines().isEmpty());
    assertThat(pegs).isSortedAccordingTo((a, b) -> Long.compare(a.sectors(), b.sectors()));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '`',
      value = {
        "{|line 1|not JSON",
        "[]|the file|array",
        "{\"key\":\"a b\",\"name\":\"n\",\"matters\":\"\"}|/key|pattern",
        "{\"key\":\"ab\",\"name\":\"n\"}|the file|matters",
        "{\"key\":\"ab\",\"name\":\"n\",\"matters\":\"\",\"odd\":1}|the file|odd",
        "{\"key\":\"ab\",\"name\":\"n\",\"matters\":\"\",\"parts\":[{\"name\":\"p\",\"kind\":\"wheel\",\"group\":\"\"}]}|/parts/0/kind|no kind of part",
        "{\"key\":\"ab\",\"name\":\"n\",\"matters\":\"\",\"bootChain\":[{\"key\":\"a\",\"text\":\"t\",\"needs\":\"\",\"next\":[\"b\"]},{\"key\":\"b\",\"text\":\"t\",\"needs\":\"\",\"next\":[\"a\"]}]}|/bootChain/1/next|a → b → a",
        "{\"key\":\"ab\",\"name\":\"n\",\"matters\":\"\",\"bootChain\":[{\"key\":\"a\",\"text\":\"t\",\"needs\":\"\",\"next\":[\"z\"]}]}|/bootChain/0/next|z, which is no link",
        "{\"key\":\"ab\",\"name\":\"n\",\"matters\":\"\",\"systems\":[\"dos-5\"]}|/systems|go together",
        "{\"key\":\"ab\",\"name\":\"n\",\"matters\":\"\",\"family\":\"carrier\"}|/carrier|go together",
        "{\"key\":\"ab\",\"name\":\"n\",\"matters\":\"\",\"slots\":[{\"name\":\"s\",\"thickness\":-1,\"note\":\"\"}]}|/slots/0/thickness|0",
        "{\"key\":\"ab\",\"name\":\"n\",\"matters\":\"\",\"slots\":[{\"name\":\"s\",\"thickness\":1e308,\"note\":\"\"}]}|/slots/0/thickness|beyond all",
        "{\"key\":\"ab\",\"name\":\"\\ud800\",\"matters\":\"\"}|/name|within a letter",
      })
  void aBadFileIsRefusedWithPlaceAndReason(String file, String place, String reason) {
    assertThatThrownBy(() -> ProfileFile.read(file))
        .isInstanceOf(ShedException.class)
        .hasMessageContaining("refused at " + place)
        .hasMessageContaining(reason);
  }

  @Test
  void twoWaysToOneLinkAreNoCircle() {
    String links =
        "[{\"key\":\"a\",\"text\":\"t\",\"needs\":\"\",\"next\":[\"b\",\"c\"]},"
            + "{\"key\":\"b\",\"text\":\"t\",\"needs\":\"\",\"next\":[\"c\"]},"
            + "{\"key\":\"c\",\"text\":\"t\",\"needs\":\"\",\"next\":[]}]";
    Profile p =
        ProfileFile.read(
            "{\"key\":\"ab\",\"name\":\"n\",\"matters\":\"\",\"bootChain\":" + links + "}");
    assertThat(p.bootChain()).hasSize(3);
  }

  @Test
  void everyShippedFamilyIsLaidOutAndAnotherSaysThatItIsNot() {
    assertThat(all()).allSatisfy(p -> assertThat(Families.of(p)).isNotNull());
    String facts = "{\"key\":\"ab\",\"name\":\"Mine\",\"matters\":\"\"}";
    assertThatThrownBy(() -> Families.of(ProfileFile.read(facts)))
        .hasMessageContaining("Mine")
        .hasMessageContaining("names no family");
  }

  @ParameterizedTest
  @CsvSource({
    "5.02 V, WITHIN",
    "4750 mV, WITHIN",
    "'4,75 V', WITHIN",
    "4.74 V, BELOW",
    "5.25, WITHIN",
    "5.26 V, ABOVE",
  })
  void railsAreJudgedAtTheirEdges(String reading, Band.Verdict verdict) {
    assertThat(new Band(4.75, 5.25, "V").judge(reading)).contains(verdict);
  }

  @Test
  void anotherUnitIsNoReadingOfTheBand() {
    assertThat(new Band(4.75, 5.25, "V").judge("5 Ω")).isEmpty();
    assertThat(new Band(1e6, 1e13, "Ω").judge("1.2 MΩ")).contains(Band.Verdict.WITHIN);
    assertThat(new Band(0, 5, "Ω").judge("4.7 kΩ")).contains(Band.Verdict.ABOVE);
    assertThat(Band.NONE.judge("5 V")).isEmpty();
  }

  @Test
  void whatIsFoundDecidesWhetherPowerMayGoOn() {
    List<Profile.Step> steps = Profiles.get("controller-pc").inspection();
    List<Found> none = List.of();
    assertThat(Inspection.gate(steps, Inspection.judge(steps, none)))
        .startsWith("Before power: look at points 1, 2");
    List<Found> good =
        steps.stream()
            .map(s -> new Found(true, s.choices().isEmpty() ? "" : s.choices().get(0).text(), ""))
            .toList();
    assertThat(Inspection.gate(steps, Inspection.judge(steps, good))).isEmpty();
    List<Found> leaked = new java.util.ArrayList<>(good);
    leaked.set(1, new Found(true, "leaked", ""));
    assertThat(Inspection.gate(steps, Inspection.judge(steps, leaked)))
        .startsWith("No power yet. leaked: take it out");
    leaked.set(1, good.get(1));
    leaked.set(5, new Found(true, "", "4.60 V"));
    assertThat(Inspection.gate(steps, Inspection.judge(steps, leaked)))
        .contains("5 V rail reads 4.60 V, below the band of 4.75 to 5.25 V");
  }

  @Test
  void aMenuShowsTheVolumesOfItsCardsAndNotTheDisksInThem() {
    Profile p = Profiles.find("m6502-userport").orElseThrow();
    assertThat(p.shows("FAT32")).isTrue();
    assertThat(p.shows("two-sector catalogue")).isFalse();
    assertThat(Profiles.find("at-286").orElseThrow().shows("FAT16")).isFalse();
  }
}
