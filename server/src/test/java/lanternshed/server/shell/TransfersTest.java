package lanternshed.server.shell;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.doThrow;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.verify;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.springframework.mock.web.MockHttpServletRequest;
import org.springframework.web.context.request.RequestContextHolder;
import org.springframework.web.context.request.ServletRequestAttributes;

class TransfersTest {
  private final Transfers.Body body = mock(Transfers.Body.class);
  private final ByteArrayOutputStream out = new ByteArrayOutputStream();

  private static void asking(String method) {
    RequestContextHolder.setRequestAttributes(
        new ServletRequestAttributes(new MockHttpServletRequest(method, "/api/images/1/download")));
  }

  @AfterEach
  void nobodyAsks() {
    RequestContextHolder.resetRequestAttributes();
  }

  @Test
  void whoAsksForTheHeadAloneHasNothingPacked() throws IOException {
    asking("HEAD");
    Transfers.whole(body).writeTo(out);
    verify(body, never()).write(any());
    asking("GET");
    Transfers.whole(body).writeTo(out);
    verify(body).write(out);
  }

  @Test
  void whatCannotBeFinishedIsBrokenOff() throws IOException {
    asking("GET");
    doThrow(new IllegalStateException("damaged")).when(body).write(any());
    assertThatThrownBy(() -> Transfers.whole(body).writeTo(out))
        .isInstanceOf(Transfers.BrokenOff.class)
        .hasRootCauseMessage("damaged");
    assertThat(out.size()).isZero();
  }
}
