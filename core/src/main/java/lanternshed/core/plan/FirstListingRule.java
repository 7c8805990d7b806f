package lanternshed.core.plan;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.plan.Plan.PlannedVolume;
import lanternshed.core.plan.Plan.Verdict;
import lanternshed.core.plan.PlanRequest.Rate;
import lanternshed.core.volume.Maker;

/**
 * F-12: after power the first listing of a volume reads all of its table to count what is free. On
 * a slow bus somebody waits for it, and takes it for a fault.
 */
final class FirstListingRule implements PlanRule {
  private static final String RULE = "F-12";

  /** Below it nobody notices, in seconds. */
  private static final double NOTICED = 1;

  private static final double LONG = 5;

  @Override
  public List<Verdict> judge(Draft draft, Situation s) {
    Rate rate = s.request().bench().rate();
    if (rate.bytesPerSecond() == 0) return List.of();
    List<Verdict> out = new ArrayList<>();
    for (PlannedVolume v : draft.volumes()) {
      if (!Catalogue.made(v.kind())) continue;
      long bytes = Catalogue.maker(v.kind()).countedBytes(v.kind(), v.clusters());
      double seconds = (double) bytes / rate.bytesPerSecond();
      if (seconds >= NOTICED) out.add(verdict(v, bytes, seconds, rate));
    }
    return out;
  }

  private static Verdict verdict(PlannedVolume v, long bytes, double seconds, Rate rate) {
    String takes = (rate.measured() ? "about " : "at least ") + Math.round(seconds) + " s";
    String half = half(v).orElse("two volumes of half the length would halve it");
    Sum sum =
        Sum.of(RULE, "First listing of " + v.letter())
            .bytes("", "of its table that are read", bytes)
            .bytes(
                "÷",
                rate.measured() ? "a second, as measured" : "a second, at most",
                rate.bytesPerSecond())
            .line("=", "seconds", Math.round(seconds))
            .because("No figure for what is free is kept on this kind; it is counted once.")
            .lift(half)
            .done();
    String text =
        "The first listing of " + v.letter() + " after power takes " + takes + "; " + half + ".";
    return seconds < LONG ? Verdict.holds(RULE, text, sum) : Verdict.warns(RULE, text, sum);
  }

  /** The next cluster size, where the volume stays of its kind with it. */
  private static Optional<String> half(PlannedVolume v) {
    Maker maker = Catalogue.maker(v.kind());
    int twice = v.clusterBytes() * 2;
    return maker.unitSizes().stream()
        .filter(c -> c == twice)
        .filter(c -> v.clusters() / 2 >= maker.fewestUnits(v.kind()))
        .map(c -> "clusters of " + Say.size(c) + " would halve it")
        .findFirst();
  }
}
