package lanternshed.core.work;

import java.util.Optional;
import lanternshed.core.boot.Around;
import lanternshed.core.boot.BootPath;
import lanternshed.core.boot.Rehearsal;
import lanternshed.core.family.Families;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.plan.PlanRequest.Strategy;
import lanternshed.core.survey.Whereabouts;

/**
 * How an image would start, before it is built: what a start meets of it is laid down in memory and
 * run. A clone is the source itself.
 */
public final class Trial {
  private Trial() {}

  /**
   * @param source the image that the content comes from; empty where the recipe needs none
   * @param around the machine with its new card
   * @return empty where starts of this family are not run, or nothing of it is to start
   * @throws lanternshed.core.measure.ShedException where the recipe makes no sense
   */
  public static Optional<Rehearsal> of(
      Recipe recipe, Optional<Medium> source, Stock stock, Around around) {
    Optional<BootPath> boot = Families.named(recipe.family()).boot();
    boolean starts =
        recipe.strategy() == Strategy.CLONE
            || recipe.volumes().stream().anyMatch(p -> p.active() && !p.systemFile().isEmpty());
    if (boot.isEmpty() || !starts) return Optional.empty();
    if (recipe.strategy() == Strategy.CLONE && source.isPresent()) {
      return run(boot.get(), source.get(), around);
    }
    MemoryMedium target = new MemoryMedium(recipe.sectors());
    ImageBuilder.trial(recipe, source, stock, target);
    return run(boot.get(), target, around);
  }

  private static Optional<Rehearsal> run(BootPath boot, Medium m, Around around) {
    return boot.rehearse(m, around, Whereabouts.of(m)::at);
  }
}
