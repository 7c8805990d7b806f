package lanternshed.core.machine;

import java.util.ArrayList;
import java.util.List;
import lanternshed.core.measure.ShedException;

/**
 * The list of fitting a card as it is walked (H-15, H-19): opened by the steps of the case that is
 * there, fitted, closed by the same steps backwards. A step keeps its number whatever comes before
 * it in a later profile.
 *
 * @param variants of the case; empty where there is one only
 * @param chosen the one that is there; "" where nobody said
 * @param rows empty of a case's own steps as long as no variant is chosen
 */
public record Fitting(List<String> variants, String chosen, List<FitRow> rows) {
  private static final int OPENING = 1000;
  private static final int CLOSING = 2000;

  /**
   * One step.
   *
   * @param index by which its tick is kept
   * @param head what begins with it; "" for nothing
   */
  public record FitRow(int index, String head, Profile.Step step) {}

  /**
   * @param variant which is before whoever does it; "" where nobody said yet
   */
  public static Fitting of(Profile p, String variant) {
    List<String> variants =
        p.opening().stream()
            .map(Profile.Opening::variant)
            .filter(v -> !v.isEmpty())
            .distinct()
            .toList();
    List<FitRow> rows = new ArrayList<>();
    List<FitRow> back = new ArrayList<>();
    for (int i = 0; i < p.opening().size(); i++) {
      Profile.Opening o = p.opening().get(i);
      if (!o.variant().isEmpty() && !o.variant().equals(variant)) continue;
      rows.add(new FitRow(OPENING + i, rows.isEmpty() ? "Open it" : "", o.step()));
      if (!o.closing().isEmpty()) back.add(0, new FitRow(CLOSING + i, "", o.back()));
    }
    int before = rows.size();
    for (int i = 0; i < p.fit().size(); i++) {
      String head = i == 0 && before > 0 ? "Fit the card" : "";
      rows.add(new FitRow(i, head, p.fit().get(i)));
    }
    for (int i = 0; i < back.size(); i++) {
      FitRow r = back.get(i);
      rows.add(i > 0 ? r : new FitRow(r.index(), "Close it, the same way back", r.step()));
    }
    return new Fitting(variants, variants.contains(variant) ? variant : "", List.copyOf(rows));
  }

  /**
   * @throws ShedException where it has variants and none of them was chosen
   */
  public void needChosen() {
    if (variants.isEmpty() || !chosen.isEmpty()) return;
    throw new ShedException(
        "Say first which case is before you: " + String.join(", or ", variants) + ".");
  }
}
