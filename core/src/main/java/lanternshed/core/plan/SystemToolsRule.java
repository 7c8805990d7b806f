package lanternshed.core.plan;

import java.util.ArrayList;
import java.util.List;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.plan.Plan.PlannedVolume;
import lanternshed.core.plan.Plan.Verdict;

/** F-4: a volume that the system mounts, but that its own tools do not check. */
final class SystemToolsRule implements PlanRule {
  @Override
  public List<Verdict> judge(Draft draft, Situation s) {
    long most = s.system().toolsMostClusters();
    List<Verdict> out = new ArrayList<>();
    for (PlannedVolume v : draft.volumes()) {
      if (most > 0 && v.clusters() > most) out.add(verdict(v, s.system().title(), most));
    }
    return out;
  }

  private static Verdict verdict(PlannedVolume v, String system, long most) {
    return Verdict.warns(
        "F-4",
        v.label()
            + " has "
            + Say.count(v.clusters())
            + " clusters. "
            + system
            + " mounts it, but its own disk checker ends at "
            + Say.count(most)
            + ": after a crash nothing on the machine can check this volume.",
        Sum.of("F-4", "Clusters that the system's tools take")
            .line("", "clusters of " + v.label(), v.clusters())
            .line(">", "that its tools take", most)
            .because(
                "The tools of this generation hold the whole FAT in one block of memory of 16 MiB"
                    + " less 64 KiB, at 4 B a cluster.")
            .lift("several volumes")
            .lift("larger clusters, up to 32 KiB")
            .done());
  }
}
