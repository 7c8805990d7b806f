package lanternshed.core.cli;

import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.stream.Stream;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.work.Digests;
import lanternshed.core.work.Progress;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** Reads every image of a shelf and holds it against its name, which is its digest. */
@Command(
    name = "check",
    description = "Reads every image of a shelf and compares it with its digest.")
final class CheckCommand implements Callable<Integer> {
  @Spec private CommandSpec spec;

  @Parameters(paramLabel = "SHELF", description = "The shelf's folder.")
  private Path shelf;

  @Override
  public Integer call() {
    PrintWriter out = Output.of(spec);
    List<Path> all;
    try (Stream<Path> files = Files.list(shelf.resolve("images"))) {
      all = files.filter(p -> p.toString().endsWith(".img")).sorted().toList();
    } catch (IOException e) {
      throw new ShedException("There is no shelf at " + shelf + ".", e);
    }
    long spoiled = 0;
    for (Path p : all) {
      String name = p.getFileName().toString().replace(".img", "");
      String is;
      try (FileMedium m = FileMedium.open(p)) {
        is = Digests.of(m, Progress.NONE, "").sha256();
      }
      if (is.equals(name)) continue;
      spoiled++;
      out.println(name + ": is not what was kept any more; its digest is " + is + " now.");
    }
    out.println(
        spoiled == 0
            ? "All " + Say.plural(all.size(), "image is", "images are") + " what was kept."
            : spoiled
                + " of "
                + all.size()
                + " are not. Bring a good copy in again; it takes its place.");
    return spoiled == 0 ? Shed.CLEAN : Shed.FINDINGS;
  }
}
