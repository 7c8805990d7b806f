package lanternshed.server.shell;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ReadListener;
import jakarta.servlet.ServletException;
import jakarta.servlet.ServletInputStream;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletRequestWrapper;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.concurrent.Semaphore;
import java.util.function.Consumer;
import lanternshed.core.volume.Sink;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.core.io.InputStreamResource;
import org.springframework.core.io.Resource;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpMethod;
import org.springframework.http.HttpRange;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Component;
import org.springframework.web.context.request.RequestContextHolder;
import org.springframework.web.context.request.ServletRequestAttributes;
import org.springframework.web.filter.OncePerRequestFilter;
import org.springframework.web.servlet.mvc.method.annotation.StreamingResponseBody;

/**
 * What comes and goes as a stream keeps nobody else waiting: so many uploads at once and no more,
 * none slower than a floppy for long, and an answer that cannot be finished is broken off instead
 * of being ended as if it were whole.
 */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE + 1)
public class Transfers extends OncePerRequestFilter {
  private static final int MOST_UPLOADS = 40;
  private static final long GRACE_NANOS = 30_000_000_000L;
  private static final long LEAST_PER_SECOND = 1024;
  private static final int TOO_MANY = 503;
  private final Semaphore uploads = new Semaphore(MOST_UPLOADS);

  /** The sender's or the receiver's end is gone, or what was to be sent is not what it was. */
  public static final class BrokenOff extends IOException {
    private static final long serialVersionUID = 1;

    BrokenOff(Throwable why) {
      super("broken off", why);
    }
  }

  /** What writes an answer. */
  public interface Body {
    void write(OutputStream out) throws IOException;
  }

  /** An answer that is kept as a file of that name. */
  public static ResponseEntity.BodyBuilder attachment(String name) {
    return ResponseEntity.ok()
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            ContentDisposition.attachment()
                .filename(name, StandardCharsets.UTF_8)
                .build()
                .toString())
        .contentType(MediaType.APPLICATION_OCTET_STREAM);
  }

  /** Writes what a reader gives to its sink, which knows nothing of streams. */
  public static void read(Consumer<Sink> reader, OutputStream out) throws IOException {
    try {
      reader.accept(
          (b, at, length) -> {
            try {
              out.write(b, at, length);
            } catch (IOException e) {
              throw new UncheckedIOException(e);
            }
          });
    } catch (UncheckedIOException e) {
      throw e.getCause();
    }
  }

  /**
   * A resource whole, or the part of it that is asked for (RFC 9110, 14). A range that is none, or
   * is of another state of it, is left aside; one behind its end is refused without a body.
   *
   * @param digest of all of it
   */
  public static ResponseEntity<Resource> parts(
      HttpHeaders asked, String digest, MediumResource all) {
    String tag = '"' + digest + '"';
    ResponseEntity.BodyBuilder answer =
        attachment(all.getFilename()).header(HttpHeaders.ACCEPT_RANGES, "bytes").eTag(tag);
    List<HttpRange> ranges;
    try {
      ranges = asked.getRange();
    } catch (IllegalArgumentException e) {
      return answer.contentLength(all.contentLength()).body(whole(all));
    }
    String state = asked.getFirst(HttpHeaders.IF_RANGE);
    if (!ranges.isEmpty() && state != null && !state.equals(tag)) {
      return answer.contentLength(all.contentLength()).body(whole(all));
    }
    boolean within =
        ranges.stream().anyMatch(r -> r.getRangeStart(all.contentLength()) < all.contentLength());
    if (!ranges.isEmpty() && !within) {
      return ResponseEntity.status(HttpStatus.REQUESTED_RANGE_NOT_SATISFIABLE)
          .header(HttpHeaders.CONTENT_RANGE, "bytes */" + all.contentLength())
          .build();
    }
    return answer.body(all);
  }

  /** As a stream, of which the framework makes no parts. */
  private static Resource whole(MediumResource all) {
    return new InputStreamResource(all::getInputStream);
  }

  /** An answer that is whole or broken off; who asks for its head alone has nothing made. */
  public static StreamingResponseBody whole(Body body) {
    if (asksForHead()) return out -> {};
    return out -> {
      try {
        body.write(out);
      } catch (RuntimeException | IOException e) {
        // Sent so that the answer is begun: from here on the error can only be a broken connection.
        out.flush();
        throw new BrokenOff(e);
      }
    };
  }

  private static boolean asksForHead() {
    return RequestContextHolder.getRequestAttributes() instanceof ServletRequestAttributes r
        && HttpMethod.HEAD.matches(r.getRequest().getMethod());
  }

  @Override
  protected void doFilterInternal(
      HttpServletRequest request, HttpServletResponse response, FilterChain chain)
      throws ServletException, IOException {
    if (!isUpload(request)) {
      chain.doFilter(request, response);
      return;
    }
    if (!uploads.tryAcquire()) {
      response.setStatus(TOO_MANY);
      response.setHeader("Retry-After", "5");
      response.setContentType("application/problem+json");
      response
          .getWriter()
          .write(
              "{\"status\":503,\"title\":\"Too much at once\",\"detail\":\"Too many files come in at the"
                  + " same time; this one is tried again in some seconds.\"}");
      return;
    }
    try {
      chain.doFilter(new Brisk(request), response);
    } finally {
      uploads.release();
    }
  }

  private static boolean isUpload(HttpServletRequest request) {
    String type = String.valueOf(request.getContentType());
    String method = request.getMethod();
    return (method.equals("POST") || method.equals("PATCH") || method.equals("PUT"))
        && !type.startsWith("application/json")
        && request.getContentLengthLong() != 0;
  }

  /** A request whose body must come faster than a trickle. */
  private static final class Brisk extends HttpServletRequestWrapper {
    private ServletInputStream in;

    Brisk(HttpServletRequest request) {
      super(request);
    }

    @Override
    public ServletInputStream getInputStream() throws IOException {
      if (in == null) in = new Measured(super.getInputStream());
      return in;
    }
  }

  private static final class Measured extends ServletInputStream {
    private final ServletInputStream in;
    private final long start = System.nanoTime();
    private long bytes;

    Measured(ServletInputStream in) {
      this.in = in;
    }

    private int counted(int n) throws IOException {
      if (n > 0) bytes += n;
      long nanos = System.nanoTime() - start;
      if (n > 0 && nanos > GRACE_NANOS && bytes / (nanos / 1e9) < LEAST_PER_SECOND) {
        throw new IOException("it came slower than 1 KiB a second");
      }
      return n;
    }

    @Override
    public int read() throws IOException {
      int b = in.read();
      counted(b < 0 ? 0 : 1);
      return b;
    }

    @Override
    public int read(byte[] b, int at, int length) throws IOException {
      return counted(in.read(b, at, length));
    }

    @Override
    public boolean isFinished() {
      return in.isFinished();
    }

    @Override
    public boolean isReady() {
      return in.isReady();
    }

    @Override
    public void setReadListener(ReadListener listener) {
      in.setReadListener(listener);
    }
  }
}
