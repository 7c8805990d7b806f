package lanternshed.server.shell;

import jakarta.persistence.EntityNotFoundException;
import java.io.IOException;
import lanternshed.core.measure.ShedException;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.http.HttpStatus;
import org.springframework.http.ProblemDetail;
import org.springframework.http.converter.HttpMessageNotReadableException;
import org.springframework.orm.ObjectOptimisticLockingFailureException;
import org.springframework.web.bind.MethodArgumentNotValidException;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import org.springframework.web.method.annotation.MethodArgumentTypeMismatchException;
import org.springframework.web.servlet.resource.NoResourceFoundException;

/** Every error as problem details with one sentence that a person can use. */
@RestControllerAdvice
public class Problems {
  private static final Logger LOG = LoggerFactory.getLogger(Problems.class);

  @ExceptionHandler
  ProblemDetail cannot(ShedException e) {
    return say(HttpStatus.UNPROCESSABLE_CONTENT, "Cannot be done", e.getMessage());
  }

  @ExceptionHandler
  ProblemDetail busy(ConflictException e) {
    return say(HttpStatus.CONFLICT, "Meanwhile changed", e.getMessage());
  }

  @ExceptionHandler({
    ObjectOptimisticLockingFailureException.class,
    DataIntegrityViolationException.class
  })
  ProblemDetail changed(RuntimeException e) {
    return say(
        HttpStatus.CONFLICT,
        "Meanwhile changed",
        "Somebody else changed this job or started work on it at the same moment. What you typed is kept;"
            + " look at the job again and repeat what is still needed.");
  }

  @ExceptionHandler({EntityNotFoundException.class, NoResourceFoundException.class})
  ProblemDetail missing(Exception e) {
    String text = e instanceof EntityNotFoundException ? e.getMessage() : "There is nothing here.";
    return say(HttpStatus.NOT_FOUND, "Not there", text);
  }

  @ExceptionHandler({
    HttpMessageNotReadableException.class,
    MethodArgumentNotValidException.class,
    MethodArgumentTypeMismatchException.class,
    IllegalArgumentException.class
  })
  ProblemDetail malformed(Exception e) {
    return say(
        HttpStatus.BAD_REQUEST,
        "Not understood",
        "The request does not have the form of the API: " + firstLine(e.getMessage()));
  }

  @ExceptionHandler
  ProblemDetail gone(IOException e) {
    return say(
        HttpStatus.BAD_REQUEST,
        "Cut off",
        "The transfer stopped half way; nothing of it was kept. Send it again.");
  }

  @ExceptionHandler
  ProblemDetail unexpected(Exception e) {
    if (e instanceof org.springframework.web.ErrorResponse r) return r.getBody();
    LOG.error("unexpected", e);
    return say(
        HttpStatus.INTERNAL_SERVER_ERROR,
        "A fault of the shed",
        "The shed itself failed here; nothing was changed. The cause stands in its log.");
  }

  private static String firstLine(String s) {
    return s == null ? "it does not read." : s.lines().findFirst().orElse("");
  }

  private static ProblemDetail say(HttpStatus status, String title, String sentence) {
    ProblemDetail p = ProblemDetail.forStatusAndDetail(status, sentence);
    p.setTitle(title);
    return p;
  }
}
