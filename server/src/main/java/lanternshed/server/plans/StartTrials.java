package lanternshed.server.plans;

import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import lanternshed.core.boot.Around;
import lanternshed.core.boot.Rehearsal;
import lanternshed.core.machine.Setup;
import lanternshed.core.medium.Medium;
import lanternshed.core.plan.Plan;
import lanternshed.core.survey.Survey;
import lanternshed.core.work.Recipe;
import lanternshed.core.work.Stock;
import lanternshed.core.work.Trial;
import lanternshed.server.images.ImageEntity;
import lanternshed.server.images.ImageService;
import org.springframework.stereotype.Component;

/** Tries how the image of a plan would start, before it is built; what was tried is remembered. */
@Component
class StartTrials {
  private static final int REMEMBERED = 32;
  private final ImageService images;

  /** By recipe and machine: the same bytes start in the same way. */
  private final Map<String, Optional<Rehearsal>> tried =
      Collections.synchronizedMap(
          new LinkedHashMap<>(16, 0.75f, true) {
            @Override
            protected boolean removeEldestEntry(Map.Entry<String, Optional<Rehearsal>> e) {
              return size() > REMEMBERED;
            }
          });

  StartTrials(ImageService images) {
    this.images = images;
  }

  /** What the start of a plan's image meets on its machine. */
  static Around around(Plan plan, Setup setup) {
    boolean calls = setup.firmware().extendedCalls();
    return new Around(plan.geometry(), plan.reach(), calls, setup.level());
  }

  /**
   * @param plan one that can be built
   * @return empty where starts of this family are not run, or nothing of it is to start
   */
  Optional<Rehearsal> of(Plan plan, Setup setup, Survey survey, ImageEntity source) {
    Recipe recipe = Recipe.of(plan, survey, source.sha256(), List.of());
    Around around = around(plan, setup);
    String key = recipe.toJson() + around;
    Optional<Rehearsal> known = tried.get(key);
    if (known != null) return known;
    try (Medium m = images.open(source)) {
      Optional<Rehearsal> run = Trial.of(recipe, Optional.of(m), Stock.EMPTY, around);
      tried.put(key, run);
      return run;
    }
  }
}
