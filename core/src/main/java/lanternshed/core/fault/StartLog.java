package lanternshed.core.fault;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.regex.PatternSyntaxException;
import lanternshed.core.measure.ShedException;
import tools.jackson.core.type.TypeReference;

/**
 * Reads the plain start-up log of an emulator (D-8). A format is data: patterns of lines with what
 * each means, and lines that must come. One of our own ships; the drive emulator of the
 * demonstration writes it.
 */
public final class StartLog {
  private static final int MOST_LINES = 5_000;
  private static final int LONGEST_LINE = 400;
  private static final List<Format> FORMATS =
      FaultData.read("/faults/start-logs.json", new TypeReference<List<Format>>() {});

  /**
   * A format.
   *
   * @param mark pattern of a line by which it is recognised
   * @param lines tried from top to bottom; the first that matches a line has it
   * @param expected keys of lines that a good start has, with what their absence means
   */
  public record Format(
      String key, String name, String mark, List<LinePattern> lines, List<Expected> expected) {}

  /**
   * @param level "good", "note" or "cause"
   * @param says explanation; {1} to {5} stand for the pattern's groups
   */
  public record LinePattern(String key, String pattern, String level, String says) {}

  public record Expected(String key, String missing) {}

  /**
   * One line of the log.
   *
   * @param says "" where no pattern knows it
   */
  public record LogRow(int number, String text, String level, String says) {}

  /**
   * What the log says.
   *
   * @param cause the first cause in one sentence; "" when none is found
   * @param causeLine its line; 0 when a line is missing
   */
  public record LogReading(String format, List<LogRow> lines, String cause, int causeLine) {}

  private StartLog() {}

  public static List<Format> formats() {
    return List.copyOf(FORMATS);
  }

  /**
   * Reads a log with the shipped formats.
   *
   * @throws ShedException when it is no text, too long, or no format knows it
   */
  public static LogReading read(String text) {
    if (text.indexOf('\0') >= 0) {
      throw new ShedException("This is no plain text: it holds zero bytes. Paste the log's text.");
    }
    List<String> lines = text.lines().limit(MOST_LINES + 1L).toList();
    if (lines.size() > MOST_LINES) {
      throw new ShedException("This log has more than 5 000 lines; paste those of one start.");
    }
    Optional<Format> format =
        FORMATS.stream()
            .filter(f -> lines.stream().anyMatch(l -> pattern(f.mark()).matcher(cut(l)).find()))
            .findFirst();
    if (format.isEmpty()) {
      throw new ShedException(
          "No format knows this log; known are: "
              + String.join(", ", FORMATS.stream().map(Format::name).toList())
              + ". Keep it as a note.");
    }
    return read(format.get(), lines);
  }

  private static LogReading read(Format f, List<String> lines) {
    List<LogRow> out = new ArrayList<>();
    List<String> seen = new ArrayList<>();
    List<Pattern> patterns = f.lines().stream().map(l -> pattern(l.pattern())).toList();
    for (int i = 0; i < lines.size(); i++) {
      String text = cut(lines.get(i));
      LogRow line = new LogRow(i + 1, text, "", "");
      for (int p = 0; p < patterns.size(); p++) {
        Matcher m = patterns.get(p).matcher(text);
        if (!m.find()) continue;
        LinePattern known = f.lines().get(p);
        line = new LogRow(i + 1, text, known.level(), fill(known.says(), m));
        seen.add(known.key());
        break;
      }
      out.add(line);
    }
    Optional<LogRow> cause = out.stream().filter(l -> l.level().equals("cause")).findFirst();
    if (cause.isPresent())
      return new LogReading(f.name(), out, cause.get().says(), cause.get().number());
    String missing =
        f.expected().stream()
            .filter(e -> !seen.contains(e.key()))
            .map(Expected::missing)
            .findFirst()
            .orElse("");
    return new LogReading(f.name(), out, missing, 0);
  }

  private static String fill(String says, Matcher m) {
    String out = says;
    for (int g = 1; g <= m.groupCount(); g++) {
      out = out.replace("{" + g + "}", m.group(g) == null ? "" : m.group(g));
    }
    return out;
  }

  private static String cut(String line) {
    return line.length() <= LONGEST_LINE ? line : line.substring(0, LONGEST_LINE);
  }

  private static Pattern pattern(String text) {
    try {
      return Pattern.compile(text);
    } catch (PatternSyntaxException e) {
      throw new IllegalStateException("A shipped pattern does not read: " + text, e);
    }
  }
}
