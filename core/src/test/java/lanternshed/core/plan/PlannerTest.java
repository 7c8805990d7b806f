package lanternshed.core.plan;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import lanternshed.core.Samples;
import lanternshed.core.Trials;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.catalogue.LaidOutMedium;
import lanternshed.core.machine.Card;
import lanternshed.core.machine.Generation;
import lanternshed.core.machine.Profile;
import lanternshed.core.machine.Profiles;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.plan.PlanRequest.School;
import lanternshed.core.plan.PlanRequest.Strategy;
import lanternshed.core.plan.PlanRequest.Wish;
import lanternshed.core.survey.Survey;
import lanternshed.core.survey.Surveyor;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Maker;
import lanternshed.core.work.Digests;
import lanternshed.core.work.ImageBuilder;
import lanternshed.core.work.Progress;
import lanternshed.core.work.Proof;
import lanternshed.core.work.Recipe;
import lanternshed.core.work.Stock;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

@Tag("trial")
class PlannerTest {
  private static final Survey SURVEY = Surveyor.survey(Samples.drive(new Geometry(240, 8, 32)));
  private static final Set<String> OF_PCS = Set.of("pc", "ahdi68k");
  private static final Survey NOTHING =
      new Survey(0, Optional.empty(), List.of(), List.of(), List.of());
  private static final Card EIGHT = new Card("mill-3", 8_000_000_000L, 14_532_608);

  private static Plan plan(
      String machine, String system, Card card, School school, Wish... wishes) {
    return Planner.plan(
        Profiles.get(machine),
        new PlanRequest(
            machine,
            "",
            system,
            card,
            List.of(),
            Profiles.get(machine).family().equals("carrier") ? Strategy.CARRY : Strategy.REBUILD,
            school,
            List.of(wishes),
            false,
            List.of()),
        SURVEY);
  }

  @Test
  void thePlainFirmwareStopsAt504MiBAndTheProposalFillsIt() {
    Plan p = plan("controller-pc", "dos-5", EIGHT, School.MACHINE);
    assertThat(p.reach()).isEqualTo(1_032_192);
    assertThat(p.outOfReach()).isEqualTo(14_532_608 - 1_032_192);
    assertThat(p.reachBecause().result()).isEqualTo(p.reach());
    assertThat(p.outOfReachBecause().result()).isEqualTo(p.outOfReach());
    assertThat(p.volumes()).hasSize(2);
    assertThat(p.volumes().get(1).end()).isEqualTo(p.reach());
    assertThat(p.volumes()).allSatisfy(v -> assertThat(v.end() % 1008).isZero());
    assertThat(p.volumes()).extracting(Plan.PlannedVolume::letter).containsExactly("C", "D");
    assertThat(p.steps().get(0).value()).isEqualTo("1\u202F024 · 16 · 63");
    assertThat(p.lifts())
        .singleElement()
        .satisfies(l -> assertThat(l.reach()).isGreaterThan(p.reach()));
    assertThat(p.buildable()).isTrue();
  }

  /** No end is made up: one that lies before its volume's start stops the plan (P-2). */
  @Test
  void aVolumeThatWouldEndBeforeItStartsIsToldAndNotLaidOutSmall() {
    for (long end : new long[] {-5, 1, 204_000}) {
      Wish first = new Wish("A", 205_632, 0, -1);
      Plan p =
          plan("controller-pc", "dos-5", EIGHT, School.MACHINE, first, new Wish("B", end, 0, -1));
      assertThat(p.buildable()).as("" + end).isFalse();
      assertThat(p.volumes()).hasSize(1);
      assertThat(p.verdicts())
          .anyMatch(v -> v.rule().equals("P-2") && v.text().contains("B is to end at"));
    }
  }

