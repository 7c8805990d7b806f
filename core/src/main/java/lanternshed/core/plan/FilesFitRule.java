package lanternshed.core.plan;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.plan.Plan.PlannedVolume;
import lanternshed.core.plan.Plan.Verdict;
import lanternshed.core.plan.PlanRequest.Strategy;
import lanternshed.core.survey.Survey;
import lanternshed.core.volume.Maker;

/** F-3: the files of an old volume fit the new one, in whole clusters. */
final class FilesFitRule implements PlanRule {
  @Override
  public List<Verdict> judge(Draft draft, Situation s) {
    if (s.strategy() == Strategy.CLONE) return List.of();
    List<Verdict> out = new ArrayList<>();
    for (PlannedVolume v : draft.volumes()) {
      Optional<Survey.Found> f = s.source(v.source());
      if (f.isEmpty()) continue;
      long needed = f.get().folders();
      Maker maker = Catalogue.maker(v.kind());
      for (long size : f.get().sizes()) needed += maker.units(v.kind(), v.clusterBytes(), size);
      out.add(verdict(v, f.get(), needed));
    }
    return out;
  }

  private static Verdict verdict(PlannedVolume v, Survey.Found f, long needed) {
    boolean fits = needed <= v.clusters();
    Sum sum =
        Sum.of("F-3", "Files of volume " + v.source() + " on " + v.letter())
            .line("", v.unit() + "s of its files and folders", needed)
            .line(fits ? "≤" : ">", v.unit() + "s there", v.clusters())
            .because(
                "Each file takes whole " + v.unit() + "s of " + Say.size(v.clusterBytes()) + ".")
            .done();
    if (fits) {
      String all = "All " + Say.plural(f.files(), "file", "files") + " of " + v.label() + " fit.";
      return Verdict.holds("F-3", all, sum);
    }
    return Verdict.stops(
        "F-3",
        "The files of "
            + v.label()
            + " need "
            + Say.count(needed)
            + " "
            + v.unit()
            + "s, the volume has "
            + Say.count(v.clusters())
            + ": make it larger.",
        sum);
  }
}
