package lanternshed.core.cli;

import java.io.PrintWriter;
import java.util.List;
import java.util.concurrent.Callable;
import lanternshed.core.machine.Card;
import lanternshed.core.machine.Generation;
import lanternshed.core.machine.Peg;
import lanternshed.core.machine.Pegs;
import lanternshed.core.machine.Profile;
import lanternshed.core.machine.Profiles;
import lanternshed.core.machine.Setup;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.measure.Sum;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

/** All pegs between a card and a file of one machine, the binding one first. */
@Command(name = "pegs", description = "The ceilings of a machine for a card, sorted.")
final class PegsCommand implements Callable<Integer> {
  @Spec private CommandSpec spec;

  @Option(names = "--machine", required = true, description = "key of a machine profile")
  private String machine;

  @Option(names = "--card", required = true, description = "true sectors of the card")
  private long card;

  @Option(names = "--firmware", defaultValue = "", description = "key of a firmware variant")
  private String firmware;

  @Option(names = "--system", defaultValue = "", description = "key of a system's generation")
  private String system;

  @Option(names = "--json")
  private boolean json;

  record Answer(
      String machine,
      String firmware,
      String system,
      long card,
      long reach,
      long outOfReach,
      Geometry geometry,
      String binding,
      List<Row> pegs) {}

  record Row(String rule, String name, long sectors, String scope, Sum because) {}

  @Override
  public Integer call() {
    Setup setup = Setup.of(Profiles.get(machine), firmware, system);
    Profile p = setup.profile();
    Profile.Firmware f = setup.firmware();
    Generation g = setup.system();
    if (card < 1) throw new ShedException("A card has at least one sector, not " + card + ".");
    Card c = new Card("given", 0, card);
    Pegs pegs = setup.pegs(c);
    PrintWriter out = Output.of(spec);
    if (json) {
      List<Row> rows =
          pegs.pegs().stream()
              .map(x -> new Row(x.rule(), x.name(), x.sectors(), x.scope().name(), x.because()))
              .toList();
      Output.json(
          out,
          new Answer(
              machine,
              f.key(),
              g.key(),
              card,
              pegs.reach(),
              pegs.outOfReach(c),
              pegs.geometry(),
              pegs.binding().rule(),
              rows));
    } else {
      for (Peg x : pegs.pegs()) {
        out.printf(
            "%-5s %16s  %12s  %s%s%n",
            x.rule(),
            Say.count(x.sectors()),
            Say.mib(x.sectors() * 512),
            x.name(),
            x.equals(pegs.binding())
                ? "  ← binds"
                : x.scope() == Peg.Scope.VOLUME ? "  (each volume)" : "");
      }
      out.println(
          "Reach "
              + Say.sectors(pegs.reach())
              + ", "
              + Say.mib(pegs.reach() * 512)
              + "; firmware shows "
              + pegs.geometry()
              + ".");
    }
    return Shed.CLEAN;
  }
}