  /** C-8: what would be torn by a wrong guess is not promised by a rebuild; a clone has sectors. */
  @Test
  void filesOfAGuessedVolumeAreNotRebuiltUntilSomebodySaysHowItLies() {
    FileSet files = new FileSet();
    Random r = new Random(7);
    for (int i = 0; i < 6; i++) {
      byte[] b = new byte[3000 + 2000 * i];
      r.nextBytes(b);
      Samples.file(files, "LOG" + i + ".DAT", 0x20, b);
    }
    MemoryMedium m = new MemoryMedium(1440);
    Maker maker = Catalogue.maker("CP/M 2.2");
    Geometry g = new Geometry(80, 2, 9);
    Maker.Wish wish = Samples.wish("CP/M 2.2", 1440, 2048, g, 0, "", 0);
    maker.write(maker.layout(wish), files, m, new byte[0], (p, n) -> {});
    Survey guessed = Surveyor.survey(m);
    String layout = guessed.volumes().get(0).guesses().get(0);
    Survey said = Surveyor.survey(new LaidOutMedium(m, layout));
    for (Strategy how : List.of(Strategy.REBUILD, Strategy.CLONE)) {
      for (Survey s : List.of(guessed, said)) {
        PlanRequest request =
            new PlanRequest(
                "z80-cpm-card",
                "",
                "",
                EIGHT,
                List.of(),
                how,
                School.MACHINE,
                List.of(),
                false,
                List.of());
        Plan p = Planner.plan(Profiles.get("z80-cpm-card"), request, s);
        assertThat(p.verdicts().stream().anyMatch(v -> v.rule().equals("C-8")))
            .as(how + " " + (s == said))
            .isEqualTo(how == Strategy.REBUILD && s == guessed);
      }
    }
  }

  /** What mounts a volume need not be able to check it. */
  @Test
  void aVolumeOfMoreClustersThanTheSystemsOwnToolsTakeIsWarnedOf() {
    for (long end : new long[] {4_150_000, 4_400_000}) {
      Plan p = plan("pc-late90s", "w95-2", EIGHT, School.MACHINE, new Wish("BIG", end, 512, -1));
      boolean more = p.volumes().get(0).clusters() > 4_177_920;
      assertThat(more).isEqualTo(end > 4_200_000);
      assertThat(p.verdicts().stream().anyMatch(v -> v.text().contains("own disk checker")))
          .isEqualTo(more);
    }
  }

  /** Whatever card is in the drawer: what the planner proposes itself can be built. */
  @Test
  void everyProposalIsBuildableForEveryCardAndFamily() {
    Random dice = new Random(200);
    List<Long> cards = new ArrayList<>();
    for (long mb : List.of(64, 128, 256, 512, 1000, 2000, 4000, 8000, 16_000, 32_000, 64_000)) {
      long sectors = mb * 1_000_000 / 512;
      cards.addAll(List.of(sectors, sectors * 93 / 100, sectors + 1));
    }
    while (cards.size() < Trials.turns(60, 400)) {
      cards.add((long) Math.exp(Math.log(130_000) + dice.nextDouble() * Math.log(1000)));
    }
    List<String> stopped = new ArrayList<>();
    for (Profile p : Profiles.all()) {
      for (String system : p.systems()) {
        for (long sectors : cards) {
          Card card = new Card("card", sectors * 512, sectors);
          Plan plan = plan(p.key(), system, card, School.MACHINE);
          if (plan.buildable()) continue;
          stopped.add(
              p.key() + " " + system + " " + sectors + ": " + plan.verdicts().get(0).text());
        }
      }
    }
    assertThat(stopped).isEmpty();
  }

