package lanternshed.core.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TimeZone;
import java.util.TreeSet;
import lanternshed.core.Samples;
import lanternshed.core.Tool;
import lanternshed.core.machine.Card;
import lanternshed.core.machine.Profiles;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.CardStandIn;
import lanternshed.core.medium.Copy;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.medium.Pace;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.plan.Plan;
import lanternshed.core.plan.PlanRequest;
import lanternshed.core.plan.PlanRequest.School;
import lanternshed.core.plan.PlanRequest.Strategy;
import lanternshed.core.plan.Planner;
import lanternshed.core.survey.Survey;
import lanternshed.core.survey.Surveyor;
import lanternshed.core.volume.fat.FatVolume;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

class BuildAndWriteTest {
  private static final Geometry OLD = new Geometry(240, 8, 32);
  private static final Card CARD = new Card("mill-3", 256_000_000, 495_936);
  private static final Medium SOURCE = Samples.drive(OLD);
  private static final Survey SURVEY = Surveyor.survey(SOURCE);
  @TempDir private Path folder;

  private static Plan plan(Strategy strategy, School school, boolean keepCode) {
    return Planner.plan(
        Profiles.get("controller-pc"),
        new PlanRequest(
            "controller-pc",
            "",
            "",
            CARD,
            List.of(),
            strategy,
            school,
            List.of(),
            keepCode,
            List.of()),
        SURVEY);
  }

  private static MemoryMedium built(Recipe recipe) {
    MemoryMedium m = new MemoryMedium(recipe.sectors());
    ImageBuilder.build(recipe, Optional.of(SOURCE), Stock.EMPTY, m, Progress.NONE);
    return m;
  }

  @ParameterizedTest
  @EnumSource(value = Strategy.class, names = "CARRY", mode = EnumSource.Mode.EXCLUDE)
  void everyStrategyGivesAProvedImageWithTheSameFiles(Strategy strategy) {
    Plan plan = plan(strategy, School.MACHINE, false);
    assertThat(plan.buildable()).as("" + plan.verdicts()).isTrue();
    Recipe recipe = Recipe.of(plan, SURVEY, "ab".repeat(32), List.of());
    MemoryMedium m = built(recipe);
    Proof p = Proof.of(recipe, Optional.of(SOURCE), m, plan.reach(), Progress.NONE);
    assertThat(p.proved()).as("" + p).isTrue();
    assertThat(p.boot().holds()).isTrue();
    Plan.PlannedVolume first = plan.volumes().get(0);
    FatVolume v = FatVolume.open(new SliceMedium(m, first.start(), first.length()));
    assertThat(Samples.digests(v)).isEqualTo(Samples.digests(Samples.volume(SOURCE, OLD)));
    Path file = folder.resolve("b.img");
    Samples.toFile(m, file);
    assertThat(Tool.run("sfdisk --verify " + file)).contains("No errors detected");
  }

  @Test
  void theSameRecipeAndSourceGiveTheSameBytesAndTheRecipeIsOpenText() {
    Recipe recipe =
        Recipe.of(plan(Strategy.REBUILD, School.FLASH, true), SURVEY, "ab".repeat(32), List.of());
    assertThat(Recipe.parse(recipe.toJson())).isEqualTo(recipe);
    Comparison c =
        Comparison.of(built(recipe), built(Recipe.parse(recipe.toJson())), 0, Progress.NONE, "");
    assertThat(c.identical()).isTrue();
    assertThat(built(recipe).sector(0)).startsWith(java.util.Arrays.copyOf(SOURCE.sector(0), 440));
    assertThatThrownBy(() -> Recipe.parse("{\"form\":")).hasMessageContaining("does not read");
    assertThatThrownBy(() -> Recipe.parse(recipe.toJson().replace("form 3", "form 9")))
        .hasMessageContaining("no recipe");
  }

