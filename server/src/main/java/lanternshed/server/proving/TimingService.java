package lanternshed.server.proving;

import jakarta.persistence.EntityNotFoundException;
import java.time.Clock;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import lanternshed.core.measure.ShedException;
import lanternshed.core.prove.Speeds;
import lanternshed.core.prove.Timing;
import lanternshed.server.drawer.ChainService;
import lanternshed.server.jobs.JobEntity;
import lanternshed.server.jobs.JobService;
import lanternshed.server.logbook.LogService;
import lanternshed.server.plans.ReadRate;
import lanternshed.server.shell.Events;
import lanternshed.server.stations.Station;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Keeps what was timed on a job's machine and lets the core compare it (V-2 to V-4). */
@Service
public class TimingService implements ReadRate {
  private static final int MOST = 200;

  private final TimingRepository timings;
  private final JobService jobs;
  private final ChainService chains;
  private final LogService log;
  private final Events events;
  private final Clock clock;

  TimingService(
      TimingRepository timings,
      JobService jobs,
      ChainService chains,
      LogService log,
      Events events,
      Clock clock) {
    this.timings = timings;
    this.jobs = jobs;
    this.chains = chains;
    this.log = log;
    this.events = events;
    this.clock = clock;
  }

  record TimingView(
      long id,
      Timing.Kind kind,
      boolean after,
      String text,
      String system,
      String tool,
      Instant at) {}

  /**
   * @param example a figure as it may be typed
   */
  record KindView(Timing.Kind kind, String words, String example) {}

  /**
   * @param limit what the bus carries, in words; "" where nobody knows
   * @param limitBytes the same in bytes a second; 0 where nobody knows
   */
  record SpeedsView(
      List<TimingView> timings,
      List<Speeds.SpeedRow> rows,
      String limit,
      long limitBytes,
      List<KindView> kinds) {}

  SpeedsView view(long jobId) {
    List<TimingEntity> all = timings.findByJobIdAndRemovedFalseOrderById(jobId);
    Speeds s = speeds(jobId);
    return new SpeedsView(
        all.stream().map(TimingService::view).toList(),
        s.rows(),
        s.limit().map(Speeds.Limit::text).orElse(""),
        s.limit().map(Speeds.Limit::bytesPerSecond).orElse(0L),
        Arrays.stream(Timing.Kind.values())
            .map(k -> new KindView(k, k.words(), k.example()))
            .toList());
  }

  @Override
  public Optional<Long> measured(long job) {
    return timings.findByJobIdAndRemovedFalseOrderById(job).stream()
        .map(TimingEntity::timing)
        .filter(t -> t.readRate().isPresent())
        // Of two that are alike the later one is looked at last.
        .reduce((a, b) -> a.after() && !b.after() ? a : b)
        .flatMap(Timing::readRate);
  }

  /** Before and after, compared. */
  public Speeds speeds(long jobId) {
    JobEntity job = jobs.get(jobId);
    List<TimingEntity> all = timings.findByJobIdAndRemovedFalseOrderById(jobId);
    return Speeds.of(all.stream().map(TimingEntity::timing).toList(), chains.limit(job));
  }

  private static TimingView view(TimingEntity e) {
    Timing t = e.timing();
    return new TimingView(e.id(), t.kind(), t.after(), t.text(), t.system(), t.tool(), e.at());
  }

  @Transactional
  public void add(long jobId, Timing t) {
    jobs.get(jobId);
    t.checked();
    if (timings.findByJobIdAndRemovedFalseOrderById(jobId).size() >= MOST) {
      throw new ShedException("This job has " + MOST + " figures; take some out first.");
    }
    timings.save(new TimingEntity(jobId, t, clock.instant()));
    String with = t.tool().isEmpty() ? "" : " with " + t.tool();
    log.shed(
        jobId,
        (t.after() ? Station.PROVE : Station.INTAKE).number(),
        "Taken: " + t.kind().words() + " " + t.text() + with + ".");
    events.tell("job", Map.of("id", jobId));
  }

  /** Takes a figure out, or puts it back. */
  @Transactional
  public void remove(long jobId, long id, boolean removed) {
    timings
        .findById(id)
        .filter(t -> t.jobId() == jobId)
        .orElseThrow(() -> new EntityNotFoundException("There is no such figure in this job."))
        .setRemoved(removed);
    events.tell("job", Map.of("id", jobId));
  }
}
