package lanternshed.server.shell;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.eq;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.times;
import static org.mockito.Mockito.verify;

import java.util.function.BiConsumer;
import lanternshed.core.work.StoppedException;
import org.junit.jupiter.api.Test;

class RunningTest {
  @SuppressWarnings("unchecked")
  private final BiConsumer<Running, Boolean> listener = mock(BiConsumer.class);

  private final Running running = new Running(listener);

  @Test
  void aThousandStepsAreToldOnceAndANewPhaseIsKept() {
    for (int i = 0; i < 1000; i++) running.at("writing", i, 1000);
    verify(listener, times(1)).accept(any(), eq(true));
    running.at("reading back", 0, 1000);
    verify(listener, times(2)).accept(any(), eq(true));
    assertThat(running.phase()).isEqualTo("reading back");
    assertThat(running.total()).isEqualTo(1000);
  }

  @Test
  void theRateIsOfThisPhaseFromWhereItBegan() throws Exception {
    running.at("writing", 1_000_000, 10_000_000);
    Thread.sleep(150);
    running.at("writing", 1_300_000, 10_000_000);
    assertThat(running.rate()).isBetween(100_000L, 2_100_000L);
  }

  @Test
  void whatWasAskedStopsItAtItsNextStep() {
    running.at("writing", 1, 10);
    running.ask(Running.Wish.PAUSE);
    assertThatThrownBy(() -> running.at("writing", 2, 10)).isInstanceOf(StoppedException.class);
    assertThat(running.wish()).isEqualTo(Running.Wish.PAUSE);
  }
}