  @Test
  void aProofFindsAFileThatWasChangedAfterwards() {
    Plan plan = plan(Strategy.REBUILD, School.MACHINE, false);
    Recipe recipe = Recipe.of(plan, SURVEY, "ab".repeat(32), List.of());
    MemoryMedium m = built(recipe);
    long start = plan.volumes().get(0).start();
    FatVolume v = FatVolume.open(new SliceMedium(m, start, plan.volumes().get(0).length()));
    var node =
        v.all().stream().filter(n -> n.path().equals("SET3/P14.PAT")).findFirst().orElseThrow();
    long sector = start + v.sectorsOf(node).get(0)[0];
    byte[] b = m.sector(sector);
    b[0] ^= 1;
    m.write(sector, 1, b, 0);
    Proof p = Proof.of(recipe, Optional.of(SOURCE), m, plan.reach(), Progress.NONE);
    assertThat(p.proved()).isFalse();
    assertThat(p.differing()).containsExactly("SET3/P14.PAT");
  }

  @Test
  void aRecipeThatReachesOutsideIsRefused() {
    Recipe r = Recipe.of(plan(Strategy.REBUILD, School.MACHINE, false), SURVEY, "", List.of());
    Recipe shorter =
        new Recipe(
            r.form(),
            r.family(),
            r.table(),
            r.strategy(),
            5000,
            r.geometry(),
            r.signature(),
            r.bootCode(),
            "",
            r.drivers(),
            r.volumes());
    assertThatThrownBy(() -> built(shorter)).hasMessageContaining("does not lie inside");
    assertThatThrownBy(
            () ->
                ImageBuilder.build(
                    r, Optional.empty(), Stock.EMPTY, new MemoryMedium(r.sectors()), Progress.NONE))
        .hasMessageContaining("needs its source");
  }

  /** W-1: neither the place nor the tongue of a computer comes into an image. */
  @Test
  void theSameRecipeGivesTheSameBytesInEveryZoneAndLocale() {
    Locale tongue = Locale.getDefault();
    TimeZone zone = TimeZone.getDefault();
    try {
      Set<String> images = new TreeSet<>();
      Set<String> recipes = new TreeSet<>();
      for (String[] where :
          new String[][] {
            {"en-GB", "UTC"}, {"tr-TR", "Asia/Kolkata"}, {"ar-EG", "America/St_Johns"}
          }) {
        Locale.setDefault(Locale.forLanguageTag(where[0]));
        TimeZone.setDefault(TimeZone.getTimeZone(where[1]));
        for (Strategy st : List.of(Strategy.REBUILD, Strategy.GROW)) {
          Recipe r = Recipe.of(plan(st, School.MACHINE, false), SURVEY, "ab".repeat(32), List.of());
          recipes.add(r.toJson());
          String digest = Digests.of(built(Recipe.parse(r.toJson())), Progress.NONE, "").sha256();
          images.add(st + digest);
        }
      }
      assertThat(recipes).hasSize(2);
      assertThat(images).hasSize(2);
    } finally {
      Locale.setDefault(tongue);
      TimeZone.setDefault(zone);
    }
  }

  // ---- writing ----------------------------------------------------------------------------------

  private static CardStandIn card(long claimed, long real) {
    return new CardStandIn(new MemoryMedium(real), "the card", claimed, real, Pace.counted());
  }

  @Test
  void aCardReadsBackIdentical() {
    CardStandIn c = card(OLD.total() + 7, OLD.total() + 7);
    CardWriter.write(SOURCE, c, 0, s -> {}, Progress.NONE);
    CardWriter.Report r = CardWriter.readBack(SOURCE, c, Progress.NONE);
    assertThat(r.identical()).isTrue();
    assertThat(r.sum()).isEqualTo("Reads back identical, 61\u202F440 sectors.");
  }

