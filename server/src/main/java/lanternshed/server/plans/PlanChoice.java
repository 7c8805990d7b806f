package lanternshed.server.plans;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
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
    @NotNull @Size(max = MOST_VOLUMES) List<PlanRequest.Wish> volumes,
    boolean keepBootCode,
    @Size(max = 100) List<CarriedImage> carried,
    @Valid @Size(max = MOST_VOLUMES) List<BroughtDriver> drivers) {

  /** As many as the system with the most letters gives of one drive. */
  private static final int MOST_VOLUMES = 30;

  /**
   * An image of the shelf that a carrier card holds as a file.
   *
   * @param id of the drive at the emulator; −1 for the next that is free
   */
  public record CarriedImage(long imageId, int id) {}

  /**
   * A driver's file, which lies on the shelf.
   *
   * @param type the table's own code of the volumes that it serves
   */
  public record BroughtDriver(
      @NotNull @Size(max = 12) String type,
      @NotNull @Size(max = 83) String name,
      @NotNull @Pattern(regexp = "[0-9a-f]{64}") String sha256) {}

  /** Choices of an older version carried nothing and brought nothing. */
  public PlanChoice {
    carried = carried == null ? List.of() : carried;
    drivers = drivers == null ? List.of() : drivers;
  }

  /** The same with the old boot code, or with our own. */
  PlanChoice kept(boolean keep) {
    return new PlanChoice(
        firmware, system, cardId, drawer, strategy, school, volumes, keep, carried, drivers);
  }
}
