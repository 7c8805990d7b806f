package lanternshed.server.plans;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;
import lanternshed.core.measure.ShedException;
import lanternshed.core.work.Recipe;
import lanternshed.core.work.RecipeText;
import lanternshed.server.jobs.JobEntity;
import lanternshed.server.jobs.JobService;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** The recipe of a settled plan as text: handed out, looked at, compared, and changed by hand. */
@RestController
class RecipeController {
  private final PlanService plans;
  private final JobService jobs;

  RecipeController(PlanService plans, JobService jobs) {
    this.plans = plans;
    this.jobs = jobs;
  }

  record RecipeDraft(long version, @NotNull @Size(max = RecipeText.MOST_BYTES) String text) {}

  /**
   * What is to be said of a draft.
   *
   * @param trouble why it cannot be built; "" where nothing stands against it
   * @param changes where it differs from the recipe that is settled
   */
  record RecipeLook(String trouble, List<RecipeText.RecipeChange> changes) {}

  @GetMapping(path = "/api/recipes/schema", produces = MediaType.APPLICATION_JSON_VALUE)
  ResponseEntity<String> schema() {
    return ResponseEntity.ok().contentType(MediaType.APPLICATION_JSON).body(RecipeText.schema());
  }

  @GetMapping("/api/jobs/{id}/recipe")
  ResponseEntity<String> recipe(@PathVariable long id) {
    return ResponseEntity.ok()
        .contentType(MediaType.APPLICATION_JSON)
        .header("Content-Disposition", "attachment; filename=\"recipe.json\"")
        .body(settled(jobs.get(id)));
  }

  @PostMapping("/api/jobs/{id}/recipe/look")
  RecipeLook look(@PathVariable long id, @RequestBody @Valid RecipeDraft draft) {
    JobEntity job = jobs.get(id);
    String now = settled(job);
    try {
      String then = plans.drafted(job, draft.text()).toJson();
      return new RecipeLook("", RecipeText.compare(now, then));
    } catch (ShedException e) {
      return new RecipeLook(e.getMessage(), List.of());
    }
  }

  @PutMapping("/api/jobs/{id}/recipe")
  RecipeLook change(@PathVariable long id, @RequestBody @Valid RecipeDraft draft) {
    String before = settled(jobs.get(id));
    List<RecipeText.RecipeChange> changes = plans.change(id, draft.version(), before, draft.text());
    return new RecipeLook("", changes);
  }

  private static String settled(JobEntity job) {
    if (job.recipe().isEmpty()) {
      throw new ShedException("Settle the plan first; the recipe follows from it.");
    }
    // Forms before this one are said anew.
    return Recipe.parse(job.recipe()).toJson();
  }
}