  @Test
  void aWriteThatWasKilledGoesOnWhereItStood() {
    CardStandIn c = card(OLD.total(), OLD.total());
    long[] at = {0};
    assertThatThrownBy(
            () ->
                CardWriter.write(
                    SOURCE,
                    c,
                    0,
                    safe -> at[0] = safe,
                    (p, done, total) -> {
                      if (done > total / 2) throw new StoppedException("stop");
                    }))
        .isInstanceOf(StoppedException.class);
    assertThat(at[0]).as("only what was made safe counts").isPositive();
    CardWriter.write(SOURCE, c, at[0], s -> {}, Progress.NONE);
    assertThat(CardWriter.readBack(SOURCE, c, Progress.NONE).identical()).isTrue();
  }

  @Test
  void onlyWhatDiffersFromTheImageOnTheCardIsWrittenAndAllIsReadBack() {
    CardStandIn c = card(OLD.total(), OLD.total());
    CardWriter.write(SOURCE, c, 0, s -> {}, Progress.NONE);
    MemoryMedium next = new MemoryMedium(SOURCE.sectors());
    Copy.range(SOURCE, 0, SOURCE.sectors(), next, 0, (n, all) -> {});
    byte[] other = new byte[512];
    other[7] = 1;
    next.write(30_001, 1, other, 0);
    long wrote = CardWriter.write(next, Optional.of(SOURCE), c, 0, s -> {}, Progress.NONE);
    assertThat(wrote).isEqualTo(2048);
    assertThat(CardWriter.readBack(next, c, Progress.NONE).identical()).isTrue();
    // A card that does not hold what was believed is found out by the read-back.
    c.write(100, 1, other, 0);
    assertThat(CardWriter.write(SOURCE, Optional.of(next), c, 0, s -> {}, Progress.NONE))
        .isEqualTo(2048);
    assertThat(CardWriter.readBack(SOURCE, c, Progress.NONE).firstDifference()).isEqualTo(100);
  }

  @Test
  void aCardOfFalseCapacityAndABadSectorAreFoundByReadingBack() {
    CardStandIn wraps = card(OLD.total(), OLD.total() / 2);
    CardWriter.write(SOURCE, wraps, 0, s -> {}, Progress.NONE);
    CardWriter.Report r = CardWriter.readBack(SOURCE, wraps, Progress.NONE);
    assertThat(r.firstDifference()).isZero();
    assertThat(r.sum()).contains("wraps");
    CardStandIn worn = card(OLD.total(), OLD.total());
    CardWriter.write(SOURCE, worn, 0, s -> {}, Progress.NONE);
    byte[] b = worn.sector(777);
    b[5] ^= 4;
    worn.write(777, 1, b, 0);
    assertThat(CardWriter.readBack(SOURCE, worn, Progress.NONE).firstDifference()).isEqualTo(777);
  }

  @Test
  void theGuardRefusesEveryWrongTarget() {
    long most = 1L << 28;
    CardWriter.Target good = new CardWriter.Target("card", "0042", 1000, true, false, false);
    assertThat(CardWriter.refusals(good, 1000, most)).isEmpty();
    assertThat(CardWriter.refusals(good, 1001, most))
        .singleElement()
        .asString()
        .contains("1 sector too few");
    Map<CardWriter.Target, String> bad =
        Map.of(
            new CardWriter.Target("a", "x", 1000, false, false, false), "removable",
            new CardWriter.Target("b", "x", 1000, true, true, false), "mounted",
            new CardWriter.Target("c", "x", 1000, true, false, true), "came from",
            new CardWriter.Target("d", "x", most + 1, true, false, false), "not taken for cards");
    bad.forEach(
        (t, why) ->
            assertThat(CardWriter.refusals(t, 10, most)).singleElement().asString().contains(why));
    assertThat(CardWriter.confirmed(good, "0042")).isTrue();
    assertThat(CardWriter.confirmed(good, "0043")).isFalse();
    assertThat(CardWriter.confirmed(new CardWriter.Target("n", "", 1, true, false, false), ""))
        .isFalse();
  }
}
