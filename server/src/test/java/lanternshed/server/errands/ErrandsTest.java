package lanternshed.server.errands;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.eq;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.timeout;
import static org.mockito.Mockito.verify;

import jakarta.persistence.EntityNotFoundException;
import java.io.IOException;
import java.sql.SQLException;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicInteger;
import lanternshed.core.measure.ShedException;
import lanternshed.server.TestShed;
import lanternshed.server.errands.ErrandView.State;
import lanternshed.server.shell.Database;
import lanternshed.server.shell.Events;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.springframework.jdbc.CannotGetJdbcConnectionException;

class ErrandsTest {
  private final Events events = mock(Events.class);
  private final Errands errands = new Errands(events);

  @AfterEach
  void end() {
    errands.stopAll();
  }

  private ErrandView ended(ErrandView begun) {
    TestShed.await(() -> errands.view(begun.id()).state() != State.RUNNING);
    return errands.view(begun.id());
  }

  @Test
  void theSameErrandRunsOnceAndItsAnswerIsKept() {
    CountDownLatch go = new CountDownLatch(1);
    AtomicInteger runs = new AtomicInteger();
    Errands.Errand<String> errand =
        progress -> {
          runs.incrementAndGet();
          progress.at("looking", 1 << 20, 4 << 20);
          await(go);
          return "found";
        };
    ErrandView first = errands.begin("key", errand);
    TestShed.await(() -> errands.view(first.id()).total() > 0);
    assertThat(errands.view(first.id()).doneText()).isEqualTo("1.0 MiB of 4.0 MiB");
    assertThat(errands.begin("key", errand).id()).isEqualTo(first.id());
    assertThat(errands.found("key", String.class)).isEmpty();
    go.countDown();
    assertThat(ended(first).state()).isEqualTo(State.DONE);
    assertThat(errands.begin("key", errand).id()).as("the answer stands").isEqualTo(first.id());
    assertThat(errands.found("key", String.class)).contains("found");
    assertThat(runs).hasValue(1);
  }

  @Test
  void aDatabaseThatIsAwayIsNoFaultOfTheErrand() {
    var cut = new CannotGetJdbcConnectionException("no", new SQLException("closed", "08006"));
    ErrandView e =
        ended(
            errands.begin(
                "archive",
                progress -> {
                  throw cut;
                }));
    assertThat(e.state()).isEqualTo(State.FAILED);
    assertThat(e.sentence()).isEqualTo(Database.AWAY);
  }

  @Test
  void whatMakesSomethingIsDoneAgainWhenAskedAgain() {
    AtomicInteger made = new AtomicInteger(40);
    Errands.Errand<Errands.Made> errand = p -> new Errands.Made(made.incrementAndGet());
    assertThat(ended(errands.begin("make", errand)).made()).isEqualTo(41);
    assertThat(ended(errands.begin("make", errand)).made()).isEqualTo(42);
    verify(events, timeout(5000).times(2)).tell(eq("errand"), any());
  }

  @Test
  void oneThatIsStoppedEndsAtItsNextStepAndMayBeBegunAgain() {
    Errands.Errand<String> endless =
        progress -> {
          for (long i = 0; ; i++) {
            progress.at("reading", i, Long.MAX_VALUE);
            Thread.onSpinWait();
          }
        };
    ErrandView one = errands.begin("endless", endless);
    TestShed.await(() -> errands.view(one.id()).done() > 0);
    errands.stop(one.id());
    assertThat(ended(one).state()).isEqualTo(State.STOPPED);
    assertThat(ended(errands.begin("endless", p -> "short")).state()).isEqualTo(State.DONE);
  }

  @Test
  void oneThatFailsSaysWhyInASentence() {
    ErrandView asked =
        errands.begin(
            "a",
            p -> {
              throw new ShedException("The volume is not there.");
            });
    assertThat(ended(asked).sentence()).isEqualTo("The volume is not there.");
    ErrandView disk =
        errands.begin(
            "b",
            p -> {
              throw new IOException("input/output error");
            });
    assertThat(ended(disk).sentence()).contains("disk").contains("input/output error");
    ErrandView own =
        errands.begin(
            "c",
            p -> {
              throw new IllegalStateException("secret");
            });
    assertThat(ended(own).sentence()).contains("shed itself").doesNotContain("secret");
  }

  @Test
  void oneThatBreaksDownIsNotWatchedForEver() {
    ErrandView deep =
        errands.begin(
            "d",
            p -> {
              throw new StackOverflowError();
            });
    assertThat(ended(deep).state()).isEqualTo(State.FAILED);
    assertThat(ended(errands.begin("d", p -> "again")).state()).isEqualTo(State.DONE);
  }

  @Test
  void onlySoManyAreKept() {
    ErrandView first = ended(errands.begin("first", p -> "x"));
    for (int i = 0; i < 70; i++) ended(errands.begin("more " + i, p -> "y"));
    assertThatThrownBy(() -> errands.view(first.id())).isInstanceOf(EntityNotFoundException.class);
    assertThat(errands.found("more 69", String.class)).contains("y");
  }

  private static void await(CountDownLatch latch) {
    try {
      latch.await();
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }
}
