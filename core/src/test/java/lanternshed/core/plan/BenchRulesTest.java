package lanternshed.core.plan;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import lanternshed.core.Samples;
import lanternshed.core.machine.Card;
import lanternshed.core.machine.Profile;
import lanternshed.core.machine.Profiles;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Say;
import lanternshed.core.plan.Plan.Weight;
import lanternshed.core.survey.Survey;
import lanternshed.core.survey.Surveyor;
import lanternshed.core.table.TableReading;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What was found out on the bench as rules of the plan: H-17 and D-11. */
class BenchRulesTest {
  private static final Survey NOTHING =
      new Survey(0, Optional.empty(), List.of(), List.of(), List.of());

  private static List<Plan.Verdict> judged(
      String machine, String firmware, String system, PlanRequest.Bench bench, String rule) {
    return judged(machine, firmware, system, bench, rule, NOTHING);
  }

  private static List<Plan.Verdict> judged(
      String machine,
      String firmware,
      String system,
      PlanRequest.Bench bench,
      String rule,
      Survey survey) {
    return judged(machine, firmware, system, bench, rule, survey, 125_000);
  }

  private static List<Plan.Verdict> judged(
      String machine,
      String firmware,
      String system,
      PlanRequest.Bench bench,
      String rule,
      Survey survey,
      long card) {
    PlanRequest r =
        new PlanRequest(
            machine,
            firmware,
            system,
            new Card("card", card * 512, card),
            List.of(),
            PlanRequest.Strategy.REBUILD,
            PlanRequest.School.MACHINE,
            List.of(),
            false,
            List.of(),
            List.of(),
            bench);
    Plan p = Planner.plan(Profiles.get(machine), r, survey);
    return p.verdicts().stream().filter(v -> v.rule().equals(rule)).toList();
  }

  private static PlanRequest.Bench has(String of, double number) {
    return new PlanRequest.Bench(
        Map.of(of, number), PlanRequest.Pair.NONE, Map.of(), List.of(), PlanRequest.Rate.UNKNOWN);
  }

  /** T-8: only what lies on a volume that comes counts, and a machine without one asks for none. */
  @Test
  void theStartUpFileOfAMenuComesAlongOrIsMissed() {
    String path = "SYSTEM/START.BIN";
    for (Map<String, Set<Integer>> there :
        List.of(
            Map.<String, Set<Integer>>of(),
            Map.of(path, Set.<Integer>of()),
            Map.of(path, Set.of(7)),
            Map.of("SYSTEM/OTHER.BIN", Set.of(1)))) {
      assertThat(menu("m6803-cart", there))
          .singleElement()
          .satisfies(v -> assertThat(v.weight()).isEqualTo(Weight.WARNS))
          .satisfies(
              v -> assertThat(v.text()).contains("SYSTEM/START.BIN, the menu itself, is not"));
    }
    assertThat(menu("m6803-cart", Map.of(path, Set.of(7, 1))))
        .singleElement()
        .satisfies(v -> assertThat(v.weight()).isEqualTo(Weight.HOLDS));
    assertThat(menu("controller-pc", Map.of(path, Set.of(1)))).isEmpty();
  }

  private static List<Plan.Verdict> menu(String machine, Map<String, Set<Integer>> there) {
    Survey survey = Surveyor.survey(Samples.drive(new Geometry(240, 8, 32)));
    PlanRequest.Bench bench =
        new PlanRequest.Bench(
            Map.of(), PlanRequest.Pair.NONE, there, List.of(), PlanRequest.Rate.UNKNOWN);
    return judged(machine, "", "", bench, "T-8", survey);
  }

  private static List<Plan.Verdict> listing(long card, long rate, boolean measured) {
    PlanRequest.Bench bench =
        new PlanRequest.Bench(
            Map.of(),
            PlanRequest.Pair.NONE,
            Map.of(),
            List.of(),
            new PlanRequest.Rate(rate, measured));
    return judged("xt", "option-rom", "dos-5", bench, "F-12", NOTHING, card);
  }

  /** F-12: nobody is told of what nobody notices, and half of it is had in one of two ways. */
  @Test
  void theFirstListingIsForetoldWhereItIsNoticed() {
    long large = 4_194_000;
    assertThat(listing(large, 0, false)).isEmpty();
    assertThat(listing(large, 500_000, false)).isEmpty();
    assertThat(listing(large, 20_000, true))
        .first()
        .satisfies(v -> assertThat(v.weight()).isEqualTo(Weight.WARNS))
        .satisfies(
            v ->
                assertThat(v.text())
                    .contains("The first listing of C after power takes about 7 s")
                    .contains("two volumes of half the length would halve it"))
        .satisfies(v -> assertThat(v.because().lines()).hasSize(3));
    assertThat(listing(125_000, 40_000, false))
        .singleElement()
        .satisfies(v -> assertThat(v.weight()).isEqualTo(Weight.HOLDS))
        .satisfies(
            v -> assertThat(v.text()).contains("at least 2 s; clusters of 4.0 KiB would halve it"));
  }

