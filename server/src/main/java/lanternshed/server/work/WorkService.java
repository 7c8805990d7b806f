package lanternshed.server.work;

import com.github.kagkarlsson.scheduler.Scheduler;
import com.github.kagkarlsson.scheduler.task.helper.OneTimeTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import jakarta.persistence.EntityManager;
import jakarta.persistence.EntityNotFoundException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import javax.sql.DataSource;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.survey.Holes;
import lanternshed.core.work.Rescue;
import lanternshed.core.work.RescueMap;
import lanternshed.core.work.StoppedException;
import lanternshed.server.shell.ConflictException;
import lanternshed.server.shell.Events;
import lanternshed.server.shell.Json;
import lanternshed.server.shell.Running;
import lanternshed.server.shell.Shelf;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.jdbc.datasource.TransactionAwareDataSourceProxy;
import org.springframework.stereotype.Service;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Runs long work in the background, one piece a job. What was running when the program was killed
 * stands as paused at the next start, and goes on from its map or its place.
 */
@Service
public class WorkService {
  private static final Logger LOG = LoggerFactory.getLogger(WorkService.class);
  private static final int THREADS = 2;
  private final WorkRepository works;
  private final ObjectProvider<Benches> benches;
  private final Shelf shelf;
  private final Events events;
  private final Clock clock;
  private final TransactionTemplate transaction;
  private final EntityManager entities;
  private final Scheduler scheduler;
  private final OneTimeTask<Void> task;
  private final Wishes wishes;
  private final Map<Long, Running> running = new ConcurrentHashMap<>();

  WorkService(
      WorkRepository works,
      ObjectProvider<Benches> benches,
      Shelf shelf,
      Wishes wishes,
      Events events,
      Clock clock,
      TransactionTemplate transaction,
      EntityManager entities,
      DataSource dataSource) {
    this.works = works;
    this.benches = benches;
    this.shelf = shelf;
    this.wishes = wishes;
    this.events = events;
    this.clock = clock;
    this.transaction = transaction;
    this.entities = entities;
    this.task =
        Tasks.oneTime("work")
            .execute((instance, context) -> run(Long.parseLong(instance.getId().split(" ")[0])));
    this.scheduler =
        Scheduler.create(new TransactionAwareDataSourceProxy(dataSource), task)
            .threads(THREADS)
            .pollingInterval(java.time.Duration.ofSeconds(1))
            .enableImmediateExecution()
            .build();
  }

  @EventListener(ApplicationReadyEvent.class)
  void start() {
    transaction.executeWithoutResult(
        t -> {
          List<WorkEntity> interrupted =
              works.findByStateIn(List.of(WorkEntity.State.RUNNING, WorkEntity.State.QUEUED));
          for (WorkEntity w : interrupted) {
            w.set(
                WorkEntity.State.PAUSED,
                "The shed was stopped while this ran. It goes on where it stood.",
                clock.instant());
          }
          // Executions of the process that is gone: each is begun anew when somebody says "go on".
          entities.createNativeQuery("delete from scheduled_tasks").executeUpdate();
        });
    scheduler.start();
  }

  @jakarta.annotation.PreDestroy
  void stop() {
    running.values().forEach(r -> r.ask(Running.Wish.PAUSE));
    scheduler.stop();
  }

  /**
   * Begins a piece of work.
   *
   * @throws ConflictException where the job or the medium has one in hand
   */
  public WorkEntity begin(long jobId, WorkEntity.Kind kind, Optional<Long> mediumId, long bytes) {
    return begin(jobId, kind, mediumId, bytes, "");
  }

  WorkEntity begin(
      long jobId, WorkEntity.Kind kind, Optional<Long> mediumId, long bytes, String wish) {
    if (works.findActive(jobId).isPresent()) {
      throw new ConflictException(
          "Work is in hand on this job already. Wait for it, or cancel it first.");
    }
    WorkEntity fresh = new WorkEntity(jobId, kind, mediumId.orElse(null), bytes, clock.instant());
    fresh.wish(wish);
    WorkEntity w = works.saveAndFlush(fresh);
    schedule(w.id());
    return w;
  }

  /** Does a piece of work in the caller's own thread; how the demonstration comes to its states. */
  public void now(long jobId, WorkEntity.Kind kind, long mediumId) {
    Long medium = mediumId == 0 ? null : mediumId;
    run(works.saveAndFlush(new WorkEntity(jobId, kind, medium, 0, clock.instant())).id());
  }

  private void schedule(long id) {
    scheduler.schedule(task.instance(id + " " + UUID.randomUUID()), clock.instant());
  }

  public WorkEntity get(long id) {
    return works
        .findById(id)
        .orElseThrow(() -> new EntityNotFoundException("There is no work " + id + "."));
  }

  public WorkView view(long id) {
    WorkEntity w = get(id);
    Running r = running.get(id);
    // Until it has told how far it is, what was kept counts.
    return r == null || r.total() == 0
        ? WorkView.of(w, 0)
        : WorkView.of(w, r.phase(), r.done(), r.total(), r.rate());
  }

