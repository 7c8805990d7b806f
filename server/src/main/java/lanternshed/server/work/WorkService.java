package lanternshed.server.work;

import com.github.kagkarlsson.scheduler.Scheduler;
import com.github.kagkarlsson.scheduler.task.helper.OneTimeTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import jakarta.persistence.EntityManager;
import jakarta.persistence.EntityNotFoundException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
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
import lanternshed.server.images.ImageService;
import lanternshed.server.shell.ConflictException;
import lanternshed.server.shell.Database;
import lanternshed.server.shell.Events;
import lanternshed.server.shell.Json;
import lanternshed.server.shell.Running;
import lanternshed.server.shell.Shelf;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
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
  private static final Duration DATABASE_LOOK = Duration.ofSeconds(1);
  private static final int MOST_OTHER_FAILURES = 5;
  private static final String DATABASE_WAS_AWAY =
      "The database did not answer; it paused with all that it had and goes on by itself.";
  private static final String DATABASE_WAS_BUSY =
      "Others had all turns of the database; it paused with all that it had and goes on by itself.";
  private static final String UNKNOWN =
      "The shed itself failed here; the originals are as they were, and what came is kept.";
  private final WorkRepository works;
  private final ObjectProvider<Bench> benches;
  private final ImageService images;
  private final Shelf shelf;
  private final Events events;
  private final Clock clock;
  private final TransactionTemplate transaction;
  private final EntityManager entities;
  private final Scheduler scheduler;
  private final OneTimeTask<Void> task;
  private final Wishes wishes;
  private final Map<Long, Running> running = new ConcurrentHashMap<>();
  private volatile boolean stopping;

  WorkService(
      WorkRepository works,
      ObjectProvider<Bench> benches,
      ImageService images,
      Shelf shelf,
      Wishes wishes,
      Events events,
      Clock clock,
      TransactionTemplate transaction,
      EntityManager entities,
      DataSource dataSource) {
    this.works = works;
    this.benches = benches;
    this.images = images;
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
            .pollingInterval(Duration.ofSeconds(1))
            .enableImmediateExecution()
            .build();
  }

  @EventListener(ApplicationReadyEvent.class)
  @Order(Ordered.HIGHEST_PRECEDENCE)
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
    stopping = true;
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

  synchronized WorkEntity begin(
      long jobId, WorkEntity.Kind kind, Optional<Long> mediumId, long bytes, String wish) {
    WorkEntity fresh = new WorkEntity(jobId, kind, mediumId.orElse(null), bytes, clock.instant());
    fresh.wish(wish);
    WorkEntity w =
        transaction.execute(
            t -> {
              onBench(jobId);
              mediumId.ifPresent(this::free);
              return works.saveAndFlush(fresh);
            });
    // Whoever begins anew has seen how the last one failed and wants nothing of it.
    works.findByJobIdAndKindAndState(jobId, kind, WorkEntity.State.FAILED).forEach(this::sweep);
    schedule(w.id());
    return w;
  }

  /**
   * Begins work that belongs to no job.
   *
   * @param imageId the image that it is about; null for none
   * @throws ConflictException where the medium has some in hand
   */
  synchronized WorkEntity begin(
      WorkEntity.Kind kind, Long imageId, long mediumId, long bytes, String wish) {
    WorkEntity fresh = new WorkEntity(null, kind, mediumId, bytes, clock.instant());
    fresh.imageId(imageId);
    fresh.wish(wish);
    WorkEntity w =
        transaction.execute(
            t -> {
              free(mediumId);
              if (imageId != null) images.hold(imageId);
              return works.saveAndFlush(fresh);
            });
    schedule(w.id());
    return w;
  }

  /** Nobody takes the job off the bench until the transaction ends, nor begins other work on it. */
  private void onBench(long jobId) {
    if (works.jobRemoved(jobId).orElse(true)) {
      throw new ConflictException("This job was taken off the bench; put it back first.");
    }
    if (works.findActive(jobId).isPresent()) {
      throw new ConflictException(
          "Work is in hand on this job already. Wait for it, or cancel it first.");
    }
  }

  /** Two who write one card at once would both spoil it. */
  private void free(long mediumId) {
    if (works.mediumRemoved(mediumId).orElse(true)) {
      throw new ConflictException("This medium was taken out of the drawer; put it back first.");
    }
    if (works.onMedium(mediumId).isEmpty()) return;
    throw new ConflictException(
        "Work is in hand on this medium already. Wait for it, or cancel it first.");
  }

  /** The last pieces of work that belong to no job, the newest first. */
  List<WorkView> ofNoJob() {
    return works.ofNoJob().stream().map(w -> view(w.id())).toList();
  }

  private Bench bench(WorkEntity w) {
    return benches.stream().filter(b -> b.kind() == w.kind()).findFirst().orElseThrow();
  }

  /** Does a piece of work in the caller's own thread; how the demonstration comes to its states. */
  public void now(long jobId, WorkEntity.Kind kind, long mediumId) {
    Long medium = mediumId == 0 ? null : mediumId;
    run(works.saveAndFlush(new WorkEntity(jobId, kind, medium, 0, clock.instant())).id());
  }

  /** Goes on with what a job has in hand and a stop of the shed has paused. */
  public void goOn(long jobId) {
    works
        .findActive(jobId)
        .filter(w -> w.state() == WorkEntity.State.PAUSED)
        .ifPresent(w -> resume(w.id()));
  }

  /** Whether a job has work that is not over. */
  public boolean inHand(long jobId) {
    return works.findActive(jobId).isPresent();
  }

  /** Whether a job's last work of this kind came to its end. */
  public boolean wasDone(long jobId, WorkEntity.Kind kind) {
    return works
        .findFirstByJobIdAndKindOrderByIdDesc(jobId, kind)
        .filter(w -> w.state() == WorkEntity.State.DONE)
        .isPresent();
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
      bench(w).cancelled(w);
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

  /** Goes on by itself; done twice, the second time changes nothing. */
  private void resumeIfPaused(long id) {
    if (get(id).state() == WorkEntity.State.PAUSED) resume(id);
    else if (get(id).state() == WorkEntity.State.QUEUED) schedule(id);
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
    if (get(id).kind() != WorkEntity.Kind.RESCUE) {
      throw new ShedException("Only a rescue is wished for otherwise while it runs.");
    }
    transaction.executeWithoutResult(t -> get(id).wish(Json.write(wish)));
    wishes.set(id, wish);
  }

  Rescue.Wish wish(long id) {
    WorkEntity w = get(id);
    return w.kind() == WorkEntity.Kind.RESCUE ? Wishes.kept(w) : Rescue.Wish.USUAL;
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

  /** How a run ended. */
  private record Outcome(WorkEntity.State state, String message, boolean goesOnByItself) {}

  private void run(long id) {
    Running r = new Running((x, keep) -> heard(id, x, keep));
    // After an outage of the database the scheduler may bring the same piece a second time.
    if (running.putIfAbsent(id, r) != null) return;
    boolean again = false;
    try {
      WorkEntity[] found = {null};
      patiently(() -> found[0] = get(id));
      WorkEntity w = found[0];
      if (w.state() != WorkEntity.State.QUEUED) return;
      patiently(
          () ->
              transaction.executeWithoutResult(
                  t -> get(id).set(WorkEntity.State.RUNNING, "", clock.instant())));
      Outcome o = outcome(w, r);
      // What ends at once was asked for nothing in between.
      if (r.total() > 0) patiently(() -> keep(id, r));
      patiently(() -> settle(w, o));
      again = o.goesOnByItself();
    } finally {
      running.remove(id);
    }
    // Nobody has to come and say so: what stopped it is over.
    if (again && !stopping) patiently(() -> resumeIfPaused(id));
    patiently(() -> told(id));
  }

  private Outcome outcome(WorkEntity w, Running r) {
    try {
      bench(w).run(get(w.id()), r);
      return new Outcome(WorkEntity.State.DONE, "", false);
    } catch (Throwable e) {
      // Whatever ended it, also an error of the machine below: it ends in words, and what it has
      // stays. Half work is deleted by a person's word only.
      if (Database.isBusy(e)) {
        LOG.warn("work {}: the database had no turn left", w.id());
        return new Outcome(WorkEntity.State.PAUSED, DATABASE_WAS_BUSY, true);
      }
      if (Database.isAway(e) || e instanceof EntityNotFoundException && !answers()) {
        LOG.warn("work {}: the database is away", w.id());
        return new Outcome(WorkEntity.State.PAUSED, DATABASE_WAS_AWAY, true);
      }
      if (e instanceof StoppedException) {
        boolean cancel = r.wish() == Running.Wish.CANCEL;
        boolean asked = r.wish() != Running.Wish.GO_ON;
        return new Outcome(
            cancel ? WorkEntity.State.CANCELLED : WorkEntity.State.PAUSED,
            cancel ? "Cancelled." : asked ? "Paused; it goes on where it stands." : e.getMessage(),
            false);
      }
      boolean known = e instanceof ShedException;
      String sentence = known ? e.getMessage() : UNKNOWN;
      LOG.warn("work {} failed: {}", w.id(), sentence, known ? null : e);
      // A full disk or a medium that is gone: it goes on when that is mended.
      boolean goesOn = w.kind() != WorkEntity.Kind.BUILD;
      return new Outcome(
          goesOn ? WorkEntity.State.PAUSED : WorkEntity.State.FAILED, sentence, false);
    }
  }

  private boolean answers() {
    try {
      works.count();
      return true;
    } catch (RuntimeException e) {
      return false;
    }
  }

  private void settle(WorkEntity w, Outcome o) {
    finish(w.id(), o.state(), o.message());
    if (o.state() == WorkEntity.State.FAILED) bench(w).failed(w, o.message());
    if (o.state() != WorkEntity.State.CANCELLED) return;
    bench(w).cancelled(w);
    sweep(w);
  }

  /**
   * Does what needs the database, once it answers. In the moment in which it goes away it may
   * answer anything; a few other failures are tried again as well.
   */
  private void patiently(Runnable step) {
    for (int others = 0; ; ) {
      try {
        step.run();
        return;
      } catch (RuntimeException e) {
        boolean passes = Database.isAway(e) || Database.isBusy(e);
        if (stopping || !passes && ++others > MOST_OTHER_FAILURES) throw e;
        try {
          Thread.sleep(DATABASE_LOOK.toMillis());
        } catch (InterruptedException x) {
          Thread.currentThread().interrupt();
          throw e;
        }
      }
    }
  }

  private void told(long id) {
    WorkView v = view(id);
    events.tell("work", v);
    if (v.jobId() > 0) events.tell("job", Map.of("id", v.jobId()));
  }

  private void heard(long id, Running r, boolean keep) {
    if (keep) keep(id, r);
    events.tell("work", view(id));
  }

  private void keep(long id, Running r) {
    transaction.executeWithoutResult(
        t -> get(id).at(r.phase(), r.done(), r.total(), clock.instant()));
  }

  /** Keeps the sector from which a write goes on: all before it is safe on the card. */
  void place(long id, long sector) {
    transaction.executeWithoutResult(t -> get(id).place(sector));
  }

  /** The same, with what is known by then. */
  void place(long id, long sector, String wish) {
    transaction.executeWithoutResult(
        t -> {
          get(id).place(sector);
          get(id).wish(wish);
        });
  }

  private void finish(long id, WorkEntity.State state, String message) {
    transaction.executeWithoutResult(t -> get(id).set(state, message, clock.instant()));
  }

  /** What a piece of work had made that a person cancelled is nobody's. */
  private void sweep(WorkEntity w) {
    shelf.remove(shelf.half(w.id()));
    shelf.remove(shelf.halfMap(w.id()));
    shelf.remove(shelf.finished(w.id()));
  }
}
