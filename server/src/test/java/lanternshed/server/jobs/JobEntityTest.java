package lanternshed.server.jobs;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

/** How a job moves along its lamps. */
class JobEntityTest {
  private static final Instant NOW = Instant.parse("2026-11-25T10:00:00Z");
  private final JobEntity job = new JobEntity("KD-3", "controller-pc", "clicks", null, NOW);

  private List<Lamp> lamps() {
    return IntStream.rangeClosed(1, 10).mapToObj(n -> job.station(n).state()).toList();
  }

  @Test
  void aNewJobHasItsIntakeInHandAndNothingElse() {
    assertThat(lamps().get(0)).isEqualTo(Lamp.LIT);
    assertThat(lamps().subList(1, 10)).containsOnly(Lamp.DARK);
    assertThat(job.mediumId()).isEmpty();
    assertThat(job.closed()).isFalse();
  }

  @Test
  void whatIsDoneBringsTheNextDarkStationIntoHand() {
    job.set(Stations.INTAKE, Lamp.MOSS, "6 of 6 points.", NOW.plusSeconds(5));
    assertThat(lamps().subList(0, 3)).containsExactly(Lamp.MOSS, Lamp.LIT, Lamp.DARK);
    assertThat(job.station(1).sentence()).isEqualTo("6 of 6 points.");
    assertThat(job.changed()).isEqualTo(NOW.plusSeconds(5));
    job.set(Stations.FAULT, Lamp.DASH, "", NOW);
    assertThat(lamps().subList(0, 4)).containsExactly(Lamp.MOSS, Lamp.DASH, Lamp.LIT, Lamp.DARK);
  }

  @Test
  void aStationThatIsStoppedBringsNothingElseIntoHand() {
    job.set(Stations.INTAKE, Lamp.MOSS, "", NOW);
    job.set(Stations.FAULT, Lamp.BRICK, "Not storage.", NOW);
    assertThat(lamps().subList(0, 3)).containsExactly(Lamp.MOSS, Lamp.BRICK, Lamp.DARK);
    job.set(Stations.FAULT, Lamp.MOSS, "Storage.", NOW);
    assertThat(lamps().get(2)).isEqualTo(Lamp.LIT);
  }

  @Test
  void workDoneOutOfTurnLeavesTheOneInHand() {
    job.set(Stations.RESCUE, Lamp.MOSS, "Everything came.", NOW);
    assertThat(lamps().subList(0, 4)).containsExactly(Lamp.LIT, Lamp.DARK, Lamp.MOSS, Lamp.DARK);
    job.set(Stations.INTAKE, Lamp.MOSS, "", NOW);
    assertThat(lamps().subList(0, 4)).containsExactly(Lamp.MOSS, Lamp.LIT, Lamp.MOSS, Lamp.DARK);
  }

  @Test
  void aNewPlanUndoesWhatFollowedFromTheOldOneUpToTheCard() {
    for (int n = 1; n <= 8; n++) job.set(n, Lamp.MOSS, "done", NOW);
    job.redoAfter(Stations.PLAN);
    assertThat(lamps().subList(0, 5)).containsOnly(Lamp.MOSS);
    assertThat(lamps().subList(5, 7)).containsOnly(Lamp.DARK);
    assertThat(job.station(Stations.BUILD).sentence()).isEmpty();
    assertThat(lamps().get(Stations.FIT - 1)).isEqualTo(Lamp.MOSS);
  }

  @Test
  void everyStationHasANameAndSaysWhatItWaitsFor() {
    assertThat(Stations.NAMES).hasSize(10).doesNotHaveDuplicates();
    assertThat(Stations.WAITS).hasSize(10).allSatisfy(w -> assertThat(w).isNotBlank());
    assertThat(Stations.NAMES.get(Stations.CLOSE - 1)).isEqualTo("Close");
  }
}