  @Test
  void whateverAMachineListsSlowlyIsForetoldWithoutAFault() {
    PlanRequest.Bench slow =
        new PlanRequest.Bench(
            Map.of(), PlanRequest.Pair.NONE, Map.of(), List.of(), new PlanRequest.Rate(10, false));
    int told = 0;
    for (Profile p : Profiles.all()) {
      for (String system : p.systems()) {
        told += judged(p.key(), "", system, slow, "F-12", NOTHING, 900_000).size();
      }
    }
    assertThat(told).isGreaterThan(10);
  }

  /** O-6: the firmware of the plan and the ROM of the job belong together. */
  @ParameterizedTest
  @CsvSource({
    "option-rom, '', '', HOLDS, lifts what this firmware cannot reach",
    "option-rom, The sum is 7., '', WARNS, does not serve as it is. The sum is 7. Mend",
    "option-rom, '', It has an 8088., WARNS, does not run here. It has an 8088.",
    "fixed-types, '', '', WARNS, does not use it: choose the firmware “option ROM with",
  })
  void theRomOfAJobIsHeldAgainstItsPlan(
      String firmware, String fault, String lacks, Weight weight, String says) {
    PlanRequest.FittedRom rom = new PlanRequest.FittedRom("mill", fault, lacks);
    PlanRequest.Bench bench =
        new PlanRequest.Bench(
            Map.of(), PlanRequest.Pair.NONE, Map.of(), List.of(rom), PlanRequest.Rate.UNKNOWN);
    assertThat(judged("at-286", firmware, "dos-5", bench, "O-6"))
        .singleElement()
        .satisfies(v -> assertThat(v.weight()).as(v.text()).isEqualTo(weight))
        .satisfies(v -> assertThat(v.text()).contains("“mill”").contains(says));
  }

  @Test
  void withoutARomOfTheJobAReadyBoardHasToBringIt() {
    PlanRequest.Bench none = PlanRequest.Bench.NOTHING;
    assertThat(judged("at-286", "option-rom", "dos-5", none, "O-6"))
        .singleElement()
        .satisfies(v -> assertThat(v.weight()).isEqualTo(Weight.HOLDS))
        .satisfies(v -> assertThat(v.text()).contains("a ready board has to bring it"));
    assertThat(judged("at-286", "fixed-types", "dos-5", none, "O-6")).isEmpty();
    // A machine that has no such firmware is not told to choose it.
    PlanRequest.FittedRom rom = new PlanRequest.FittedRom("mill", "", "");
    PlanRequest.Bench odd =
        new PlanRequest.Bench(
            Map.of(), PlanRequest.Pair.NONE, Map.of(), List.of(rom), PlanRequest.Rate.UNKNOWN);
    assertThat(judged("m6803-cart", "", "", odd, "O-6")).isEmpty();
  }

  /** At each edge: one less, exactly, one more; variants and systems raise what is needed. */
  @ParameterizedTest
  @CsvSource({
    "m68k-rdb, ata-2, rdb-2, memory, 2047, STOPS",
    "m68k-rdb, ata-2, rdb-2, memory, 2048, WARNS",
    "m68k-rdb, ata-2, rdb-2, memory, 4095, WARNS",
    "m68k-rdb, ata-2, rdb-2, memory, 4096, HOLDS",
    "m68k-rdb, rom-1, rdb-1, memory, 1024, WARNS",
    "m68k-rdb, rom-1, rdb-1, ROM version, 1.2, STOPS",
    "m68k-rdb, rom-1, rdb-1, ROM version, 1.3, HOLDS",
    "m68k-rdb, ata-2, rdb-2, ROM version, 1.3, STOPS",
    "m68k-rdb, ata-64, rdb-64, ROM version, 3.0, STOPS",
    "m68k-ahdi, dma, ahdi-2, ROM version, 1.02, STOPS",
    "m68k-ahdi, dma, ahdi-2, ROM version, 1.04, HOLDS",
    "m68k-ahdi, dma, ahdi-2, memory, 512, WARNS",
    "z80-cpm-card, rom, cpm-22, backup cell, 2.69, STOPS",
    "at-386-486, user-type, w95-1, processor, 286, STOPS",
    "at-386-486, user-type, w95-1, memory, 8192, HOLDS",
  })
  void whatTheMachineHasIsHeldAgainstWhatIsAsked(
      String machine, String firmware, String system, String of, double number, Weight weight) {
    List<Plan.Verdict> all = judged(machine, firmware, system, has(of, number), "H-17");
    Plan.Verdict v =
        all.stream().filter(x -> x.text().contains("has " + of)).findFirst().orElseThrow();
    assertThat(v.weight()).as(v.text()).isEqualTo(weight);
    assertThat(v.because().lifts().isEmpty()).isEqualTo(weight == Weight.HOLDS);
    // What nobody wrote down is asked for, and stops nothing.
    assertThat(all)
        .filteredOn(x -> x.text().contains("not known"))
        .allMatch(x -> x.weight() == Weight.WARNS);
  }

