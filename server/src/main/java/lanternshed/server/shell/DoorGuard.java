package lanternshed.server.shell;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.net.URI;
import java.util.Set;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * Refuses a foreign Host or Origin, so that no page from elsewhere can reach the shed through a
 * browser on this computer, and sets the headers that keep the page to its own scripts.
 */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE)
public class DoorGuard extends OncePerRequestFilter {
  private static final Set<String> OWN = Set.of("localhost", "127.0.0.1", "[::1]");

  @Override
  protected void doFilterInternal(
      HttpServletRequest request, HttpServletResponse response, FilterChain chain)
      throws ServletException, IOException {
    String host = request.getHeader("Host");
    String origin = request.getHeader("Origin");
    if (!own("http://" + host) || origin != null && !own(origin)) {
      response.setStatus(HttpServletResponse.SC_FORBIDDEN);
      response.setContentType("application/problem+json");
      response
          .getWriter()
          .write(
              "{\"status\":403,\"title\":\"Refused\",\"detail\":\"The shed answers on this computer's own"
                  + " address only.\"}");
      return;
    }
    response.setHeader(
        "Content-Security-Policy",
        "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; frame-ancestors 'none'");
    response.setHeader("X-Content-Type-Options", "nosniff");
    response.setHeader("Referrer-Policy", "no-referrer");
    chain.doFilter(request, response);
  }

  private static boolean own(String address) {
    try {
      String host = URI.create(address).getHost();
      return host != null && OWN.contains(host);
    } catch (IllegalArgumentException e) {
      return false;
    }
  }
}