  /** W-9: what is planned as buildable is built and proved, whatever the firmware and strategy. */
  @Test
  void whatIsPlannedAsBuildableIsBuiltAndProved(@TempDir Path folder) {
    Random dice = new Random(29);
    Medium old = Samples.drive(new Geometry(240, 8, 32));
    String digest = Digests.of(old, Progress.NONE, "").sha256();
    int built = 0;
    for (int turn = 0; turn < Trials.turns(40, 1500); turn++) {
      Profile p = Profiles.all().get(dice.nextInt(Profiles.all().size()));
      if (p.systems().isEmpty()) continue;
      String system = p.systems().get(dice.nextInt(p.systems().size()));
      String firmware = p.firmwares().get(dice.nextInt(p.firmwares().size())).key();
      // The drive is a PC's; with a table that a PC reads its volumes go on.
      boolean own = OF_PCS.contains(p.family()) && dice.nextInt(4) > 0;
      Strategy strategy =
          p.family().equals("carrier")
              ? Strategy.CARRY
              : own ? Strategy.values()[dice.nextInt(3)] : Strategy.REBUILD;
      long sectors = 61_440 + dice.nextInt(120_000);
      String what = p.key() + " " + firmware + " " + system + " " + strategy + " " + sectors;
      Plan plan =
          Planner.plan(
              p,
              new PlanRequest(
                  p.key(),
                  firmware,
                  system,
                  new Card("card", sectors * 512, sectors),
                  List.of(),
                  strategy,
                  dice.nextBoolean() ? School.MACHINE : School.FLASH,
                  List.of(),
                  false,
                  List.of()),
              own ? SURVEY : NOTHING);
      if (!plan.buildable()) continue;
      Recipe r = Recipe.of(plan, own ? SURVEY : NOTHING, own ? digest : "", List.of());
      Path file = folder.resolve("built " + turn + ".img");
      try (FileMedium to = FileMedium.create(file, r.sectors())) {
        Optional<Medium> from = own ? Optional.of(old) : Optional.empty();
        ImageBuilder.examine(r, own ? digest : "");
        ImageBuilder.build(r, from, Stock.EMPTY, to, Progress.NONE).close();
        Proof proof = Proof.of(r, from, to, r.sectors(), Progress.NONE);
        assertThat(proof.proved()).as(what + proof).isTrue();
        built++;
      } catch (ShedException e) {
        throw new AssertionError(what + ": " + e.getMessage(), e);
      }
      assertThat(file.toFile().delete()).isTrue();
    }
    assertThat(built).isGreaterThan(Trials.turns(40, 1500) / 4);
  }

  /** Twelve bits of cylinders never become 128 heads, and a card past them is warned of. */
  @Test
  void firmwareOfTwelveBitsShowsAtMost64Heads() {
    for (long sectors : List.of(4_127_760L, 4_194_080L, 14_532_608L)) {
      Plan p =
          Planner.plan(
              Profiles.get("pc-mid90s"),
              new PlanRequest(
                  "pc-mid90s",
                  "twelve-bit",
                  "dos-5",
                  new Card("card", 0, sectors),
                  List.of(),
                  Strategy.REBUILD,
                  School.MACHINE,
                  List.of(),
                  false,
                  List.of()),
              NOTHING);
      assertThat(p.geometry()).isEqualTo(new Geometry(1023, 64, 63));
      assertThat(p.verdicts().stream().anyMatch(v -> v.rule().equals("G-21")))
          .as(sectors + " sectors")
          .isEqualTo(sectors > 4_127_760);
    }
  }

  /** By whole cylinders of 255 heads the longest volume of DOS 3.3 is shorter than the old one. */
  @Test
  void aVolumeThatWouldBecomeShorterIsNotGrown() {
    Survey old = Surveyor.survey(Samples.drive(new Geometry(65, 16, 63)));
    Plan plan =
        Planner.plan(
            Profiles.get("pc-mid90s"),
            new PlanRequest(
                "pc-mid90s",
                "assisted",
                "dos-3.3",
                EIGHT,
                List.of(),
                Strategy.GROW,
                School.MACHINE,
                List.of(),
                false,
                List.of()),
            old);
    assertThat(plan.buildable()).isFalse();
    assertThat(plan.verdicts().get(0).text())
        .contains("64\u202F197 sectors here, and has 65\u202F457", "growing only adds");
  }

  @Test
  void smallCardsAreNotRoundedAway() {
    assertThat(new Card("c", 8_000_000, 0).planSectors()).isEqualTo(7 * 2048);
    assertThat(new Card("c", 16_000_000, 0).planSectors()).isEqualTo(14 * 2048);
    assertThat(new Card("c", 255_000_000, 0).planSectors()).isEqualTo(226 * 2048);
    assertThat(new Card("c", 256_000_000, 0).planSectors()).isEqualTo(224 * 2048);
  }

  @Test
  void edgesSnapToCylindersAndNearThresholdsToTheThreshold() {
    Plan free = plan("controller-pc", "dos-5", EIGHT, School.MACHINE, new Wish("A", 400_123, 0, 1));
    assertThat(free.volumes().get(0).end()).isEqualTo(400_123 / 1008 * 1008 + 1008);
    Plan near = plan("controller-pc", "dos-5", EIGHT, School.MACHINE, new Wish("A", 263_000, 0, 1));
    assertThat(near.volumes().get(0).length() * 512).isLessThanOrEqualTo(128L << 20);
    assertThat(near.volumes().get(0).clusterBytes()).isEqualTo(2048);
    Plan past = plan("controller-pc", "dos-5", EIGHT, School.MACHINE, new Wish("A", 300_000, 0, 1));
    assertThat(past.volumes().get(0).clusterBytes()).isEqualTo(4096);
  }

