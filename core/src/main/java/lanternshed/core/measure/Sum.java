package lanternshed.core.measure;

import java.util.ArrayList;
import java.util.List;

/**
 * A calculation as data: what stands behind one figure or verdict, line by line, with the rule's
 * id, the reason in words, and what would lift it. The screens and the command line only set it in
 * type.
 *
 * @param rule id as in the handbook ("G-2"), or empty for plain arithmetic
 * @param title short name of what was computed
 * @param lines the sum from top to bottom; the last line with operator "=" is the result
 * @param reason why the rule holds, in two sentences at most
 * @param lifts what would raise or remove the limit; may be empty
 */
public record Sum(String rule, String title, List<Line> lines, String reason, List<String> lifts) {

  /**
   * One line of a sum.
   *
   * @param op "", "×", "÷", "+", "−", "=", "≤", ">" as it stands before the value
   * @param label what the value is
   * @param value the exact whole number; 0 where the line is only text
   * @param text the value as it is shown, with its unit
   */
  public record Line(String op, String label, long value, String text) {}

  public Sum {
    lines = List.copyOf(lines);
    lifts = List.copyOf(lifts);
  }

  public static Builder of(String rule, String title) {
    return new Builder(rule, title);
  }

  /** The value of the last "=" line: what the sum comes to. */
  public long result() {
    for (int i = lines.size() - 1; i >= 0; i--) {
      if (lines.get(i).op().equals("=")) return lines.get(i).value();
    }
    return lines.isEmpty() ? 0 : lines.get(lines.size() - 1).value();
  }

  /** Collects lines; only the edge of a calculation builds. */
  public static final class Builder {
    private final String rule;
    private final String title;
    private final List<Line> lines = new ArrayList<>();
    private final List<String> lifts = new ArrayList<>();
    private String reason = "";

    private Builder(String rule, String title) {
      this.rule = rule;
      this.title = title;
    }

    public Builder line(String op, String label, long value) {
      lines.add(new Line(op, label, value, Say.count(value)));
      return this;
    }

    public Builder line(String op, String label, long value, String text) {
      lines.add(new Line(op, label, value, text));
      return this;
    }

    /** A line of text only, such as a name read from a boot sector. */
    public Builder note(String label, String text) {
      lines.add(new Line("", label, 0, text));
      return this;
    }

    public Builder sectors(String op, String label, long value) {
      return line(op, label, value, Say.sectors(value));
    }

    public Builder bytes(String op, String label, long value) {
      return line(op, label, value, Say.bytes(value));
    }

    /** Closes a sum in sectors of 512 bytes, and says what that is in bytes and MiB. */
    public Builder sectorsAsSize(long sectors) {
      sectors("=", "reach", sectors);
      line("×", "512 B a sector makes", sectors * 512, Say.bytes(sectors * 512));
      return line(
          "÷", Say.count(Say.MIB) + " makes", sectors * 512 / Say.MIB, Say.mib(sectors * 512));
    }

    public Builder because(String text) {
      this.reason = text;
      return this;
    }

    public Builder lift(String text) {
      lifts.add(text);
      return this;
    }

    public Sum done() {
      return new Sum(rule, title, lines, reason, lifts);
    }
  }
}
