package lanternshed.core.plan;

import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import lanternshed.core.machine.Profile;
import lanternshed.core.measure.Sum;
import lanternshed.core.plan.Plan.Verdict;
import lanternshed.core.plan.Plan.Weight;
import lanternshed.core.plan.PlanRequest.Pair;
import lanternshed.core.plan.PlanRequest.Suspect;

/**
 * D-11: no layout puts two parts together that are at fault only together. A card takes the place
 * of one old drive, and its quarrel leaves with it; where drives or cards of a kind quarrel with
 * the machine's own firmware, only firmware that has to be obtained goes around it.
 */
final class PairRule implements PlanRule {
  private static final String DRIVE = "drive";
  private static final int MOST_NAMED = 3;

  /** Kinds of part that other firmware takes out of the way to the card. */
  private static final Set<String> FIRMWARE = Set.of("firmware", "setting");

  @Override
  public List<Verdict> judge(Draft draft, Situation s) {
    Pair pair = s.request().bench().pair();
    if (pair.machine().isEmpty() || pair.storage().isEmpty()) return List.of();
    String machine = names(pair.machine());
    String storage = names(pair.storage());
    Sum.Builder sum = Sum.of("D-11", "Not together").note("these", machine + " and " + storage);
    for (Profile.Firmware f : s.profile().firmwares()) {
      if (!f.obtain().isEmpty()) sum.lift(f.name() + ": " + f.obtain());
    }
    sum.lift("a drive of the old kind");
    return List.of(judged(pair, machine, storage, goesAround(pair, s), sum));
  }

  private static boolean goesAround(Pair pair, Situation s) {
    return !s.setup().firmware().obtain().isEmpty()
        && pair.machine().stream().allMatch(p -> FIRMWARE.contains(p.kind()));
  }

  private static Verdict judged(
      Pair pair, String machine, String storage, boolean around, Sum.Builder sum) {
    boolean oneDrive = pair.storage().size() == 1 && pair.storage().get(0).kind().equals(DRIVE);
    if (pair.named() && oneDrive) {
      String text = "The card takes the place of " + storage + ", which quarrels with " + machine;
      String why = "A pair is at fault only together, and one of the two leaves the machine.";
      return new Verdict(Weight.HOLDS, "D-11", text + ".", sum.because(why).done());
    }
    if (around) {
      String text = "The plan goes around " + machine + ": other firmware serves the card.";
      String why = "This firmware takes another way to the card.";
      return new Verdict(Weight.HOLDS, "D-11", text, sum.because(why).done());
    }
    if (pair.named()) {
      String text = "The board found " + machine + " and " + storage + " at fault together, and";
      String todo = " this plan uses both. Choose other firmware, or a drive of the old kind.";
      String why = "Each works with others; this plan would put them together again.";
      return new Verdict(Weight.STOPS, "D-11", text + todo, sum.because(why).done());
    }
    String text = "Storage quarrels with one of " + machine + ", and the board has not settled";
    String todo = " which: the card may meet the same.";
    String why = "Nine tenths for one pair would settle it; until then each of them may be it.";
    return new Verdict(Weight.WARNS, "D-11", text + todo, sum.because(why).done());
  }

  private static String names(List<Suspect> parts) {
    String some =
        parts.stream().limit(MOST_NAMED).map(Suspect::name).collect(Collectors.joining(", "));
    int more = parts.size() - MOST_NAMED;
    return more > 0 ? some + " and " + more + " more" : some;
  }
}
