package lanternshed.server.plans;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.util.List;
import lanternshed.core.plan.Plan;
import lanternshed.server.jobs.JobService;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Plan: the live answer while edges move, how it would start, and the settled plan. */
@RestController
@RequestMapping("/api/jobs/{id}")
class PlanController {
  private final PlanService plans;
  private final JobService jobs;

  PlanController(PlanService plans, JobService jobs) {
    this.plans = plans;
    this.jobs = jobs;
  }

  /**
   * @param allTheSame whether to go on although the survey stopped
   */
  record Settle(long version, @NotNull @Valid PlanChoice choice, boolean allTheSame) {}

  @GetMapping("/plan")
  PlanService.Answer plan(@PathVariable long id) {
    return plans.of(jobs.get(id));
  }

  @PostMapping("/plan/preview")
  Plan preview(@PathVariable long id, @RequestBody @Valid PlanChoice choice) {
    return plans.plan(jobs.get(id), choice);
  }

  /** How it would start, with the old boot code and with our own. */
  @PostMapping("/plan/starts")
  List<PlanService.StartView> starts(@PathVariable long id, @RequestBody @Valid PlanChoice choice) {
    return plans.starts(jobs.get(id), choice);
  }

  /** A driver's file for the table; the plan that chooses it is another step. */
  @PostMapping(value = "/plan/drivers", consumes = MediaType.APPLICATION_OCTET_STREAM_VALUE)
  DriverFiles.DriverView driver(
      @PathVariable long id,
      @RequestParam @NotBlank @Size(max = 255) String name,
      HttpServletRequest request)
      throws IOException {
    return plans.takeDriver(jobs.get(id), name, request.getInputStream());
  }

  @PutMapping("/plan")
  PlanService.Answer settle(@PathVariable long id, @RequestBody @Valid Settle s) {
    return plans.settle(id, s.version(), s.choice(), s.allTheSame());
  }
}
