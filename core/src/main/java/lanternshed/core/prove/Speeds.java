package lanternshed.core.prove;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;

/**
 * Speeds and times before and after, like with like (V-2 to V-4).
 *
 * @param rows in the order of the kinds; what was taken with another system or tool is a row of its
 *     own
 * @param limit what the bus carries; absent where nobody knows
 */
public record Speeds(List<SpeedRow> rows, Optional<Limit> limit) {

  /** Figures that differ by less are the same: a test that is repeated varies so. */
  private static final double VARIES = 0.05;

  /** From so much of what the bus carries on, no faster card helps. */
  private static final double NEAR = 0.85;

  /** More than the bus carries by so much is no rounding and no unit. */
  private static final double BEYOND = 1.1;

  /**
   * @param bytesPerSecond at most
   * @param what carries no more, by name
   */
  public record Limit(long bytesPerSecond, String what) {
    /** "16.6 MB/s, the bus (40-pin ATA)". */
    public String text() {
      return Speeds.text(bytesPerSecond, Timing.Measure.RATE) + ", " + what;
    }
  }

  /** How after stands to before. */
  public enum Verdict {
    FASTER,
    SLOWER,
    ALIKE,
    ONLY_BEFORE,
    ONLY_AFTER,
    NOT_COMPARABLE
  }

  /**
   * Repeated figures: bytes a second, times a second, or seconds.
   *
   * @param middle the one in the middle of their order; of an even number between two
   * @param text the middle one as it is shown; "" where there is none
   * @param spread least and greatest where there are several; "" else
   */
  public record Series(
      int count, double low, double middle, double high, String text, String spread) {}

  /**
   * @param change in percent, with its sign; "" where nothing is compared
   * @param sentence what follows (V-3)
   */
  public record SpeedRow(
      Timing.Kind kind,
      String name,
      Timing.Measure measure,
      String system,
      String tool,
      Series before,
      Series after,
      Verdict verdict,
      String change,
      String sentence,
      Sum because) {
    SpeedRow says(String words) {
      return new SpeedRow(
          kind, name, measure, system, tool, before, after, verdict, change, words, because);
    }
  }

  private record Like(Timing.Kind kind, Timing.Measure measure, String system, String tool) {}

  private static final class Taken {
    final List<Double> before = new ArrayList<>();
    final List<Double> after = new ArrayList<>();
    String system = "";
    String tool = "";
  }

  public static Speeds of(List<Timing> timings, Optional<Limit> limit) {
    Map<Like, Taken> all = new LinkedHashMap<>();
    for (Timing t : timings) {
      Timing.Value v = t.value();
      Like like = new Like(t.kind(), v.measure(), word(t.system()), word(t.tool()));
      Taken taken = all.computeIfAbsent(like, k -> new Taken());
      // The latest way of writing one name is shown.
      taken.system = t.system().strip();
      taken.tool = t.tool().strip();
      (t.after() ? taken.after : taken.before).add(v.amount());
    }
    List<SpeedRow> rows = new ArrayList<>();
    for (Timing.Kind kind : Timing.Kind.values()) {
      all.forEach(
          (like, taken) -> {
            if (like.kind() == kind) rows.add(row(like, taken, all, limit));
          });
    }
    return new Speeds(rows.stream().map(r -> told(r, rows, limit)).toList(), limit);
  }

  private static String word(String s) {
    return s.strip().toLowerCase(Locale.ROOT).replaceAll("\\s+", " ");
  }

  private static SpeedRow row(Like like, Taken t, Map<Like, Taken> all, Optional<Limit> limit) {
    Series before = series(t.before, like.measure());
    Series after = series(t.after, like.measure());
    Verdict v = verdict(like, before, after, all);
    boolean compared = before.count() > 0 && after.count() > 0;
    String change = compared ? percent(before.middle(), after.middle()) : "";
    return new SpeedRow(
        like.kind(),
        like.kind().words(),
        like.measure(),
        t.system,
        t.tool,
        before,
        after,
        v,
        change,
        "",
        because(like, before, after, limit, change));
  }

  private static Verdict verdict(Like like, Series before, Series after, Map<Like, Taken> all) {
    if (before.count() == 0 || after.count() == 0) {
      boolean wantsAfter = after.count() == 0;
      boolean elsewhere =
          all.entrySet().stream()
              .filter(e -> e.getKey().kind() == like.kind() && !e.getKey().equals(like))
              .anyMatch(e -> !(wantsAfter ? e.getValue().after : e.getValue().before).isEmpty());
      if (elsewhere) return Verdict.NOT_COMPARABLE;
      return wantsAfter ? Verdict.ONLY_BEFORE : Verdict.ONLY_AFTER;
    }
    boolean overlap = before.low() <= after.high() && after.low() <= before.high();
    double by = after.middle() / before.middle() - 1;
    if (overlap || Math.abs(by) < VARIES) return Verdict.ALIKE;
    return by > 0 == like.measure().moreIsFaster() ? Verdict.FASTER : Verdict.SLOWER;
  }

