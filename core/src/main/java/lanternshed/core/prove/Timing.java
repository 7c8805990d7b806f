package lanternshed.core.prove;

import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import lanternshed.core.measure.ShedException;

/**
 * A speed or a time that was taken on the machine (V-2, V-4).
 *
 * @param after whether it was with the new card in; before is with the old drive
 * @param text the figure as the tool showed it, or as the clock did
 * @param system what ran, "" where that plays no part
 * @param tool what measured, "" for a clock
 */
public record Timing(Kind kind, boolean after, String text, String system, String tool) {

  /** What was timed. */
  public enum Kind {
    READ("sequential read", "812 KB/s"),
    WRITE("sequential write", "640 KB/s"),
    RANDOM("random access", "28 ms, or 41 /s"),
    PROMPT("from power to the prompt", "1 min 40 s"),
    INSTALL("an install or a long copy", "35 min");

    private final String words;
    private final String example;

    Kind(String words, String example) {
      this.words = words;
      this.example = example;
    }

    public String words() {
      return words;
    }

    /** A figure as it may be typed. */
    public String example() {
      return example;
    }

    boolean takes(Measure m) {
      return switch (this) {
        case READ, WRITE -> m == Measure.RATE;
        case RANDOM -> true;
        case PROMPT, INSTALL -> m == Measure.TIME;
      };
    }
  }

  /** In what it is counted; only like is compared with like. */
  public enum Measure {
    /** Bytes a second. */
    RATE(true),
    /** Times a second. */
    OFTEN(true),
    /** Seconds. */
    TIME(false);

    private final boolean moreIsFaster;

    Measure(boolean moreIsFaster) {
      this.moreIsFaster = moreIsFaster;
    }

    boolean moreIsFaster() {
      return moreIsFaster;
    }
  }

  /** A figure with what it counts. */
  record Value(Measure measure, double amount) {}

  private static final double MOST = 1e12;
  private static final Pattern FIGURE =
      Pattern.compile("(\\d{1,9}(?:[.,]\\d{1,6})?)\\s*([a-zµ/]*)", Pattern.CASE_INSENSITIVE);
  private static final Pattern CLOCK = Pattern.compile("(\\d{1,3}):([0-5]\\d)(?::([0-5]\\d))?");

  private static final Map<String, Double> SECONDS =
      Map.of(
          "µs", 1e-6, "us", 1e-6, "ms", 1e-3, "s", 1.0, "sec", 1.0, "min", 60.0, "m", 60.0, "h",
          3600.0);

  /** Tools mean 1 000 or 1 024 by the same letters; one tool always means the same. */
  private static final Map<String, Double> RATES =
      Map.of(
          "b/s", 1.0, "kb/s", 1e3, "k/s", 1e3, "kib/s", 1024.0, "mb/s", 1e6, "m/s", 1e6, "mib/s",
          1048576.0);

  /**
   * @throws ShedException where the text is no figure of this kind
   */
  Value value() {
    Optional<Value> v = read(text.strip());
    if (v.isEmpty() || !kind.takes(v.get().measure())) {
      throw new ShedException(
          "“"
              + text.strip()
              + "” is no figure for "
              + kind.words()
              + "; type it with its unit, as “"
              + kind.example()
              + "”.");
    }
    if (v.get().amount() <= 0 || v.get().amount() > MOST) {
      throw new ShedException("“" + text.strip() + "” cannot be; look at the figure again.");
    }
    return v.get();
  }

  /** How fast it read; empty where it is another figure. */
  public Optional<Long> readRate() {
    return kind == Kind.READ ? Optional.of((long) value().amount()) : Optional.empty();
  }

  /** Refuses what no comparison could read. */
  public Timing checked() {
    value();
    return this;
  }

  private static Optional<Value> read(String text) {
    Matcher clock = CLOCK.matcher(text);
    if (clock.matches()) {
      double s = Integer.parseInt(clock.group(1)) * 60.0 + Integer.parseInt(clock.group(2));
      if (clock.group(3) != null) s = s * 60 + Integer.parseInt(clock.group(3));
      return Optional.of(new Value(Measure.TIME, s));
    }
    Matcher m = FIGURE.matcher(text);
    double seconds = 0;
    int at = 0;
    while (m.find() && text.substring(at, m.start()).isBlank()) {
      double n = Double.parseDouble(m.group(1).replace(',', '.'));
      String unit = m.group(2).toLowerCase(Locale.ROOT);
      boolean only = at == 0 && m.end() == text.length();
      if (only && RATES.containsKey(unit)) {
        return Optional.of(new Value(Measure.RATE, n * RATES.get(unit)));
      }
      if (only && unit.equals("/s")) return Optional.of(new Value(Measure.OFTEN, n));
      if (!SECONDS.containsKey(unit)) return Optional.empty();
      seconds += n * SECONDS.get(unit);
      at = m.end();
    }
    boolean whole = at > 0 && at == text.length();
    return whole ? Optional.of(new Value(Measure.TIME, seconds)) : Optional.empty();
  }
}
