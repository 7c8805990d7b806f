package lanternshed.server.logbook;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.util.List;
import lanternshed.server.jobs.JobService;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** The log of a job. */
@RestController
@RequestMapping("/api/jobs/{job}/log")
class LogController {
  private final LogService log;
  private final JobService jobs;

  LogController(LogService log, JobService jobs) {
    this.log = log;
    this.jobs = jobs;
  }

  record LineView(
      long id, int station, Instant at, String author, String text, String amount, String unit) {
    static LineView of(LogLine l) {
      String amount = l.amount().map(a -> a.stripTrailingZeros().toPlainString()).orElse("");
      return new LineView(l.id(), l.station(), l.at(), l.author(), l.text(), amount, l.unit());
    }
  }

  record NewLine(
      int station,
      @NotNull @Size(max = 60) String author,
      @NotBlank @Size(max = 2000) String text) {}

  @GetMapping
  List<LineView> all(@PathVariable long job) {
    return log.of(jobs.get(job).id()).stream().map(LineView::of).toList();
  }

  @PostMapping
  @ResponseStatus(HttpStatus.CREATED)
  LineView write(@PathVariable long job, @RequestBody @Valid NewLine n) {
    jobs.get(job);
    String author = n.author().isBlank() ? "somebody" : n.author().strip();
    return LineView.of(log.write(job, n.station(), author, n.text().strip()));
  }
}
