package lanternshed.server.jobs;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;
import java.util.Optional;
import lanternshed.server.stations.Station;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** The job list, a job, and what is written down at its stations. */
@RestController
@RequestMapping("/api/jobs")
class JobController {
  private final JobService jobs;
  private final JobList list;

  JobController(JobService jobs, JobList list) {
    this.jobs = jobs;
    this.list = list;
  }

  record NewJob(
      @NotBlank @Size(max = 120) String machine,
      @NotBlank String profile,
      @NotNull @Size(max = 400) String fault,
      long mediumId,
      StartsFrom startsFrom,
      Long imageId) {
    /** Whoever says nothing starts from an old medium. */
    StartsFrom from() {
      return startsFrom == null ? StartsFrom.MEDIUM : startsFrom;
    }
  }

  record Beginning(long version, @NotNull StartsFrom startsFrom, long imageId) {}

  record AsItIs(long version, long imageId) {}

  record StationChange(long version, @NotNull @Valid StationRecord record, boolean done) {}

  record MediumChoice(long mediumId) {}

  record Facts(
      long version,
      @NotBlank @Size(max = 120) String machine,
      @NotBlank @Size(max = 80) String profile,
      @NotNull @Size(max = 400) String fault) {}

  @GetMapping
  JobList.JobPage all(
      @RequestParam(defaultValue = "") @Size(max = 200) String find,
      @RequestParam(defaultValue = "") @Size(max = 40) String waits,
      @RequestParam(defaultValue = "0") @Min(0) @Max(1_000_000) int from,
      @RequestParam(defaultValue = "50") @Min(1) @Max(100) int size) {
    return list.page(find, waits, from, size);
  }

  @PutMapping("/{id}")
  JobView correct(@PathVariable long id, @RequestBody @Valid Facts f) {
    return jobs.view(
        jobs.correct(id, f.version(), f.machine().strip(), f.fault().strip(), f.profile()));
  }

  @DeleteMapping("/{id}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void remove(@PathVariable long id) {
    jobs.remove(id, true);
  }

  @PostMapping("/{id}/back")
  JobView back(@PathVariable long id) {
    jobs.remove(id, false);
    return jobs.view(jobs.get(id));
  }

  @PostMapping
  @ResponseStatus(HttpStatus.CREATED)
  JobView open(@RequestBody @Valid NewJob n) {
    Optional<Long> medium = n.mediumId() == 0 ? Optional.empty() : Optional.of(n.mediumId());
    boolean plain = n.from() == StartsFrom.MEDIUM;
    long image = n.imageId() == null ? 0 : n.imageId();
    String machine = n.machine().strip();
    String fault = n.fault().strip();
    return jobs.view(
        plain
            ? jobs.open(machine, n.profile(), fault, medium)
            : jobs.open(machine, n.profile(), fault, n.from(), image));
  }

  /** What the job starts from where there is no old medium to image. */
  @PutMapping("/{id}/beginning")
  JobView beginning(@PathVariable long id, @RequestBody @Valid Beginning b) {
    return jobs.view(jobs.startFrom(id, b.version(), b.startsFrom(), b.imageId()));
  }

  /** An image of the shelf takes the place of one that would be built. */
  @PutMapping("/{id}/as-it-is")
  JobView asItIs(@PathVariable long id, @RequestBody @Valid AsItIs a) {
    return jobs.view(jobs.asItIs(id, a.version(), a.imageId()));
  }

  /** A job that works on an image, as it is now. */
  record JobFrom(long id, long version, String machine) {}

  /** The open jobs whose survey, plan and build are of this image. */
  @GetMapping("/from/{image}")
  List<JobFrom> from(@PathVariable long image) {
    return jobs.from(image).stream()
        .map(j -> new JobFrom(j.id(), j.version(), j.machine()))
        .toList();
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
    return jobs.view(
        jobs.record(id, Station.of(number).orElseThrow(), c.version(), c.record(), c.done()));
  }

  @PutMapping("/{id}/medium")
  JobView medium(@PathVariable long id, @RequestBody MediumChoice c) {
    return jobs.view(jobs.setMedium(id, c.mediumId()));
  }
}