  private static Series series(List<Double> all, Timing.Measure m) {
    if (all.isEmpty()) return new Series(0, 0, 0, 0, "", "");
    double[] s = all.stream().mapToDouble(d -> d).sorted().toArray();
    double middle = (s[(s.length - 1) / 2] + s[s.length / 2]) / 2;
    double high = s[s.length - 1];
    String spread = s.length > 1 ? text(s[0], m) + " to " + text(high, m) : "";
    return new Series(s.length, s[0], middle, high, text(middle, m), spread);
  }

  /** The figure with three digits that count. */
  static String text(double v, Timing.Measure m) {
    return switch (m) {
      case RATE -> v < 1e6 ? three(v / 1e3) + " kB/s" : three(v / 1e6) + " MB/s";
      case OFTEN -> three(v) + " /s";
      case TIME ->
          v < 1 ? three(v * 1e3) + " ms" : v < 10 ? three(v) + " s" : Say.seconds(Math.round(v));
    };
  }

  private static String three(double v) {
    if (v >= 100) return Say.count(Math.round(v));
    return String.format(Locale.ROOT, v < 10 ? "%.2f" : "%.1f", v);
  }

  private static String percent(double before, double after) {
    long by = Math.round((after / before - 1) * 100);
    return by < 0 ? "−" + Say.count(-by) + " %" : "+" + Say.count(by) + " %";
  }

  private static Sum because(
      Like like, Series before, Series after, Optional<Limit> limit, String change) {
    Sum.Builder b = Sum.of("V-2", "Before and after: " + like.kind().words());
    if (before.count() > 0) b.note(middleOf(before) + " before", said(before));
    if (after.count() > 0) b.note(middleOf(after) + " after", said(after));
    if (!change.isEmpty()) b.note("after ÷ before − 1", change);
    if (like.measure() == Timing.Measure.RATE && limit.isPresent()) {
      Limit l = limit.get();
      b.note("the bus carries at most", text(l.bytesPerSecond(), like.measure()));
      b.note("because of", l.what());
    }
    return b.because(
            "Only what one system and one tool measured is compared (V-4). Under 5 %, or where both"
                + " ranges touch, a test that is repeated varies as much. kB is taken as 1 000 bytes;"
                + " a tool that means 1 024 does so before and after.")
        .done();
  }

  private static String middleOf(Series s) {
    return s.count() == 1 ? "taken once" : "the middle of " + s.count();
  }

  private static String said(Series s) {
    return s.spread().isEmpty() ? s.text() : s.text() + ", from " + s.spread();
  }

  /** What a row says, with what the others say beside it. */
  private static SpeedRow told(SpeedRow r, List<SpeedRow> all, Optional<Limit> limit) {
    String bus = limit.map(l -> bus(r, l)).orElse("");
    String own =
        switch (r.verdict()) {
          case ONLY_BEFORE -> "Take it again with the card, the same way.";
          case ONLY_AFTER -> "Nobody took it with the old drive; there is nothing to hold it to.";
          case NOT_COMPARABLE ->
              "Not comparable: the other side was taken with "
                  + others(r, all)
                  + ". Take both the same way.";
          case ALIKE -> "No difference beyond what repeating it gives.";
          case FASTER -> "";
          case SLOWER -> slower(r, all);
        };
    return r.says((own + " " + bus).strip());
  }

  private static String others(SpeedRow r, List<SpeedRow> all) {
    boolean wantsAfter = r.after().count() == 0;
    return all.stream()
        .filter(o -> o.kind() == r.kind() && o != r)
        .filter(o -> (wantsAfter ? o.after() : o.before()).count() > 0)
        .findFirst()
        .map(
            o ->
                o.tool().equalsIgnoreCase(r.tool()) && o.system().equalsIgnoreCase(r.system())
                    ? "another unit"
                    : named(o))
        .orElse("another tool");
  }

  private static String named(SpeedRow o) {
    String tool = o.tool().isEmpty() ? "a clock" : o.tool();
    return o.system().isEmpty() ? tool : tool + " under " + o.system();
  }

  /** V-3: a drop is explained, or marked to be taken again. */
  private static String slower(SpeedRow r, List<SpeedRow> all) {
    boolean once = r.before().count() < 2 || r.after().count() < 2;
    if (once) return "Slower, but taken once: take both three times before it is believed.";
    boolean small = r.kind() == Timing.Kind.WRITE || r.kind() == Timing.Kind.RANDOM;
    boolean readsWell =
        all.stream()
            .anyMatch(
                o ->
                    o.kind() == Timing.Kind.READ
                        && (o.verdict() == Verdict.FASTER || o.verdict() == Verdict.ALIKE));
    if (small && readsWell) {
      return "Cards write small blocks slowly, and reading shows that the chain is sound: a write"
          + " cache or larger units help, another card may.";
    }
    return "Slower than the old drive: look at the transfer mode, the driver and the cable before"
        + " the card.";
  }

  private static String bus(SpeedRow r, Limit l) {
    if (r.measure() != Timing.Measure.RATE || r.after().count() == 0) return "";
    double part = r.after().middle() / l.bytesPerSecond();
    if (part > BEYOND) {
      return "More than " + l.what() + " can carry: a cache answered, or the unit is another.";
    }
    if (part < NEAR) return "";
    return "That is what " + l.what() + " carries: a faster card changes nothing.";
  }
}