  @Test
  void wasteIsSummedOverTheSurveyedFiles() {
    Plan p = plan("controller-pc", "dos-5", EIGHT, School.MACHINE);
    long[] sizes = SURVEY.volumes().get(0).sizes();
    for (Plan.Slack s : p.volumes().get(0).slack()) {
      long waste = 0;
      for (long n : sizes)
        waste += (n % s.clusterBytes() == 0) ? 0 : s.clusterBytes() - n % s.clusterBytes();
      assertThat(s.wasteBytes()).isEqualTo(waste + 4L * s.clusterBytes());
      assertThat(s.because().result()).isEqualTo(s.wasteBytes());
    }
    assertThat(p.volumes().get(0).slack().stream().filter(Plan.Slack::chosen)).hasSize(1);
  }

  @Test
  void bothSchoolsOfTheStartAreOfferedWithTheirCost() {
    assertThat(plan("controller-pc", "dos-5", EIGHT, School.MACHINE).volumes().get(0).start())
        .isEqualTo(63);
    Plan flash = plan("controller-pc", "dos-5", EIGHT, School.FLASH);
    assertThat(flash.volumes().get(0).start()).isEqualTo(8192);
    assertThat(flash.verdicts())
        .anyMatch(v -> v.rule().equals("G-16") && v.weight() == Plan.Weight.WARNS);
  }

  @Test
  void earlySystemsGetOneVolumeOfTheirSize() {
    Plan p = plan("controller-pc", "dos-3.0", EIGHT, School.MACHINE);
    assertThat(p.volumes()).hasSize(1);
    assertThat(p.volumes().get(0).length()).isLessThanOrEqualTo(65_535);
    assertThat(p.volumes().get(0).type()).isEqualTo("04");
    Plan two =
        plan(
            "controller-pc",
            "dos-3.0",
            EIGHT,
            School.MACHINE,
            new Wish("A", 20_000, 0, 1),
            new Wish("B", 0, 0, -1));
    assertThat(two.buildable()).isFalse();
    assertThat(two.verdicts().get(0).text()).contains("one volume of a drive only");
  }

  @Test
  void aVolumeTooSmallForItsFilesStopsThePlanWithTheSum() {
    Plan p = plan("controller-pc", "dos-5", EIGHT, School.MACHINE, new Wish("A", 9000, 0, 1));
    assertThat(p.buildable()).as("" + p.verdicts()).isTrue();
    Plan small = plan("controller-pc", "dos-5", EIGHT, School.MACHINE, new Wish("A", 1008, 0, 1));
    assertThat(small.buildable()).isFalse();
  }

  @Test
  void theSmallestCardOfTheDrawerIsPlannedFor() {
    Card less = new Card("other", 8_000_000_000L, 600_000);
    Plan p =
        Planner.plan(
            Profiles.get("controller-pc"),
            new PlanRequest(
                "controller-pc",
                "",
                "",
                EIGHT,
                List.of(less),
                Strategy.REBUILD,
                School.MACHINE,
                List.of(),
                false,
                List.of()),
            SURVEY);
    assertThat(p.card()).isEqualTo(less);
    assertThat(p.imageSectors()).isLessThanOrEqualTo(600_000);
    assertThat(p.verdicts()).anyMatch(v -> v.text().equals("Fits all 2 cards of the drawer."));
  }

  @Test
  void aCloneThatIsOneSectorTooLargeStops() {
    for (int d = -1; d <= 1; d++) {
      Card c = new Card("c", 0, SURVEY.sectors() + d);
      Plan p =
          Planner.plan(
              Profiles.get("controller-pc"),
              new PlanRequest(
                  "controller-pc",
                  "",
                  "",
                  c,
                  List.of(),
                  Strategy.CLONE,
                  School.MACHINE,
                  List.of(),
                  false,
                  List.of()),
              SURVEY);
      boolean stopped =
          p.verdicts().stream()
              .anyMatch(v -> v.rule().equals("W-4") && v.weight() == Plan.Weight.STOPS);
      assertThat(stopped).isEqualTo(d < 0);
      assertThat(p.strategies().get(0).possible()).isEqualTo(d >= 0);
    }
  }

