package lanternshed.server.plans;

import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;
import lanternshed.core.plan.PlanRequest;

/** What the user has chosen at Plan; media by id. */
public record PlanChoice(
    @NotNull String firmware,
    @NotNull String system,
    long cardId,
    @NotNull @Size(max = 50) List<Long> drawer,
    @NotNull PlanRequest.Strategy strategy,
    @NotNull PlanRequest.School school,
    @NotNull @Size(max = 24) List<PlanRequest.Wish> volumes,
    boolean keepBootCode,
    @Size(max = 100) List<CarriedImage> carried) {

  /**
   * An image of the shelf that a carrier card holds as a file.
   *
   * @param id of the drive at the emulator; −1 for the next that is free
   */
  public record CarriedImage(long imageId, int id) {}

  /** Choices of an older version carried nothing. */
  public PlanChoice {
    carried = carried == null ? List.of() : carried;
  }

  /** The same with the old boot code, or with our own. */
  PlanChoice kept(boolean keep) {
    return new PlanChoice(
        firmware, system, cardId, drawer, strategy, school, volumes, keep, carried);
  }
}
