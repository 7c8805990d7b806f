package lanternshed.core.cli;

import java.io.IOException;
import java.io.InputStream;
import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.Callable;
import lanternshed.core.kind.BasicLines;
import lanternshed.core.kind.Kinds;
import lanternshed.core.kind.Known;
import lanternshed.core.kind.Sample;
import lanternshed.core.kind.TokenTable;
import lanternshed.core.measure.ShedException;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** What files are by their content (T-11). */
@Command(
    name = "kind",
    description = "Says what files are by their content, and lists BASIC that is kept as tokens.",
    mixinStandardHelpOptions = true)
final class KindCommand implements Callable<Integer> {
  private static final long MOST_TABLE = 1 << 20;

  @Spec private CommandSpec spec;

  @Parameters(paramLabel = "FILE", arity = "1..*")
  private List<Path> files;

  @Option(names = "--list", description = "list a BASIC program as text")
  private boolean list;

  @Option(names = "--tokens", description = "JSON with what its tokens stand for")
  private Path tokens;

  @Override
  public Integer call() {
    PrintWriter out = Output.of(spec);
    int code = Shed.CLEAN;
    TokenTable table = tokens == null ? TokenTable.NONE : table();
    for (Path f : files) {
      Sample s = sample(f);
      Known k = Kinds.of(s);
      String says = k.says().isEmpty() ? "" : ": " + k.says();
      out.printf("%s: %s%s%n", f.getFileName(), k.kind().words(), says);
      if (!k.fault().isEmpty()) {
        out.printf("  but %s%n", k.fault());
        code = Shed.FINDINGS;
      }
      if (list) BasicLines.of(s).ifPresent(b -> out.print(table.listing(b)));
    }
    return code;
  }

  private TokenTable table() {
    try {
      if (Files.size(tokens) > MOST_TABLE) {
        throw new ShedException(tokens.getFileName() + " is longer than a token table can be.");
      }
      return TokenTable.read(new String(Files.readAllBytes(tokens), StandardCharsets.UTF_8));
    } catch (IOException e) {
      throw unreadable(tokens, e);
    }
  }

  private static Sample sample(Path f) {
    try (InputStream in = Files.newInputStream(f)) {
      long length = Files.size(f);
      return new Sample(in.readNBytes(Sample.wanted(length)), length);
    } catch (IOException e) {
      throw unreadable(f, e);
    }
  }

  private static ShedException unreadable(Path f, IOException e) {
    return new ShedException(f + " cannot be read; is it there, and a file?", e);
  }
}
