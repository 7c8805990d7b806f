package lanternshed.core.machine;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Band;

/**
 * What was found at the points of an inspection, and what must be true before power goes on. A
 * point gates when its profile says so or when what was found there is bad.
 */
public final class Inspection {

  /**
   * What was written at one point.
   *
   * @param choice the text of the choice that was taken; "" for none
   */
  public record Found(boolean done, String choice, String reading) {}

  /**
   * One point as it stands.
   *
   * @param state "open", "good", "bad"
   * @param sentence what is wrong and what to do; "" where nothing is
   */
  public record Point(int index, String state, String sentence) {}

  private Inspection() {}

  public static List<Point> judge(List<Profile.Step> steps, List<Found> found) {
    List<Point> out = new ArrayList<>();
    for (int i = 0; i < steps.size(); i++) {
      Found f = i < found.size() ? found.get(i) : new Found(false, "", "");
      out.add(judge(i, steps.get(i), f));
    }
    return out;
  }

  private static Point judge(int i, Profile.Step s, Found f) {
    Optional<Profile.Choice> choice =
        s.choices().stream().filter(c -> c.text().equals(f.choice())).findFirst();
    if (choice.isPresent() && !choice.get().good()) {
      String then = choice.get().then();
      return new Point(i, "bad", choice.get().text() + (then.isEmpty() ? "." : ": " + then));
    }
    Optional<Band.Verdict> band = s.band().judge(f.reading());
    if (band.isPresent() && band.get() != Band.Verdict.WITHIN) {
      return new Point(
          i,
          "bad",
          s.reading()
              + " reads "
              + f.reading().strip()
              + ", "
              + (band.get() == Band.Verdict.BELOW ? "below" : "above")
              + " the band of "
              + s.band().text()
              + ".");
    }
    boolean answered =
        (s.choices().isEmpty() || choice.isPresent()) && (!s.band().expected() || band.isPresent());
    if (s.gate() ? f.done() && answered : f.done()) return new Point(i, "good", "");
    return new Point(i, "open", s.gate() ? s.text() : "");
  }

  /** Whether something was found that stands against power. */
  public static boolean bad(List<Point> points) {
    return points.stream().anyMatch(p -> p.state().equals("bad"));
  }

  /** What must be true before power goes on, as one line; "" when nothing stands against it. */
  public static String gate(List<Profile.Step> steps, List<Point> points) {
    List<String> bad =
        points.stream().filter(p -> p.state().equals("bad")).map(Point::sentence).toList();
    if (!bad.isEmpty()) return "No power yet. " + String.join(" ", bad);
    List<String> open =
        points.stream()
            .filter(p -> p.state().equals("open") && steps.get(p.index()).gate())
            .map(p -> String.valueOf(p.index() + 1))
            .toList();
    if (open.isEmpty()) return "";
    return "Before power: look at "
        + (open.size() == 1 ? "point " : "points ")
        + String.join(", ", open)
        + ".";
  }
}
