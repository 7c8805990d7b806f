package lanternshed.server.work;

import com.fasterxml.jackson.annotation.JsonIgnore;
import lanternshed.core.measure.Say;
import lanternshed.server.shell.Events;

/**
 * Work as the screens show it: what, how far, how fast, how long still.
 *
 * @param jobId 0 for work that belongs to no job
 * @param mediumId 0 for work without a medium
 */
public record WorkView(
    long id,
    long jobId,
    long mediumId,
    String kind,
    String state,
    String phase,
    long done,
    long total,
    String doneText,
    String rateText,
    String leftText,
    String message)
    implements Events.Keyed {

  @Override
  @JsonIgnore
  public long key() {
    return id;
  }

  static WorkView of(WorkEntity w, long bytesPerSecond) {
    return of(w, w.phase(), w.done(), w.total(), bytesPerSecond);
  }

  static WorkView of(WorkEntity w, String phase, long done, long total, long rate) {
    String left = rate > 0 && w.running() ? Say.seconds((total - done) / rate + 1) + " left" : "";
    return new WorkView(
        w.id(),
        w.ofJob() ? w.jobId() : 0,
        w.mediumId().orElse(0L),
        w.kind().name(),
        w.state().name(),
        phase,
        done,
        total,
        Say.mib(done) + " of " + Say.mib(total) + ", " + Say.sectors(done / 512),
        rate > 0 ? Say.mib(rate) + "/s" : "",
        left,
        w.message());
  }
}
