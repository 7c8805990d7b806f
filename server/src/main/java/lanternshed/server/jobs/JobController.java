package lanternshed.server.jobs;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;
import java.util.Optional;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** The job list, a job, and what is written down at its stations. */
@RestController
@RequestMapping("/api/jobs")
class JobController {
  private final JobService jobs;

  JobController(JobService jobs) {
    this.jobs = jobs;
  }

  record NewJob(
      @NotBlank @Size(max = 120) String machine,
      @NotBlank String profile,
      @NotNull @Size(max = 400) String fault,
      long mediumId) {}

  record StationChange(long version, @NotNull @Valid StationRecord record, boolean done) {}

  record MediumChoice(long mediumId) {}

  @GetMapping
  List<JobView> all() {
    return jobs.all();
  }

  @PostMapping
  @ResponseStatus(HttpStatus.CREATED)
  JobView open(@RequestBody @Valid NewJob n) {
    Optional<Long> medium = n.mediumId() == 0 ? Optional.empty() : Optional.of(n.mediumId());
    return jobs.view(jobs.open(n.machine().strip(), n.profile(), n.fault().strip(), medium));
  }

  @GetMapping("/{id}")
  JobView one(@PathVariable long id) {
    return jobs.view(jobs.get(id));
  }

  @PutMapping("/{id}/stations/{number}")
  JobView record(
      @PathVariable long id,
      @PathVariable @Min(1) @Max(10) int number,
      @RequestBody @Valid StationChange c) {
    return jobs.view(jobs.record(id, number, c.version(), c.record(), c.done()));
  }

  @PutMapping("/{id}/medium")
  JobView medium(@PathVariable long id, @RequestBody MediumChoice c) {
    return jobs.view(jobs.setMedium(id, c.mediumId()));
  }
}
