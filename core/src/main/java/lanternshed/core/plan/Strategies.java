package lanternshed.core.plan;

import java.util.ArrayList;
import java.util.List;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.measure.Say;
import lanternshed.core.plan.PlanRequest.Strategy;
import lanternshed.core.survey.Survey;

/** The ways from the old drive to the new image, with what each keeps and loses here. */
final class Strategies {
  private Strategies() {}

  static List<Plan.StrategyView> of(Situation s) {
    if (s.family().carries()) return List.of(carry());
    return List.of(clone(s), grow(s), rebuild(s));
  }

  private static Plan.StrategyView carry() {
    return new Plan.StrategyView(
        Strategy.CARRY,
        Strategy.CARRY.title(),
        true,
        List.of("Every drive as a file of its own, sector by sector, each in one piece."),
        List.of("Speed is the emulator's, not the card's."));
  }

  private static Plan.StrategyView clone(Situation s) {
    Survey old = s.survey();
    List<String> loses = new ArrayList<>();
    boolean fits = old.sectors() > 0 && old.sectors() <= s.card().planSectors();
    if (old.sectors() == 0) loses.add("There is no old drive to clone.");
    else if (!fits) {
      loses.add(
          "Not possible here: the old drive has "
              + Say.sectors(old.sectors() - s.card().planSectors())
              + " more than the card.");
    }
    if (s.pegs().reach() > old.sectors()) {
      loses.add(Say.mib((s.pegs().reach() - old.sectors()) * 512) + " of the reach stay unused.");
    }
    stay(s, loses);
    return new Plan.StrategyView(
        Strategy.CLONE,
        Strategy.CLONE.title(),
        fits,
        List.of("Every sector as it was, deleted files too."),
        loses);
  }

  private static Plan.StrategyView grow(Situation s) {
    List<Survey.Found> old = s.survey().volumes();
    boolean grows =
        s.family().countsHeads()
            && s.survey().sectors() > 0
            && old.stream().allMatch(f -> f.readable() && Catalogue.grows(f.kind()))
            && s.survey()
                .table()
                .map(t -> t.scheme().equals(s.family().table(s.system()).name()))
                .orElse(true);
    List<String> loses = new ArrayList<>();
    if (!grows) loses.add("Only FAT volumes in a PC's table are grown.");
    loses.add("The cluster size stays, so the largest volume is bounded by it.");
    stay(s, loses);
    return new Plan.StrategyView(
        Strategy.GROW,
        Strategy.GROW.title(),
        grows && !old.isEmpty(),
        List.of("Every cluster, deleted files too; geometry and start are written anew."),
        loses);
  }

  private static Plan.StrategyView rebuild(Situation s) {
    List<String> loses = new ArrayList<>();
    boolean fresh = s.survey().sectors() == 0;
    if (!fresh) {
      loses.add("Deleted files and what lies outside the volumes.");
      loses.add("The old boot code, unless you keep it.");
    }
    long unread = s.survey().volumes().stream().filter(f -> !f.readable()).count();
    if (unread > 0) {
      loses.add(Say.plural(unread, "volume", "volumes") + " that cannot be read as files.");
    }
    return new Plan.StrategyView(
        Strategy.REBUILD,
        fresh ? "Fresh card" : Strategy.REBUILD.title(),
        true,
        List.of(
            fresh
                ? "New volumes that check clean, with the files you brought."
                : "Every file with its time and attributes, on a volume that checks clean."),
        loses);
  }

  private static void stay(Situation s, List<String> loses) {
    int n = s.faults().size();
    if (n > 0) loses.add("Its " + Say.plural(n, "fault stays", "faults stay") + ".");
  }
}
