package lanternshed.core.prove;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.measure.Sum;

/** What a machine shows, held row by row against what was foretold (V-1, V-5). */
public final class Shown {
  private Shown() {}

  /** What kind of figure is foretold. */
  public enum Figure {
    BYTES,
    COUNT,
    /** Several whole numbers in their order, as of a geometry. */
    NUMBERS
  }

  /**
   * @param key the same as long as what it is about is the same
   * @param what it is the figure of
   * @param text as it is shown here
   * @param value in bytes or things; 0 for {@link Figure#NUMBERS}
   */
  public record Predicted(
      String key, String what, Figure figure, String text, long value, Sum because) {}

  /**
   * What somebody read off the machine.
   *
   * @param text as typed; "" for not yet
   * @param unseen whether the machine does not show this at all
   * @param explained why it may differ; "" for no reason known
   */
  public record Seen(String key, String text, boolean unseen, String explained) {}

  /** How a row stands. */
  public enum Verdict {
    OPEN,
    AGREES,
    EXPLAINED,
    DIFFERS,
    UNSEEN
  }

  /**
   * @param sentence what follows for whoever reads it; "" where the verdict says all
   */
  public record ShownRow(
      String key,
      String what,
      String predicted,
      Sum because,
      String seen,
      boolean unseen,
      String explained,
      Verdict verdict,
      String sentence) {}

  public static List<ShownRow> judge(List<Predicted> predicted, List<Seen> seen) {
    return predicted.stream()
        .map(
            p ->
                row(
                    p,
                    seen.stream()
                        .filter(s -> s.key().equals(p.key()))
                        .findFirst()
                        .orElse(new Seen(p.key(), "", false, ""))))
        .toList();
  }

  /**
   * What was read, in a sentence for the record; "" where nothing was foretold in figures.
   *
   * @throws ShedException where a row stands against a pass: not read, or different without a
   *     reason
   */
  public static String passed(List<ShownRow> rows) {
    for (ShownRow r : rows) {
      if (r.verdict() == Verdict.OPEN) {
        throw new ShedException(
            r.what()
                + ": type what the machine shows, or say that it does not show it."
                + (r.sentence().isEmpty() ? "" : " " + r.sentence()));
      }
      if (r.verdict() == Verdict.DIFFERS) {
        throw new ShedException(
            r.what()
                + ": "
                + Say.lower(r.sentence())
                + ". Write why, or say that it is not as predicted.");
      }
    }
    if (rows.isEmpty()) return "";
    long agree = rows.stream().filter(r -> r.verdict() == Verdict.AGREES).count();
    long explained = rows.stream().filter(r -> r.verdict() == Verdict.EXPLAINED).count();
    long unseen = rows.stream().filter(r -> r.verdict() == Verdict.UNSEEN).count();
    StringBuilder out = new StringBuilder();
    if (agree > 0) out.append(Say.plural(agree, "figure agrees", "figures agree"));
    if (explained > 0) and(out, Say.plural(explained, "differs", "differ") + " with a reason");
    if (unseen > 0) and(out, Say.plural(unseen, "is", "are") + " not shown by it");
    return out.append('.').toString();
  }

  /**
   * What differs, for the record of a machine that failed; "" where nobody read anything that does.
   */
  public static String against(List<ShownRow> rows) {
    StringBuilder out = new StringBuilder();
    for (ShownRow r : rows) {
      if (r.verdict() != Verdict.DIFFERS && r.verdict() != Verdict.EXPLAINED) continue;
      String one = r.what() + ": " + r.seen().strip() + " in place of " + r.predicted();
      and(out, one);
    }
    return out.isEmpty() ? "" : out.append('.').toString();
  }

  private static void and(StringBuilder out, String more) {
    out.append(out.isEmpty() ? "" : ", ").append(more);
  }

  private static ShownRow row(Predicted p, Seen s) {
    if (s.unseen()) return row(p, s, Verdict.UNSEEN, "");
    if (s.text().isBlank()) return row(p, s, Verdict.OPEN, "");
    return p.figure() == Figure.NUMBERS ? numbers(p, s) : amount(p, s);
  }

  private static ShownRow row(Predicted p, Seen s, Verdict v, String sentence) {
    return new ShownRow(
        p.key(), p.what(), p.text(), p.because(), s.text(), s.unseen(), s.explained(), v, sentence);
  }

  private static ShownRow differs(Predicted p, Seen s, String sentence) {
    return row(p, s, s.explained().isBlank() ? Verdict.DIFFERS : Verdict.EXPLAINED, sentence);
  }

  private static ShownRow noFigure(Predicted p, Seen s) {
    return row(p, s, Verdict.OPEN, "“" + s.text().strip() + "” has no figure.");
  }

  private static ShownRow numbers(Predicted p, Seen s) {
    List<Long> meant = AsShown.all(p.text());
    List<Long> are = AsShown.all(s.text());
    if (are.isEmpty()) return noFigure(p, s);
    if (are.equals(meant)) return row(p, s, Verdict.AGREES, "");
    if (are.size() != meant.size()) {
      return differs(
          p,
          s,
          Say.plural(are.size(), "number is", "numbers are")
              + " typed; predicted are "
              + meant.size()
              + ".");
    }
    for (int i = 0; ; i++) {
      if (are.get(i).equals(meant.get(i))) continue;
      return differs(
          p, s, Say.count(are.get(i)) + " shown in place of " + Say.count(meant.get(i)) + ".");
    }
  }

  private static ShownRow amount(Predicted p, Seen s) {
    List<AsShown> may = AsShown.in(s.text(), p.figure() == Figure.BYTES);
    if (may.isEmpty()) return noFigure(p, s);
    BigDecimal value = BigDecimal.valueOf(p.value());
    Optional<AsShown> same = may.stream().filter(a -> a.means(value)).findFirst();
    if (same.isPresent()) {
      String how = same.get().counting();
      return row(p, s, Verdict.AGREES, how.isEmpty() ? "" : "Taken as " + how + ".");
    }
    AsShown near =
        may.stream()
            .filter(a -> a.counting().isEmpty())
            .min(Comparator.comparing(a -> a.at().subtract(value).abs()))
            .orElseThrow();
    BigDecimal by = near.at().subtract(value);
    String much = much(by.abs().setScale(0, RoundingMode.HALF_UP), p);
    return differs(p, s, much + (by.signum() > 0 ? " more" : " less") + " than predicted.");
  }

  private static String much(BigDecimal by, Predicted p) {
    // Nobody shows more than that; what is typed may.
    if (by.compareTo(BigDecimal.valueOf(Long.MAX_VALUE)) > 0) return "Far";
    long n = Math.max(1, by.longValueExact());
    return p.figure() == Figure.BYTES ? Say.size(n) : Say.count(n);
  }
}
