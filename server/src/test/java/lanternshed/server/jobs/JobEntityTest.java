package lanternshed.server.jobs;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import lanternshed.server.stations.Station;
import org.junit.jupiter.api.Test;

/** How a job moves along its lamps. */
class JobEntityTest {
  private static final Instant NOW = Instant.parse("2026-11-25T10:00:00Z");
  private final JobEntity job = new JobEntity("KD-3", "controller-pc", "clicks", null, NOW);

  private List<Lamp> lamps() {
    return Arrays.stream(Station.values()).map(n -> job.station(n).state()).toList();
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
    job.set(Station.INTAKE, Lamp.MOSS, "6 of 6 points.", NOW.plusSeconds(5));
    assertThat(lamps().subList(0, 3)).containsExactly(Lamp.MOSS, Lamp.LIT, Lamp.DARK);
    assertThat(job.station(Station.INTAKE).sentence()).isEqualTo("6 of 6 points.");
    assertThat(job.changed()).isEqualTo(NOW.plusSeconds(5));
    job.set(Station.FAULT, Lamp.DASH, "", NOW);
    assertThat(lamps().subList(0, 4)).containsExactly(Lamp.MOSS, Lamp.DASH, Lamp.LIT, Lamp.DARK);
  }

  @Test
  void aStationThatIsStoppedBringsNothingElseIntoHand() {
    job.set(Station.INTAKE, Lamp.MOSS, "", NOW);
    job.set(Station.FAULT, Lamp.BRICK, "Not storage.", NOW);
    assertThat(lamps().subList(0, 3)).containsExactly(Lamp.MOSS, Lamp.BRICK, Lamp.DARK);
    job.set(Station.FAULT, Lamp.MOSS, "Storage.", NOW);
    assertThat(lamps().get(2)).isEqualTo(Lamp.LIT);
  }

  @Test
  void workDoneOutOfTurnLeavesTheOneInHand() {
    job.set(Station.RESCUE, Lamp.MOSS, "Everything came.", NOW);
    assertThat(lamps().subList(0, 4)).containsExactly(Lamp.LIT, Lamp.DARK, Lamp.MOSS, Lamp.DARK);
    job.set(Station.INTAKE, Lamp.MOSS, "", NOW);
    assertThat(lamps().subList(0, 4)).containsExactly(Lamp.MOSS, Lamp.LIT, Lamp.MOSS, Lamp.DARK);
  }

  @Test
  void aNewPlanUndoesWhatFollowedFromTheOldOneUpToTheCard() {
    for (Station s : Station.values()) {
      if (s.compareTo(Station.PROVE) < 0) job.set(s, Lamp.MOSS, "done", NOW);
    }
    job.redoAfter(Station.PLAN);
    assertThat(lamps().subList(0, 5)).containsOnly(Lamp.MOSS);
    assertThat(lamps().subList(5, 7)).containsOnly(Lamp.DARK);
    assertThat(job.station(Station.BUILD).sentence()).isEmpty();
    assertThat(lamps().get(Station.FIT.ordinal())).isEqualTo(Lamp.MOSS);
  }

  @Test
  void whatWasInHandBehindAPlanWaitsForWhatTheNewOneAsks() {
    for (Station s : Station.values()) {
      if (s.compareTo(Station.FIT) < 0) job.set(s, Lamp.MOSS, "done", NOW);
    }
    assertThat(lamps().get(Station.FIT.ordinal())).isEqualTo(Lamp.LIT);
    job.redoAfter(Station.PLAN);
    job.set(Station.PLAN, Lamp.MOSS, "again", NOW);
    assertThat(lamps().subList(5, 8)).containsExactly(Lamp.LIT, Lamp.DARK, Lamp.DARK);
    job.set(Station.BUILD, Lamp.MOSS, "built", NOW);
    assertThat(lamps().subList(5, 8)).containsExactly(Lamp.MOSS, Lamp.LIT, Lamp.DARK);
  }

  @Test
  void everyStationHasANameAndSaysWhatItWaitsFor() {
    assertThat(Station.values()).hasSize(10);
    assertThat(Station.values()).extracting(Station::title).doesNotHaveDuplicates();
    assertThat(Station.values()).allSatisfy(x -> assertThat(x.waitsFor()).isNotBlank());
    assertThat(Station.of(10)).contains(Station.CLOSE);
    assertThat(Station.of(11)).isEmpty();
  }
}
