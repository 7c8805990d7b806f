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
    boolean keepBootCode) {}