  @Test
  void whatIsMissingIsSaidInNumbers() {
    Plan.Verdict v =
        judged("m68k-rdb", "ata-2", "rdb-2", has("memory", 1024), "H-17").stream()
            .filter(x -> x.weight() == Weight.STOPS)
            .findFirst()
            .orElseThrow();
    assertThat(v.text())
        .isEqualTo(
            "The machine has memory 1\u202f024 KiB; at least 2\u202f048 KiB is needed."
                + " What would do: a memory expansion.");
    assertThat(v.because().lines()).extracting(l -> l.text()).contains("1\u202f024 KiB");
    assertThat(judged("at-286", "", "dos-5", PlanRequest.Bench.NOTHING, "H-17")).isEmpty();
  }

  private static PlanRequest.Suspect suspect(String text) {
    String[] t = text.split(":");
    return new PlanRequest.Suspect(t[0].strip(), t[1].strip());
  }

  private static List<PlanRequest.Suspect> suspects(String text) {
    return Arrays.stream(text.split(";")).map(BenchRulesTest::suspect).toList();
  }

  /** D-11: sides, whether the board named them, and firmware decide together. */
  @ParameterizedTest
  @CsvSource({
    // The board named a pair of the system ROM with cards and drives of a kind.
    "fixed-types, ROM pair:firmware, 8 GB card:card; 5 GB drive:drive, true, STOPS",
    "newer-rom, ROM pair:firmware, 8 GB card:card; 5 GB drive:drive, true, HOLDS",
    "option-rom, ROM pair:firmware, 8 GB card:card, true, HOLDS",
    // Other firmware is no way around a controller.
    "option-rom, controller:controller, 8 GB card:card, true, STOPS",
    // One drive alone: the card takes its place.
    "fixed-types, ROM pair:firmware, 5 GB drive:drive, true, HOLDS",
    "fixed-types, controller:controller, 5 GB drive:drive, true, HOLDS",
    // Not settled which: told, and nothing stops.
    "fixed-types, ROM pair:firmware; controller:controller, 8 GB card:card, false, WARNS",
    "option-rom, ROM pair:firmware; drive type:setting, 8 GB card:card, false, HOLDS",
  })
  void aPairThatIsAtFaultIsNotPutTogetherAgain(
      String firmware, String machine, String storage, boolean named, Weight weight) {
    PlanRequest.Pair pair = new PlanRequest.Pair(suspects(machine), suspects(storage), named);
    PlanRequest.Bench bench =
        new PlanRequest.Bench(Map.of(), pair, Map.of(), List.of(), PlanRequest.Rate.UNKNOWN);
    Plan.Verdict v = judged("at-286", firmware, "dos-5", bench, "D-11").get(0);
    assertThat(v.weight()).as(v.text()).isEqualTo(weight);
    assertThat(v.text()).contains(pair.machine().get(0).name());
    assertThat(v.because().lifts()).contains("a drive of the old kind").hasSize(3);
    assertThat(judged("at-286", firmware, "dos-5", PlanRequest.Bench.NOTHING, "D-11")).isEmpty();
  }

