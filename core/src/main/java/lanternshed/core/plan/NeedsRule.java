package lanternshed.core.plan;

import java.util.ArrayList;
import java.util.List;
import lanternshed.core.machine.Profile;
import lanternshed.core.measure.Sum;
import lanternshed.core.plan.Plan.Verdict;

/** H-17: numbers that the machine must reach are gates; what is only recommended warns. */
final class NeedsRule implements PlanRule {
  @Override
  public List<Verdict> judge(Draft draft, Situation s) {
    List<Verdict> out = new ArrayList<>();
    for (Profile.Need n : s.setup().needs()) {
      Double has = s.request().bench().has().get(n.of());
      out.add(has == null ? unknown(n) : judged(n, has));
    }
    return out;
  }

  private static Verdict unknown(Profile.Need n) {
    String text =
        "The machine's "
            + n.of()
            + " is not known: it needs at least "
            + n.say(n.atLeast())
            + "; write it down at Intake.";
    return Verdict.warns("H-17", text, Sum.of("H-17", n.of()).because(text).done());
  }

  private static Verdict judged(Profile.Need n, double has) {
    boolean enough = has >= n.atLeast();
    boolean well = has >= n.recommended();
    double asked = enough && !well ? n.recommended() : n.atLeast();
    Sum.Builder sum =
        Sum.of("H-17", n.of()).note("there", n.say(has)).note(word(enough, well), n.say(asked));
    if (!enough && !n.unit().isEmpty()) sum.note("missing", n.say(asked - has));
    if (!n.buy().isEmpty() && !(enough && well)) sum.lift(n.buy());
    Sum because = sum.because(reason(enough, well)).done();
    String text = "The machine has " + n.of() + " " + n.say(has);
    if (enough && well)
      return Verdict.holds("H-17", text + ", and needs " + n.say(asked) + ".", because);
    String buy = n.buy().isEmpty() ? "" : " What would do: " + n.buy() + ".";
    if (enough) {
      String more = text + "; " + n.say(asked) + " is recommended." + buy;
      return Verdict.warns("H-17", more, because);
    }
    return Verdict.stops(
        "H-17", text + "; at least " + n.say(asked) + " is needed." + buy, because);
  }

  private static String word(boolean enough, boolean well) {
    return enough && !well ? "recommended" : "needed";
  }

  private static String reason(boolean enough, boolean well) {
    if (enough && well) return "It is there.";
    return enough
        ? "It works with less, slowly or with less on the card."
        : "Below it the machine does not use what is on the card at all.";
  }
}
