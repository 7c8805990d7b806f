package lanternshed.server.errands;

import jakarta.annotation.PreDestroy;
import jakarta.persistence.EntityNotFoundException;
import java.io.IOException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.work.Progress;
import lanternshed.core.work.StoppedException;
import lanternshed.server.errands.ErrandView.State;
import lanternshed.server.shell.ConflictException;
import lanternshed.server.shell.Database;
import lanternshed.server.shell.Events;
import lanternshed.server.shell.Running;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Service;

/**
 * Runs errands in the background. Unlike the work of a job they leave nothing half done behind: one
 * that was cut off is begun anew, and what it found is kept for as long as the program runs.
 */
@Service
public class Errands {
  private static final Logger LOG = LoggerFactory.getLogger(Errands.class);
  private static final int THREADS = 2;
  private static final int MOST_KEPT = 60;

  /**
   * What is done.
   *
   * @param <T> what it finds; {@link Made} where it makes something
   */
  @FunctionalInterface
  public interface Errand<T> {
    T run(Progress progress) throws IOException;
  }

  /** An image or a medium that an errand made, by its number. */
  public record Made(long id) {}

  private final class One implements Callable<Void> {
    private final String id = UUID.randomUUID().toString();
    private final String key;
    private final Errand<?> errand;
    private final Running running = new Running((r, keep) -> {});
    private volatile State state = State.RUNNING;
    private volatile String sentence = "";
    private volatile Object found;

    One(String key, Errand<?> errand) {
      this.key = key;
      this.errand = errand;
    }

    @Override
    public Void call() {
      try {
        found = errand.run(running);
        state = State.DONE;
        // Whoever looks at the shelf sees it, though nobody may watch the errand any more.
        if (found instanceof Made) events.tell("errand", view());
      } catch (StoppedException e) {
        state = State.STOPPED;
      } catch (ShedException | ConflictException | EntityNotFoundException e) {
        fail(e.getMessage());
      } catch (IOException e) {
        LOG.warn("errand {} failed", key, e);
        fail("The shelf's disk does not answer as it should: " + e.getMessage() + ".");
      } catch (RuntimeException | Error e) {
        // Whoever watches must hear of its end, whatever ended it.
        LOG.error("errand {} failed", key, e);
        fail(
            Database.isAway(e)
                ? Database.AWAY
                : Database.isBusy(e)
                    ? Database.BUSY
                    : "The shed itself failed here; the originals are as they were.");
      }
      return null;
    }

    private void fail(String why) {
      sentence = why;
      state = State.FAILED;
    }

    ErrandView view() {
      Running r = running;
      long left = r.rate() > 0 ? (r.total() - r.done()) / r.rate() + 1 : 0;
      return new ErrandView(
          id,
          state,
          r.phase(),
          r.done(),
          r.total(),
          r.total() > 0 ? Say.mib(r.done()) + " of " + Say.mib(r.total()) : "",
          left > 0 && state == State.RUNNING ? Say.seconds(left) + " left" : "",
          sentence,
          found instanceof Made m ? m.id() : 0);
    }
  }

  private final Events events;
  private final ExecutorService threads = Executors.newFixedThreadPool(THREADS);
  private final Map<String, One> byId = new LinkedHashMap<>();

  Errands(Events events) {
    this.events = events;
  }

  /**
   * Begins an errand, or tells of the same one that runs already or has found its answer.
   *
   * @param key what it is about; the same key stands for the same answer
   */
  public synchronized ErrandView begin(String key, Errand<?> errand) {
    for (One one : byId.values()) {
      boolean stands = one.state == State.RUNNING || one.state == State.DONE;
      if (one.key.equals(key) && stands && !(one.found instanceof Made)) return one.view();
    }
    forgetOld();
    One fresh = new One(key, errand);
    byId.put(fresh.id, fresh);
    threads.submit(fresh);
    return fresh.view();
  }

  /** Begins an errand whose answer changes with time: what was found before is forgotten. */
  public synchronized <T> ErrandView beginAnew(String key, Errand<T> errand) {
    byId.values().removeIf(o -> o.key.equals(key) && o.state != State.RUNNING);
    return begin(key, errand);
  }

  private void forgetOld() {
    List<One> over =
        byId.values().stream()
            .filter(o -> o.state != State.RUNNING)
            .limit(Math.max(0, byId.size() - MOST_KEPT + 1))
            .toList();
    over.forEach(o -> byId.remove(o.id));
  }

  private synchronized One one(String id) {
    One one = byId.get(id);
    if (one == null) throw new EntityNotFoundException("There is no such errand any more.");
    return one;
  }

  ErrandView view(String id) {
    return one(id).view();
  }

  /** Stops it at its next step; what it has so far is dropped. */
  ErrandView stop(String id) {
    One one = one(id);
    one.running.ask(Running.Wish.CANCEL);
    return one.view();
  }

  /** What the errand of that key found; empty while it runs or where there was none. */
  public synchronized <T> Optional<T> found(String key, Class<T> kind) {
    return byId.values().stream()
        .filter(o -> o.key.equals(key))
        .map(o -> o.found)
        .filter(kind::isInstance)
        .map(kind::cast)
        .findFirst();
  }

  @PreDestroy
  synchronized void stopAll() {
    byId.values().forEach(o -> o.running.ask(Running.Wish.CANCEL));
    threads.shutdownNow();
  }
}
