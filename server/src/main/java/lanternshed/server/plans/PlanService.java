package lanternshed.server.plans;

import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import lanternshed.core.machine.Setup;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.plan.Plan;
import lanternshed.core.plan.PlanRequest;
import lanternshed.core.plan.Planner;
import lanternshed.core.survey.Survey;
import lanternshed.core.work.Recipe;
import lanternshed.server.images.ImageEntity;
import lanternshed.server.images.ImageService;
import lanternshed.server.jobs.JobEntity;
import lanternshed.server.jobs.JobService;
import lanternshed.server.jobs.Stations;
import lanternshed.server.machines.MachineService;
import lanternshed.server.media.MediaService;
import lanternshed.server.media.MediumEntity;
import lanternshed.server.shell.Json;
import org.springframework.stereotype.Service;

/** Plans by the core's planner, and keeps the one that was settled. */
@Service
public class PlanService {
  private static final Survey NOTHING =
      new Survey(0, Optional.empty(), List.of(), List.of(), List.of());
  private final JobService jobs;
  private final MediaService media;
  private final ImageService images;
  private final MachineService machines;

  PlanService(JobService jobs, MediaService media, ImageService images, MachineService machines) {
    this.machines = machines;
    this.jobs = jobs;
    this.media = media;
    this.images = images;
  }

  /** A choice with the plan that follows from it. */
  public record Answer(PlanChoice choice, Plan plan, boolean settled) {}

  /** The settled plan of a job, or a proposal. */
  public Answer of(JobEntity job) {
    boolean settled = !job.planChoice().isEmpty();
    PlanChoice choice = settled ? Json.read(job.planChoice(), PlanChoice.class) : proposal(job);
    return new Answer(choice, plan(job, choice), settled);
  }

  /** The smallest measured card that holds what the old medium held; more would be waste. */
  private PlanChoice proposal(JobEntity job) {
    // Whether anything is planned for this machine comes before the question for a card.
    Setup.of(machines.get(job.profile()), "", "");
    long old = job.mediumId().map(id -> media.get(id).sectors()).orElse(0L);
    MediumEntity card =
        media.all().stream()
            .filter(m -> m.kind() == MediumEntity.Kind.CARD)
            .min(
                Comparator.comparing((MediumEntity m) -> !m.measured() || m.sectors() < old)
                    .thenComparing(MediumEntity::sectors))
            .orElseThrow(
                () -> new ShedException("There is no card to plan for yet; add one under Media."));
    // The old boot code worked: it is kept where it can be (B-9).
    PlanChoice kept = proposal(card, true);
    return plan(job, kept).buildable() ? kept : proposal(card, false);
  }

  private static PlanChoice proposal(MediumEntity card, boolean keepBootCode) {
    return new PlanChoice(
        "",
        "",
        card.id(),
        List.of(),
        PlanRequest.Strategy.REBUILD,
        PlanRequest.School.MACHINE,
        List.of(),
        keepBootCode);
  }

  public Plan plan(JobEntity job, PlanChoice c) {
    PlanRequest request =
        new PlanRequest(
            job.profile(),
            c.firmware(),
            c.system(),
            media.get(c.cardId()).card(),
            c.drawer().stream().map(id -> media.get(id).card()).toList(),
            c.strategy(),
            c.school(),
            c.volumes(),
            c.keepBootCode());
    return Planner.plan(machines.get(job.profile()), request, survey(job));
  }

  private Survey survey(JobEntity job) {
    return job.rescuedId().map(id -> images.survey(images.get(id))).orElse(NOTHING);
  }

  /**
   * Settles a plan; its recipe follows from it.
   *
   * @param version of the job that the person saw; two who settle at once do not both
   * @param allTheSame whether to go on although the survey stopped
   */
  public Answer settle(long jobId, long version, PlanChoice choice, boolean allTheSame) {
    JobEntity job = jobs.get(jobId);
    Plan plan = plan(job, choice);
    if (!plan.buildable()) {
      String why =
          plan.verdicts().stream()
              .filter(v -> v.weight() == Plan.Weight.STOPS)
              .findFirst()
              .map(Plan.Verdict::text)
              .orElse("");
      throw new ShedException("This plan cannot be built. " + why);
    }
    ImageEntity source = images.get(job.rescuedId().orElse(null));
    Survey survey = survey(job);
    if (survey.stop().isPresent() && !allTheSame) {
      throw new ShedException(
          "The survey stopped: "
              + survey.stop().get().what()
              + " Say that you go on all the same, or look at the image first.");
    }
    Recipe recipe = Recipe.of(plan, survey, source.sha256());
    jobs.settle(
        jobId,
        version,
        j -> {
          j.setPlan(Json.write(choice), recipe.toJson());
          j.redoAfter(Stations.PLAN);
        },
        Stations.PLAN,
        plan.strategy().title()
            + ": "
            + Say.mib(plan.reach() * 512)
            + " reachable, "
            + Say.plural(plan.volumes().size(), "volume", "volumes")
            + " laid out.");
    return of(jobs.get(jobId));
  }
}
