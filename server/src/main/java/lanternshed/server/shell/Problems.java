package lanternshed.server.shell;

import jakarta.persistence.EntityNotFoundException;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import lanternshed.core.measure.ShedException;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.core.task.TaskRejectedException;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.http.HttpStatus;
import org.springframework.http.ProblemDetail;
import org.springframework.http.converter.HttpMessageNotReadableException;
import org.springframework.orm.ObjectOptimisticLockingFailureException;
import org.springframework.validation.FieldError;
import org.springframework.web.bind.MethodArgumentNotValidException;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import org.springframework.web.method.annotation.HandlerMethodValidationException;
import org.springframework.web.method.annotation.MethodArgumentTypeMismatchException;
import org.springframework.web.servlet.resource.NoResourceFoundException;
import tools.jackson.core.JacksonException;

/** Every error as problem details with one sentence that a person can use. */
@RestControllerAdvice
public class Problems {
  private static final Logger LOG = LoggerFactory.getLogger(Problems.class);

  @ExceptionHandler
  ProblemDetail cannot(ShedException e, HttpServletResponse response) {
    if (response.isCommitted()) throw e;
    return say(HttpStatus.UNPROCESSABLE_CONTENT, "Cannot be done", e.getMessage());
  }

  @ExceptionHandler
  ProblemDetail full(TaskRejectedException e) {
    return say(
        HttpStatus.SERVICE_UNAVAILABLE,
        "Too much at once",
        "Too many downloads run at the same time; wait until one has ended and try again.");
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

  @ExceptionHandler
  ProblemDetail unreadable(HttpMessageNotReadableException e) {
    // A value that refuses itself says why better than its form does.
    if (e.getMostSpecificCause() instanceof ShedException refused) {
      return say(HttpStatus.UNPROCESSABLE_CONTENT, "Cannot be done", refused.getMessage());
    }
    String where = "";
    if (e.getCause() instanceof JacksonException j) {
      StringBuilder path = new StringBuilder();
      for (JacksonException.Reference r : j.getPath()) {
        if (r.getIndex() >= 0) path.append('[').append(r.getIndex()).append(']');
        else if (r.getPropertyName() != null) {
          path.append(path.isEmpty() ? "" : ".").append(r.getPropertyName());
        }
      }
      if (!path.isEmpty()) where = " at \"" + path + "\"";
    }
    return malformed("What was sent is not of the form that this address takes" + where + ".");
  }

  @ExceptionHandler
  ProblemDetail invalid(MethodArgumentNotValidException e) {
    FieldError f = e.getBindingResult().getFieldError();
    return malformed(
        f == null
            ? "What was sent is not of the form that this address takes."
            : "\""
                + f.getField()
                + "\" "
                // What cannot be read is told without the names of what should have read it.
                + (f.isBindingFailure() ? "has a value that cannot be read" : f.getDefaultMessage())
                + ".");
  }

  @ExceptionHandler
  ProblemDetail invalid(HandlerMethodValidationException e) {
    return malformed(
        e.getParameterValidationResults().stream()
            .findFirst()
            .map(
                r ->
                    "\""
                        + r.getMethodParameter().getParameterName()
                        + "\" "
                        + r.getResolvableErrors().get(0).getDefaultMessage()
                        + ".")
            .orElse("What was sent is not of the form that this address takes."));
  }

  @ExceptionHandler
  ProblemDetail mistyped(MethodArgumentTypeMismatchException e) {
    return malformed("\"" + e.getName() + "\" is not of the form that this address takes.");
  }

  @ExceptionHandler
  ProblemDetail malformed(IllegalArgumentException e) {
    LOG.info("not understood", e);
    return malformed("What was sent is not of the form that this address takes.");
  }

  private static ProblemDetail malformed(String sentence) {
    return say(HttpStatus.BAD_REQUEST, "Not understood", sentence);
  }

  @ExceptionHandler
  ProblemDetail gone(IOException e, HttpServletResponse response) throws IOException {
    if (response.isCommitted()) throw e;
    if (Shelf.isFull(e)) return say(HttpStatus.INSUFFICIENT_STORAGE, "No room", Shelf.FULL);
    return say(
        HttpStatus.BAD_REQUEST,
        "Cut off",
        "The transfer stopped half way; nothing of it was kept. Send it again.");
  }

  /** Of an answer that is half sent nothing can be said any more: the connection is broken off. */
  @ExceptionHandler
  ProblemDetail unexpected(Exception e, HttpServletResponse response) throws Exception {
    if (response.isCommitted()) throw e;
    if (Shelf.isFull(e)) return say(HttpStatus.INSUFFICIENT_STORAGE, "No room", Shelf.FULL);
    if (Database.isBusy(e)) {
      response.setHeader("Retry-After", "2");
      return say(HttpStatus.SERVICE_UNAVAILABLE, "Busy", Database.BUSY);
    }
    if (Database.isAway(e)) {
      return say(HttpStatus.SERVICE_UNAVAILABLE, "Database away", Database.AWAY);
    }
    if (e instanceof org.springframework.web.ErrorResponse r) {
      ProblemDetail p = r.getBody();
      p.setDetail(
          r.getStatusCode().value() == 405
              ? "This address does not take that method."
              : r.getStatusCode().value() == 415
                  ? "This address does not take that kind of content."
                  : p.getDetail());
      return p;
    }
    LOG.error("unexpected", e);
    return say(
        HttpStatus.INTERNAL_SERVER_ERROR,
        "A fault of the shed",
        "The shed itself failed here; nothing was changed. The cause stands in its log.");
  }

  private static ProblemDetail say(HttpStatus status, String title, String sentence) {
    ProblemDetail p = ProblemDetail.forStatusAndDetail(status, sentence);
    p.setTitle(title);
    return p;
  }
}
