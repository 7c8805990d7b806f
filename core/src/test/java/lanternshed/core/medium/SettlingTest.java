package lanternshed.core.medium;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicBoolean;
import org.junit.jupiter.api.Test;

class SettlingTest {
  /** A medium whose flush is what a test says. */
  private static Medium flushing(Runnable flush) {
    return new Wrapper(new MemoryMedium(4)) {
      @Override
      public void flush() {
        flush.run();
      }
    };
  }

  @Test
  void theMediumIsReadMeanwhileAndClosingWaitsUntilItIsSafe() {
    CountDownLatch read = new CountDownLatch(1);
    AtomicBoolean safe = new AtomicBoolean();
    Medium m =
        flushing(
            () -> {
              try {
                read.await();
                Thread.sleep(50);
              } catch (InterruptedException e) {
                throw new IllegalStateException(e);
              }
              safe.set(true);
            });
    try (Settling settling = Settling.of(m)) {
      assertThat(m.sector(1)).containsOnly(0);
      assertThat(safe).isFalse();
      read.countDown();
    }
    assertThat(safe).isTrue();
  }

  @Test
  void whatCouldNotBeMadeSafeIsSaidAndHidesNoEarlierFailure() {
    Medium full =
        flushing(
            () -> {
              throw new MediumException("full.img could not be made safe on disk: no room.");
            });
    assertThatThrownBy(() -> Settling.of(full).close())
        .isInstanceOf(MediumException.class)
        .hasMessageContaining("no room");
    assertThatThrownBy(
            () -> {
              try (Settling settling = Settling.of(full)) {
                throw new IllegalStateException("the proof");
              }
            })
        .hasMessage("the proof")
        .satisfies(e -> assertThat(e.getSuppressed()[0]).hasMessageContaining("no room"));
  }
}
