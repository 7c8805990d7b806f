package lanternshed.core.cli;

import java.io.PrintWriter;
import java.util.List;
import lanternshed.core.measure.Finding;
import picocli.CommandLine;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.json.JsonMapper;

/** Prints one answer: as JSON when asked, else as lines for a person. */
final class Output {
  private static final JsonMapper JSON =
      JsonMapper.builder().enable(SerializationFeature.INDENT_OUTPUT).build();

  private Output() {}

  static PrintWriter of(CommandLine.Model.CommandSpec spec) {
    return spec.commandLine().getOut();
  }

  static void json(PrintWriter out, Object answer) {
    out.println(JSON.writeValueAsString(answer));
  }

  static void findings(PrintWriter out, List<Finding> findings) {
    for (Finding f : findings) {
      out.printf("%-5s %-6s %s: %s%n", f.weight(), f.rule(), f.where(), f.what());
      if (!f.todo().isEmpty()) out.println("             → " + f.todo());
    }
  }

  /** A finding as the command line's JSON has it. */
  record Said(String rule, String weight, String where, String what, String todo) {
    static List<Said> of(List<Finding> findings) {
      return findings.stream()
          .map(f -> new Said(f.rule(), f.weight().name(), f.where(), f.what(), f.todo()))
          .toList();
    }
  }
}
