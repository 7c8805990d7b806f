package lanternshed.server.proving;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;
import lanternshed.core.prove.Shown;
import lanternshed.core.prove.Timing;
import lanternshed.server.jobs.JobService;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** What a job's machine should show, what it did show, and how fast it was and is. */
@RestController
@RequestMapping("/api/jobs/{job}")
class ProvingController {
  private final PredictionService predictions;
  private final TimingService timings;
  private final JobService jobs;
  private final FailedProof failed;

  ProvingController(
      PredictionService predictions, TimingService timings, JobService jobs, FailedProof failed) {
    this.failed = failed;
    this.predictions = predictions;
    this.timings = timings;
    this.jobs = jobs;
  }

  record NewTiming(
      @NotNull Timing.Kind kind,
      boolean after,
      @NotBlank @Size(max = 60) String text,
      @NotNull @Size(max = 80) String system,
      @NotNull @Size(max = 80) String tool) {
    Timing timing() {
      return new Timing(kind, after, text.strip(), system.strip(), tool.strip());
    }
  }

  @GetMapping("/prediction")
  PredictionService.Prediction prediction(@PathVariable long job) {
    return predictions.of(job);
  }

  /** Each figure that is foretold, with what was read off the machine beside it (V-5). */
  @GetMapping("/shown")
  List<Shown.ShownRow> shown(@PathVariable long job) {
    return jobs.shown(job);
  }

  /** A proof that failed goes to the fault board, and the job with it. */
  @PostMapping("/failed-proof")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void failedProof(@PathVariable long job) {
    failed.toBoard(job);
  }

  @GetMapping("/timings")
  TimingService.SpeedsView timings(@PathVariable long job) {
    return timings.view(job);
  }

  @PostMapping("/timings")
  TimingService.SpeedsView add(@PathVariable long job, @RequestBody @Valid NewTiming t) {
    timings.add(job, t.timing());
    return timings.view(job);
  }

  @DeleteMapping("/timings/{id}")
  TimingService.SpeedsView remove(
      @PathVariable long job, @PathVariable long id, @RequestParam boolean undo) {
    timings.remove(job, id, !undo);
    return timings.view(job);
  }
}
