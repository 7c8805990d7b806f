package lanternshed.core.cli;

import java.io.PrintWriter;
import java.nio.file.Path;
import lanternshed.core.boot.Rehearsal;
import lanternshed.core.family.Families;
import lanternshed.core.family.Family;
import lanternshed.core.machine.Card;
import lanternshed.core.machine.Profile;
import lanternshed.core.machine.Profiles;
import lanternshed.core.machine.Setup;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.survey.Whereabouts;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** Runs the start that is on an image as a machine would. */
@Command(
    name = "boot",
    description = "Runs the start of an image. Exit 0: its loader is entered; 1: it is not.",
    mixinStandardHelpOptions = true)
final class BootCommand implements java.util.concurrent.Callable<Integer> {
  @Spec private CommandSpec spec;

  @Parameters(paramLabel = "IMAGE")
  private Path image;

  @Option(names = "--machine", required = true, description = "key of a profile")
  private String machine;

  @Option(names = "--firmware", defaultValue = "", description = "key of a variant")
  private String firmware;

  @Option(names = "--system", defaultValue = "", description = "key of a system")
  private String system;

  @Option(names = "--json")
  private boolean json;

  @Override
  public Integer call() {
    Profile profile = Profiles.get(machine);
    Family family = Families.of(profile);
    Setup setup = Setup.of(profile, firmware, system);
    try (FileMedium m = FileMedium.open(image)) {
      Whereabouts places = Whereabouts.of(m);
      Rehearsal r =
          family
              .boot()
              .flatMap(
                  b ->
                      b.rehearse(
                          m, family.around(setup, new Card(m.name(), 0, m.sectors())), places::at))
              .orElseThrow(
                  () -> new ShedException("The start of " + profile.name() + " is not run here."));
      PrintWriter out = Output.of(spec);
      if (json) Output.json(out, r);
      else print(out, r);
      return r.starts() ? Shed.CLEAN : Shed.FINDINGS;
    }
  }

  private static void print(PrintWriter out, Rehearsal r) {
    out.println((r.starts() ? "✓ " : "✕ ") + r.sentence());
    for (Rehearsal.Read x : r.reads()) {
      out.printf(
          "%-12s sector %-10s %s%s%n",
          x.asked(), Say.count(x.lba()), x.what(), x.refused() ? "  refused" : "");
    }
    if (!r.screen().isEmpty()) out.println();
    r.screen().forEach(l -> out.println("| " + l));
  }
}
