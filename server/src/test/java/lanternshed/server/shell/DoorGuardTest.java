package lanternshed.server.shell;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.eq;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import jakarta.servlet.FilterChain;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.PrintWriter;
import java.io.StringWriter;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class DoorGuardTest {
  private final HttpServletRequest request = mock(HttpServletRequest.class);
  private final HttpServletResponse response = mock(HttpServletResponse.class);
  private final FilterChain chain = mock(FilterChain.class);
  private final StringWriter said = new StringWriter();

  private void come(String host, String origin) throws Exception {
    when(request.getHeader("Host")).thenReturn(host);
    when(request.getHeader("Origin")).thenReturn(origin);
    when(request.getRequestURI()).thenReturn("/api/jobs");
    when(request.getMethod()).thenReturn("GET");
    when(request.getLocalPort()).thenReturn(8620);
    when(response.getWriter()).thenReturn(new PrintWriter(said, true));
    new DoorGuard().doFilterInternal(request, response, chain);
  }

  @ParameterizedTest
  @CsvSource({
    "127.0.0.1:8620,",
    "localhost,",
    "LOCALHOST:8620, HTTP://LocalHost:8620",
    "[::1]:8620,",
    "localhost:1, http://localhost:8620",
    "127.0.0.1, http://127.0.0.1:8620"
  })
  void whoComesToTheShedsOwnAddressIsLetIn(String host, String origin) throws Exception {
    come(host, origin);
    verify(chain).doFilter(request, response);
    verify(response).setHeader(eq("Content-Security-Policy"), any());
  }

  @ParameterizedTest
  @CsvSource({
    "shed.example,",
    "127.0.0.1.example.org,",
    "localhost.example,",
    "localhost, https://example.org",
    "localhost, null",
    "'',",
    "'bad host',",
    "127.0.0.1:8620, http://localhost.evil",
    "127.0.0.1:8620, http://localhost:5173",
    "127.0.0.1:8620, http://127.0.0.1"
  })
  void whoComesByAnotherNameIsNot(String host, String origin) throws Exception {
    come(host, origin);
    verify(chain, never()).doFilter(any(), any());
    verify(response).setStatus(403);
    assertThat(said.toString()).contains("own address only");
  }

  @ParameterizedTest
  @CsvSource({
    "cross-site, cors, /api/jobs, false",
    "same-site, no-cors, /api/jobs, false",
    "cross-site, navigate, /jobs, true",
    "cross-site, navigate, /api/jobs, false",
    "same-origin, cors, /api/jobs, true",
    "none, navigate, /, true"
  })
  void whatAForeignPageAsksForIsRefusedThoughItSendsNoOrigin(
      String site, String mode, String address, boolean letIn) throws Exception {
    when(request.getHeader("Sec-Fetch-Site")).thenReturn(site);
    when(request.getHeader("Sec-Fetch-Mode")).thenReturn(mode);
    when(request.getHeader("Host")).thenReturn("127.0.0.1:8620");
    when(request.getRequestURI()).thenReturn(address);
    when(request.getMethod()).thenReturn("GET");
    when(response.getWriter()).thenReturn(new PrintWriter(said, true));
    new DoorGuard().doFilterInternal(request, response, chain);
    verify(response, org.mockito.Mockito.times(letIn ? 0 : 1)).setStatus(403);
  }
}
