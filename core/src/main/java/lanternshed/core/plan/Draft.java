package lanternshed.core.plan;

import java.util.List;
import lanternshed.core.measure.Geometry;
import lanternshed.core.plan.Plan.PlannedVolume;

/**
 * A layout before it is judged.
 *
 * @param imageSectors how long the image will be
 * @param said what stopped the laying out itself
 */
record Draft(
    Geometry geometry,
    List<PlannedVolume> volumes,
    long imageSectors,
    List<Plan.StrategyView> strategies,
    List<Plan.Verdict> said) {}