  public WorkView pause(long id) {
    ask(id, Running.Wish.PAUSE);
    return view(id);
  }

  public WorkView cancel(long id) {
    WorkEntity w = get(id);
    if (w.state() == WorkEntity.State.PAUSED) {
      finish(id, WorkEntity.State.CANCELLED, "Cancelled.");
      benches.getObject().cancelled(w);
      sweep(w);
    } else {
      ask(id, Running.Wish.CANCEL);
    }
    return view(id);
  }

  private void ask(long id, Running.Wish wish) {
    Running r = running.get(id);
    if (r == null) throw new ConflictException("This work does not run at the moment.");
    r.ask(wish);
  }

  public WorkView resume(long id) {
    transaction.executeWithoutResult(
        t -> {
          WorkEntity w = get(id);
          if (w.state() != WorkEntity.State.PAUSED) {
            throw new ConflictException("Only paused work can go on; this is " + w.state() + ".");
          }
          w.set(WorkEntity.State.QUEUED, "", clock.instant());
        });
    schedule(id);
    return view(id);
  }

  /** The map of a rescue as it is now; empty before it has begun. */
  public Optional<RescueMap> map(long id) {
    Path map = shelf.halfMap(get(id).id());
    return Files.exists(map) ? Optional.of(RescueMap.load(map)) : Optional.empty();
  }

  /** Changes how a rescue goes on, at once when it runs. */
  public void wish(long id, Rescue.Wish wish) {
    transaction.executeWithoutResult(t -> get(id).wish(Json.write(wish)));
    wishes.set(id, wish);
  }

  Rescue.Wish wish(long id) {
    return Wishes.kept(get(id));
  }

  /** What the holes hit so far; nothing before there is an image. */
  List<Holes.Hit> hits(long id) {
    Path image = shelf.half(get(id).id());
    Optional<RescueMap> map = map(id);
    if (map.isEmpty() || !Files.exists(image)) return List.of();
    List<long[]> holes =
        map.get().ranges(RescueMap.State.FAILED).stream()
            .map(r -> new long[] {r.start(), r.length()})
            .toList();
    try (Medium m = FileMedium.open(image)) {
      return Holes.name(m, holes);
    }
  }

  // ---- running ----------------------------------------------------------------------------------

  private void run(long id) {
    WorkEntity w = get(id);
    if (w.state() != WorkEntity.State.QUEUED) return;
    Running r = new Running((x, keep) -> heard(id, x, keep));
    running.put(id, r);
    transaction.executeWithoutResult(
        t -> get(id).set(WorkEntity.State.RUNNING, "", clock.instant()));
    try {
      benches.getObject().run(get(id), r);
      finish(id, WorkEntity.State.DONE, "");
    } catch (StoppedException e) {
      boolean cancel = r.wish() == Running.Wish.CANCEL;
      boolean asked = r.wish() != Running.Wish.GO_ON;
      finish(
          id,
          cancel ? WorkEntity.State.CANCELLED : WorkEntity.State.PAUSED,
          cancel ? "Cancelled." : asked ? "Paused; it goes on where it stands." : e.getMessage());
      if (cancel) {
        benches.getObject().cancelled(w);
        sweep(w);
      }
    } catch (RuntimeException e) {
      String sentence =
          e instanceof ShedException
              ? e.getMessage()
              : "The shed itself failed here; the originals are as they were.";
      LOG.warn("work {} failed: {}", id, sentence, e instanceof ShedException ? null : e);
      if (w.kind() == WorkEntity.Kind.RESCUE && e instanceof ShedException) {
        // A full disk or a drive that is gone: what was read is kept, and it goes on when that is
        // mended.
        finish(id, WorkEntity.State.PAUSED, sentence);
      } else {
        finish(id, WorkEntity.State.FAILED, sentence);
        benches.getObject().failed(w, sentence);
        sweep(w);
      }
    } finally {
      running.remove(id);
      events.tell("work", view(id));
      events.tell("job", Map.of("id", w.jobId()));
    }
  }

  private void heard(long id, Running r, boolean keep) {
    if (keep) {
      transaction.executeWithoutResult(
          t -> {
            WorkEntity w = get(id);
            // Only writing has a place to go on from; a rescue has its map, a build begins anew.
            long place = r.phase().equals("writing") ? r.done() / 512 : w.place();
            w.at(r.phase(), r.done(), r.total(), place, clock.instant());
          });
    }
    events.tell("work", view(id));
  }

  private void finish(long id, WorkEntity.State state, String message) {
    transaction.executeWithoutResult(t -> get(id).set(state, message, clock.instant()));
  }

  /** What a piece of work had made that will not go on is nobody's. */
  private void sweep(WorkEntity w) {
    shelf.remove(shelf.half(w.id()));
    shelf.remove(shelf.halfMap(w.id()));
  }
}
