package lanternshed.core.cli;

import java.nio.file.Path;
import java.util.List;
import lanternshed.core.node.NodeNow;
import lanternshed.core.node.OwnNodes;
import lanternshed.core.node.ReaderProcess;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** The process that opens nodes for a server without rights on them. */
@Command(
    name = "reader",
    description =
        "Opens device nodes for a server that has no rights on them, until it is stopped.",
    mixinStandardHelpOptions = true)
final class ReaderCommand implements Runnable {
  @Spec private CommandSpec spec;

  @Option(
      names = "--socket",
      required = true,
      description = "where the server asks; SHED_READER there")
  private Path socket;

  @Option(
      names = "--for",
      defaultValue = "${sys:user.name}",
      description = "the user whose server may ask; otherwise who starts this")
  private String user;

  @Parameters(
      paramLabel = "NODE",
      arity = "1..*",
      description = "/dev/sdX, /dev/sdX:write, or the word removable")
  private List<String> nodes;

  @Override
  public void run() {
    OwnNodes own = new OwnNodes(nodes, System::nanoTime);
    try (ReaderProcess reader = new ReaderProcess(own, socket, user)) {
      Runtime.getRuntime().addShutdownHook(new Thread(reader::close));
      Output.of(spec).println("Reader process for " + user + " at " + socket + ": " + own);
      for (NodeNow n : own.all()) Output.of(spec).printf("  %-14s %s%n", n.node(), n.says());
      reader.run();
    }
  }
}
