package lanternshed.core.plan;

import java.util.ArrayList;
import java.util.List;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.plan.Plan.CarriedFile;
import lanternshed.core.plan.Plan.PlannedVolume;
import lanternshed.core.plan.Plan.Verdict;

/** F-3: the drives fit the carrier in whole clusters. */
final class CarrierRoomRule implements PlanRule {
  @Override
  public List<Verdict> judge(Draft draft, Situation s) {
    if (!s.family().carries()) return List.of();
    List<Verdict> out = new ArrayList<>();
    for (PlannedVolume v : draft.volumes()) {
      long needed = 1;
      for (CarriedFile f : v.files()) {
        needed += (f.bytes() + v.clusterBytes() - 1) / v.clusterBytes();
      }
      boolean fits = needed <= v.clusters();
      Sum sum =
          Sum.of("F-3", "Drives on the carrier")
              .line("", "clusters of its files and the root", needed)
              .line(fits ? "≤" : ">", "clusters there", v.clusters())
              .because("Each file takes whole clusters of " + Say.size(v.clusterBytes()) + ".")
              .done();
      String text =
          fits
              ? "The drives fit, with "
                  + Say.mib((v.clusters() - needed) * v.clusterBytes())
                  + " left for more."
              : "The drives need "
                  + Say.mib(needed * v.clusterBytes())
                  + ", the carrier has "
                  + Say.mib(v.clusters() * v.clusterBytes())
                  + ": take a larger card or leave one out.";
      out.add(fits ? Verdict.holds("F-3", text, sum) : Verdict.stops("F-3", text, sum));
    }
    return out;
  }
}
