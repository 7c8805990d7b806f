package lanternshed.core.cli;

import java.io.IOException;
import java.io.PrintWriter;
import java.io.UncheckedIOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.FileSystemException;
import java.nio.file.NoSuchFileException;
import lanternshed.core.measure.ShedException;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.OptionSpec;

/** The command line. Exit 0: clean; 1: there are findings; 2: what was given cannot be used. */
@Command(
    name = "shed",
    description = "Reads, builds, rescues and compares disk images of old machines.",
    subcommands = {
      ImageCommand.class,
      LibraryCommand.class,
      KindCommand.class,
      PegsCommand.class,
      Bench.class,
      CheckCommand.class,
      ReaderCommand.class
    },
    mixinStandardHelpOptions = true)
public final class Shed implements Runnable {
  static final int CLEAN = 0;
  static final int FINDINGS = 1;
  static final int UNUSABLE = 2;

  /** What was looked at went well as far as it can be looked at here. */
  static final int UNDECIDED = 3;

  @Override
  public void run() {
    CommandLine.usage(this, System.out);
  }

  public static void main(String[] args) {
    System.exit(run(args, new PrintWriter(System.out, true), new PrintWriter(System.err, true)));
  }

  /** Runs one command with its output going to {@code out}; used by the tests as well. */
  static int run(String[] args, PrintWriter out, PrintWriter err) {
    CommandLine line = new CommandLine(new Shed());
    explained(line);
    line.setOut(out);
    line.setErr(err);
    line.setExecutionExceptionHandler(
        (e, c, r) -> {
          err.println(sentence(e));
          return UNUSABLE;
        });
    line.getCommandSpec().exitCodeOnInvalidInput(UNUSABLE);
    return line.execute(args);
  }

  /** One sentence whatever went wrong; of a fault of the program itself its place as well. */
  private static String sentence(Exception e) {
    if (e instanceof ShedException) return e.getMessage();
    IOException io = e instanceof UncheckedIOException u ? u.getCause() : null;
    if (e instanceof IOException plain) io = plain;
    if (io instanceof FileAlreadyExistsException f) {
      return "The file " + f.getFile() + " exists already and is not replaced.";
    }
    if (io instanceof NoSuchFileException f) {
      return "There is no file " + f.getFile() + ", or no folder for it.";
    }
    if (io instanceof FileSystemException f && f.getReason() != null) {
      return "The file " + f.getFile() + " cannot be used: " + f.getReason() + ".";
    }
    if (io != null) return "The disk does not do that: " + io.getMessage() + ".";
    StackTraceElement[] at = e.getStackTrace();
    return "The program itself failed here: "
        + e
        + (at.length > 0 ? ", at " + at[0] : "")
        + ". The image was not changed; please report this.";
  }

  /** Every command says by --help what it takes, whether its own text asks for that or not. */
  private static void explained(CommandLine line) {
    if (line.getCommandSpec().findOption("--help") == null) {
      // Behind the command's own: those of a method are told by their place.
      line.getCommandSpec()
          .addOption(
              OptionSpec.builder("-h", "--help")
                  .usageHelp(true)
                  .description("Show this help message and exit.")
                  .build());
    }
    line.getSubcommands().values().forEach(Shed::explained);
  }
}
