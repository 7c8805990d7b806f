package lanternshed.core.plan;

import java.util.List;
import lanternshed.core.measure.Sum;
import lanternshed.core.plan.Plan.Verdict;
import lanternshed.core.plan.PlanRequest.Strategy;

/** P-22: somebody has to bring the driver without which the machine shows no letter. */
final class DriverInstallRule implements PlanRule {
  @Override
  public List<Verdict> judge(Draft draft, Situation s) {
    boolean own = s.family().boot().isPresent() && s.family().always16();
    if (!own || s.strategy() == Strategy.CLONE || draft.volumes().isEmpty()) return List.of();
    boolean old =
        s.keepsTableCode()
            && s.survey().volumes().stream().anyMatch(f -> !f.systemFiles().isEmpty());
    Sum sum =
        Sum.of("P-22", "Who brings the driver")
            .note("from the old drive", old ? "kept" : "not kept")
            .because(
                "The root sector is executed when its words sum to 0x1234; its code loads a driver,"
                    + " and the driver mounts the volumes. Neither is this program's to give.")
            .lift("keep the old drive's, where it had one")
            .lift("start from a floppy and install one on the machine (P-25)")
            .done();
    return List.of(
        old
            ? Verdict.holds("P-22", "The old drive's driver comes along.", sum)
            : Verdict.warns(
                "P-22",
                "The card will have no driver: install one on the machine from a floppy, in the order"
                    + " of the sheet.",
                sum));
  }
}
