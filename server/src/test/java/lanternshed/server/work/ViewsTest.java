package lanternshed.server.work;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.List;
import lanternshed.core.boot.BootChain;
import lanternshed.core.boot.Start;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Sum;
import org.junit.jupiter.api.Test;
import org.springframework.test.util.ReflectionTestUtils;

/** What the screens are told of work and of proofs. */
class ViewsTest {
  private static final Instant NOW = Instant.parse("2026-11-25T10:00:00Z");
  private static final Sum NONE = Sum.of("B-6", "none").done();

  private static WorkEntity work(WorkEntity.State state) {
    WorkEntity w = new WorkEntity(7L, WorkEntity.Kind.WRITE, 3L, 100 << 20, NOW);
    ReflectionTestUtils.setField(w, "id", 5L);
    w.set(state, "", NOW);
    w.at("writing", 25 << 20, 100 << 20, NOW);
    w.place(51_200);
    return w;
  }

  @Test
  void runningWorkSaysHowFarHowFastAndHowLong() {
    WorkView v = WorkView.of(work(WorkEntity.State.RUNNING), 1 << 20);
    assertThat(v.doneText()).isEqualTo("25.0 MiB of 100.0 MiB, 51\u202F200 sectors");
    assertThat(v.rateText()).isEqualTo("1.0 MiB/s");
    assertThat(v.leftText()).isEqualTo("1 min 16 s left");
    assertThat(v.phase()).isEqualTo("writing");
    assertThat(v.jobId()).isEqualTo(7);
  }

  @Test
  void pausedWorkAndWorkWithoutARatePromiseNoTime() {
    assertThat(WorkView.of(work(WorkEntity.State.PAUSED), 1 << 20).leftText()).isEmpty();
    WorkView still = WorkView.of(work(WorkEntity.State.RUNNING), 0);
    assertThat(still.leftText()).isEmpty();
    assertThat(still.rateText()).isEmpty();
  }

  @Test
  void workKnowsItsPlaceAndWhetherItRuns() {
    WorkEntity w = work(WorkEntity.State.QUEUED);
    assertThat(w.running()).isTrue();
    assertThat(w.place()).isEqualTo(51_200);
    assertThat(w.mediumId()).contains(3L);
    w.set(WorkEntity.State.FAILED, "The card is gone.", NOW);
    assertThat(w.running()).isFalse();
    assertThat(w.message()).isEqualTo("The card is gone.");
  }

  private static ProofView proof(List<Finding> findings, List<String> differing, boolean breaks) {
    BootChain.Verdict verdict = breaks ? BootChain.Verdict.BREAKS : BootChain.Verdict.HOLDS;
    BootChain.Link link =
        new BootChain.Link("B-6", "Hidden sectors", verdict, "says 0", "Set it.", NONE);
    Start start =
        breaks
            ? new Start(Start.Kind.BREAKS, "Will not start: Hidden sectors, says 0.")
            : Start.meant("");
    return new ProofView(false, 3, differing, findings, List.of(link), start, "");
  }

  @Test
  void aFailedProofSaysItsFirstReason() {
    Finding f = Finding.wrong("F-9", "FAT 2", "The two FATs differ.", "Build again.");
    assertThat(proof(List.of(f), List.of("A.TXT"), true).why()).isEqualTo("The two FATs differ.");
    assertThat(proof(List.of(), List.of("A.TXT", "B.TXT"), true).why())
        .isEqualTo("2 files differ from the source, first A.TXT.");
    assertThat(proof(List.of(), List.of(), true).why())
        .isEqualTo("the boot chain breaks at Hidden sectors: says 0. Set it.");
    assertThat(proof(List.of(), List.of(), false).why()).contains("nothing was compared");
  }
}
