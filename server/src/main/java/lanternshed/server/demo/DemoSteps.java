package lanternshed.server.demo;

import java.util.Optional;
import java.util.function.LongSupplier;
import lanternshed.server.work.WorkEntity;
import lanternshed.server.work.WorkService;
import org.springframework.stereotype.Component;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Does each step of the demonstration once: a step and the word that it was done are written
 * together, so that a start which is cut off anywhere is gone on with and nothing is there twice.
 */
@Component
class DemoSteps {
  private static final long LOOK_AGAIN_MS = 200;

  private final DemoStepRepository done;
  private final WorkService work;
  private final TransactionTemplate together;

  DemoSteps(DemoStepRepository done, WorkService work, PlatformTransactionManager transactions) {
    this.done = done;
    this.work = work;
    this.together = new TransactionTemplate(transactions);
  }

  /** Whether nothing of it was done by steps yet. */
  boolean none() {
    return done.count() == 0;
  }

  boolean isDone(String name) {
    return done.existsById(name);
  }

  /**
   * Does a step, unless it was done.
   *
   * @param step gives the number of what it makes
   * @return the number of what was made, now or then
   */
  long once(String name, LongSupplier step) {
    Optional<DemoStepEntity> before = done.findById(name);
    if (before.isPresent()) return before.get().made();
    return together.execute(
        s -> {
          long made = step.getAsLong();
          done.save(new DemoStepEntity(name, made));
          return made;
        });
  }

  void once(String name, Runnable step) {
    once(
        name,
        () -> {
          step.run();
          return 0;
        });
  }

  /** Long work of a job. What a start that was cut off had in hand is gone on with first. */
  void work(String name, long job, WorkEntity.Kind kind, long medium) {
    if (isDone(name)) return;
    work.goOn(job);
    // Whoever pauses it meanwhile says when it goes on.
    while (work.inHand(job)) {
      try {
        Thread.sleep(LOOK_AGAIN_MS);
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
        throw new IllegalStateException(e);
      }
    }
    if (!work.wasDone(job, kind)) work.now(job, kind, medium);
    once(name, () -> {});
  }
}
