package lanternshed.server.shell;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.net.URI;
import java.util.Locale;
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
  private static final Set<String> FOREIGN_SITES = Set.of("cross-site", "same-site");
  private static final Set<String> OWN = Set.of("localhost", "127.0.0.1", "[::1]");

  @Override
  protected void doFilterInternal(
      HttpServletRequest request, HttpServletResponse response, FilterChain chain)
      throws ServletException, IOException {
    String host = request.getHeader("Host");
    String origin = request.getHeader("Origin");
    // Another program's page on this computer is as foreign as one from elsewhere: the port counts.
    boolean stranger =
        !own("http://" + host, -1)
            || origin != null && !own(origin, request.getLocalPort())
            || FOREIGN_SITES.contains(String.valueOf(request.getHeader("Sec-Fetch-Site")))
                && !navigates(request);
    if (stranger) {
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
        "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; object-src 'none';"
            + " base-uri 'none'; form-action 'self'; frame-ancestors 'none'");
    response.setHeader("X-Content-Type-Options", "nosniff");
    response.setHeader("Referrer-Policy", "no-referrer");
    if (request.getRequestURI().startsWith("/api")) {
      // Somebody's records are kept by no cache; pictures say otherwise themselves.
      response.setHeader("Cache-Control", "no-store");
    }
    if (request.getRequestURI().equals("/error")) {
      response.setStatus(HttpServletResponse.SC_NOT_FOUND);
      return;
    }
    if (holdsNul(request)) {
      response.setStatus(HttpServletResponse.SC_BAD_REQUEST);
      response.setContentType("application/problem+json");
      response
          .getWriter()
          .write(
              "{\"status\":400,\"title\":\"Not understood\",\"detail\":\"The address holds a"
                  + " character that no name has.\"}");
      return;
    }
    chain.doFilter(request, response);
  }

  private static boolean holdsNul(HttpServletRequest request) {
    String query = request.getQueryString();
    return (request.getRequestURI() + (query == null ? "" : query)).contains("%00");
  }

  /** Following a link from another page to a screen of the shed is no reach into it. */
  private static boolean navigates(HttpServletRequest request) {
    return request.getMethod().equals("GET")
        && "navigate".equals(request.getHeader("Sec-Fetch-Mode"))
        && !request.getRequestURI().startsWith("/api");
  }

  /**
   * @param port that the address must have; −1 for any
   */
  private static boolean own(String address, int port) {
    try {
      URI uri = URI.create(address);
      return uri.getHost() != null
          && OWN.contains(uri.getHost().toLowerCase(Locale.ROOT))
          && (port < 0 || uri.getPort() == port);
    } catch (IllegalArgumentException e) {
      return false;
    }
  }
}