  /** P-13: ROM, old table, what was brought, the newer of two, or nobody. */
  @ParameterizedTest
  @CsvSource({
    "ata-2, rdb-2, '', false, ROM, HOLDS, by the ROM",
    "ata-2, rdb-2, 45.9, false, NEWER, HOLDS, 'the newer of two: the ROM''s driver, or ffs 45.9.'",
    "ata-2, rdb-2, '', true, NEWER, HOLDS, 'the ROM''s driver, or the old table''s.'",
    "rom-1, rdb-1-ffs, '', false, NOBODY, STOPS, 'is FFS, which this ROM does not mount'",
    "rom-1, rdb-1-ffs, '', true, OLD, HOLDS, by the old driver",
    "rom-1, rdb-1-ffs, 40.1, true, BROUGHT, HOLDS, 'by ffs 40.1, which was brought'",
    "rom-1, rdb-1, '', true, ROM, HOLDS, by the ROM",
  })
  void whoMountsAVolumeIsSaid(
      String firmware,
      String system,
      String brought,
      boolean old,
      Plan.Mounter by,
      Weight weight,
      String says) {
    List<String> drivers = old ? List.of("PFS\\3", "DOS\\1") : List.of();
    Survey survey =
        new Survey(
            60_000,
            Optional.of(new TableReading("RDB", List.of(), List.of(), List.of(), drivers)),
            List.of(),
            List.of(),
            List.of());
    List<PlanRequest.Driver> files =
        brought.isEmpty()
            ? List.of()
            : List.of(
                new PlanRequest.Driver("DOS\\5", "unused", "1.0", 100, "cd".repeat(32)),
                new PlanRequest.Driver("DOS\\1", "ffs", brought, 100, "ab".repeat(32)));
    PlanRequest r =
        new PlanRequest(
            "m68k-rdb",
            firmware,
            system,
            new Card("card", 60_000 * 512L, 60_000),
            List.of(),
            PlanRequest.Strategy.REBUILD,
            PlanRequest.School.MACHINE,
            List.of(),
            true,
            List.of(),
            files,
            PlanRequest.Bench.NOTHING);
    Plan p = Planner.plan(Profiles.get("m68k-rdb"), r, survey);
    assertThat(p.mounts())
        .singleElement()
        .satisfies(m -> assertThat(m.by()).isEqualTo(by))
        .satisfies(m -> assertThat(m.letters()).containsExactly("DH0"))
        .satisfies(m -> assertThat(m.driver().isPresent()).isEqualTo(!brought.isEmpty()));
    assertThat(p.verdicts().stream().filter(v -> v.rule().equals("P-13")))
        .singleElement()
        .satisfies(v -> assertThat(v.weight()).isEqualTo(weight))
        .satisfies(v -> assertThat(v.text()).contains(says));
    assertThat(p.buildable()).isEqualTo(weight != Weight.STOPS);
  }

  private static Plan player(long... cards) {
    List<Card> all = Arrays.stream(cards).mapToObj(n -> new Card("c" + n, n * 512, n)).toList();
    PlanRequest r =
        new PlanRequest(
            "player-18",
            "",
            "",
            all.get(0),
            all.subList(1, all.size()),
            PlanRequest.Strategy.REBUILD,
            PlanRequest.School.MACHINE,
            List.of(),
            false,
            List.of());
    return Planner.plan(Profiles.get("player-18"), r, NOTHING);
  }

  /** The sum of true sectors, up to the firmware's figure, less the machine's own area. */
  @Test
  void aBoardsCardsAreOneDriveTogether() {
    Plan two = player(15_625_216, 14_532_608);
    assertThat(two.buildable()).isTrue();
    assertThat(two.madeBy()).contains("restore");
    assertThat(player(15_625_216).madeBy()).isEmpty();
    assertThat(two.card().measured()).isEqualTo(15_625_216 + 14_532_608);
    Plan.Verdict v =
        two.verdicts().stream().filter(x -> x.rule().equals("V-5")).findFirst().orElseThrow();
    long shown = (15_625_216 + 14_532_608 - 196_608) * 512L;
    assertThat(v.text())
        .contains(Say.size(shown))
        .contains(Say.size((14_532_608 - 196_608) * 512L))
        .contains(Say.size((15_625_216 - 196_608) * 512L));
    long most = 1L << 28;
    Plan huge = player(most / 2, most / 2, most / 2);
    assertThat(huge.reach()).isLessThanOrEqualTo(most);
    assertThat(huge.verdicts())
        .filteredOn(x -> x.rule().equals("V-5"))
        .anyMatch(x -> x.text().contains(Say.size((huge.reach() - 196_608) * 512L)));
    assertThat(player(most, most, most, most, most).buildable()).isFalse();
    // Of four whose sum lies past the firmware's reach any three still fill it.
    Plan four = player(124_735_488, 124_735_488, 124_735_488, 124_735_488);
    assertThat(four.verdicts())
        .filteredOn(x -> x.rule().equals("V-5"))
        .allMatch(
            x -> x.text().contains("not counted yet it shows " + Say.size((most - 196_608) * 512)));
  }
}
