package lanternshed.core.work;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import lanternshed.core.Samples;
import lanternshed.core.boot.Around;
import lanternshed.core.boot.Rehearsal;
import lanternshed.core.boot.pc.PcBoot;
import lanternshed.core.cpu.Level;
import lanternshed.core.machine.Card;
import lanternshed.core.machine.Profiles;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.plan.Plan;
import lanternshed.core.plan.PlanRequest;
import lanternshed.core.plan.PlanRequest.School;
import lanternshed.core.plan.PlanRequest.Strategy;
import lanternshed.core.plan.Planner;
import lanternshed.core.survey.Survey;
import lanternshed.core.survey.Surveyor;
import lanternshed.core.survey.Whereabouts;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.fat.FatKind;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What is tried before an image is built is what the built one does. */
class TrialTest {
  private static final Geometry OLD = new Geometry(240, 8, 32);
  private static final MemoryMedium SOURCE = Samples.drive(OLD);

  private static Plan plan(MemoryMedium from, Strategy strategy, String system, boolean keep) {
    String machine =
        switch (system) {
          case "free-dos" -> "at-386-486";
          case "w95-1" -> "pc-mid90s";
          default -> "controller-pc";
        };
    PlanRequest r =
        new PlanRequest(
            machine,
            "",
            system,
            new Card("mill-3", 256_000_000, 495_936),
            List.of(),
            strategy,
            School.MACHINE,
            List.of(),
            keep,
            List.of());
    return Planner.plan(Profiles.get(machine), r, Surveyor.survey(from));
  }

  private static Around around(Plan p) {
    return new Around(p.geometry(), p.reach(), false, Level.I80386);
  }

  private static Optional<Rehearsal> tried(MemoryMedium from, Plan p) {
    Recipe recipe = Recipe.of(p, Surveyor.survey(from), "ab".repeat(32), List.of());
    return Trial.of(recipe, Optional.of(from), Stock.EMPTY, around(p));
  }

  @ParameterizedTest
  @CsvSource({
    "REBUILD, dos-5, false",
    "REBUILD, dos-5, true",
    "GROW, dos-5, true",
    "CLONE, dos-5, true",
    "REBUILD, free-dos, false",
    "REBUILD, w95-1, false",
  })
  void itEndsAsTheBuiltImageDoes(Strategy strategy, String system, boolean keep) {
    Plan p = plan(SOURCE, strategy, system, keep);
    assertThat(p.buildable()).as("" + p.verdicts()).isTrue();
    Rehearsal tried = tried(SOURCE, p).orElseThrow();
    Survey survey = Surveyor.survey(SOURCE);
    Recipe recipe = Recipe.of(p, survey, "ab".repeat(32), List.of());
    MemoryMedium built = new MemoryMedium(recipe.sectors());
    ImageBuilder.build(recipe, Optional.of(SOURCE), Stock.EMPTY, built, Progress.NONE);
    Rehearsal was =
        new PcBoot().rehearse(built, around(p), Whereabouts.of(built)::at).orElseThrow();
    assertThat(tried.ending()).isEqualTo(was.ending());
    assertThat(tried.sentence()).isEqualTo(was.sentence());
    assertThat(tried.screen()).isEqualTo(was.screen());
    // The sample's loader stands at its first byte, which the 95 generation does not enter.
    assertThat(tried.starts()).isEqualTo(!system.equals("w95-1"));
  }

  @Test
  void codeThatComputesWithOtherHeadsIsFoundBeforeAnythingIsBuilt() {
    // A clone keeps what was written for 8 × 32; this firmware shows its own for the card.
    Plan p = plan(SOURCE, Strategy.CLONE, "dos-5", true);
    Recipe recipe = Recipe.of(p, Surveyor.survey(SOURCE), "ab".repeat(32), List.of());
    Around other = new Around(new Geometry(400, 16, 63), 400_000, false, Level.I80386);
    Rehearsal r = Trial.of(recipe, Optional.of(SOURCE), Stock.EMPTY, other).orElseThrow();
    assertThat(r.starts()).isFalse();
    Plan ours = plan(SOURCE, Strategy.REBUILD, "dos-5", false);
    assertThat(tried(SOURCE, ours).orElseThrow().starts()).isTrue();
  }

  @Test
  void nothingThatIsToStartIsNotTried() {
    MemoryMedium plain = new MemoryMedium(OLD.total());
    Samples.write(
        Samples.layout(OLD, 0, plain.sectors(), FatKind.FAT16, 0, "X"),
        new FileSet(),
        plain,
        new byte[0]);
    Plan p = plan(plain, Strategy.REBUILD, "dos-5", false);
    assertThat(tried(plain, p)).isEmpty();
  }
}