  /** Whatever is asked, a layout that is called buildable obeys the rules of tables and volumes. */
  @Test
  void aBuildableLayoutAlwaysObeysTheRules() {
    Random random = new Random(8);
    for (int i = 0; i < 1500; i++) {
      Profile profile = Profiles.all().get(random.nextInt(4));
      Profile.Firmware f = profile.firmwares().get(random.nextInt(profile.firmwares().size()));
      String system = profile.systems().get(random.nextInt(profile.systems().size()));
      Card card = new Card("c", 0, 3000 + (long) (Math.pow(random.nextDouble(), 3) * 30_000_000));
      List<Wish> wishes = new ArrayList<>();
      for (int n = random.nextInt(4); n > 0; n--) {
        long end = random.nextInt(3) == 0 ? 0 : (long) (random.nextDouble() * card.measured());
        wishes.add(new Wish("V" + n, end, 0, n == 1 ? 1 : -1));
      }
      School school = School.values()[random.nextInt(2)];
      Plan p =
          Planner.plan(
              profile,
              new PlanRequest(
                  profile.key(),
                  f.key(),
                  system,
                  card,
                  List.of(),
                  Strategy.REBUILD,
                  school,
                  wishes,
                  false,
                  List.of()),
              SURVEY);
      if (!p.buildable()) continue;
      long at = 1;
      Generation g = Generation.of(system).orElseThrow();
      for (Plan.PlannedVolume v : p.volumes()) {
        assertThat(v.start()).isGreaterThanOrEqualTo(at);
        assertThat(v.end()).isLessThanOrEqualTo(p.reach()).isLessThanOrEqualTo(card.measured());
        assertThat(v.length()).isLessThanOrEqualTo(g.volumeSectors());
        assertThat(v.end() % p.geometry().perCylinder()).isZero();
        if (v.logical()) assertThat(v.tableSector()).isBetween(at, v.start() - 1);
        at = v.end();
      }
      assertThat(p.volumes().stream().filter(Plan.PlannedVolume::active)).hasSize(1);
      assertThat(p.imageSectors()).isLessThanOrEqualTo(card.measured());
    }
  }

  @Test
  void whatAMachineDoesNotHaveIsRefusedInWords() {
    assertThatThrownBy(() -> plan("controller-pc", "w95-2", EIGHT, School.MACHINE))
        .isInstanceOf(ShedException.class)
        .hasMessageContaining("does not run");
    assertThatThrownBy(() -> plan("controller-pc", "", new Card("c", 0, 5), School.MACHINE))
        .hasMessageContaining("less than 1 MiB");
  }

  /** G-19: 125 440 sectors are 490 × 8 × 32 for many cards, and 124 × 16 × 63 by the usual sum. */
  @Test
  void aSmallCardsOwnGeometryCountsWhereItIsKnownAndIsAskedForWhereNot() {
    Card unknown = new Card("small", 64_000_000, 125_440);
    Plan asked = plan("controller-pc", "dos-5", unknown, School.MACHINE);
    assertThat(asked.geometry()).isEqualTo(new Geometry(124, 16, 63));
    assertThat(asked.verdicts())
        .anyMatch(v -> v.rule().equals("G-19") && v.weight() == Plan.Weight.WARNS);
    Card known =
        new Card("small", 64_000_000, 125_440, java.util.Optional.of(new Geometry(490, 8, 32)));
    Plan told = plan("controller-pc", "dos-5", known, School.MACHINE);
    assertThat(told.geometry()).isEqualTo(new Geometry(490, 8, 32));
    assertThat(told.reach()).isEqualTo(125_440);
    assertThat(told.volumes().get(0).start() % 32).isZero();
    assertThat(told.verdicts())
        .anyMatch(v -> v.rule().equals("G-19") && v.weight() == Plan.Weight.HOLDS);
    assertThat(plan("controller-pc", "dos-5", EIGHT, School.MACHINE).verdicts())
        .noneMatch(v -> v.rule().equals("G-19"));
    assertThat(plan("pc-late90s", "w95-2", unknown, School.MACHINE).verdicts())
        .noneMatch(v -> v.rule().equals("G-19"));
  }
}
