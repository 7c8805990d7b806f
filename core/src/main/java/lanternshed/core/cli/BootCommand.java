package lanternshed.core.cli;

import java.io.PrintWriter;
import java.nio.file.Path;
import lanternshed.core.boot.Around;
import lanternshed.core.boot.BootPath;
import lanternshed.core.boot.Keys;
import lanternshed.core.boot.Rehearsal;
import lanternshed.core.catalogue.Opener;
import lanternshed.core.cpu.Level;
import lanternshed.core.family.Families;
import lanternshed.core.family.Family;
import lanternshed.core.machine.Card;
import lanternshed.core.machine.Profile;
import lanternshed.core.machine.Profiles;
import lanternshed.core.machine.Setup;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.survey.Whereabouts;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** Runs the start that is on an image as a machine would. */
@Command(
    name = "boot",
    description =
        "Runs the start of an image. Exit 0: its loader is entered; 1: it is not; 3: it was followed"
            + " so far and not further.",
    mixinStandardHelpOptions = true)
final class BootCommand implements java.util.concurrent.Callable<Integer> {
  /** The disk calls pass the head in 8 bits and the sector in 6. */
  private static final int MOST_HEADS = 256;

  private static final int MOST_TRACK = 63;

  @Spec private CommandSpec spec;

  @Parameters(paramLabel = "IMAGE")
  private Path image;

  @Option(names = "--machine", required = true, description = "key of a profile")
  private String machine;

  @Option(names = "--firmware", defaultValue = "", description = "key of a variant")
  private String firmware;

  @Option(names = "--system", defaultValue = "", description = "key of a system")
  private String system;

  @Option(names = "--heads", defaultValue = "0", description = "as the firmware would show them")
  private int heads;

  @Option(names = "--sectors", defaultValue = "0", description = "a track, with --heads")
  private int sectors;

  @Option(names = "--processor", description = "one of ${COMPLETION-CANDIDATES}")
  private Level processor;

  @Option(names = "--active", defaultValue = "-1", description = "the one entry that is marked")
  private int active;

  @Option(
      names = "--keys",
      defaultValue = "",
      description = "typed meanwhile: \"F8 3 Enter\", a blank between each")
  private String keys;

  @Option(names = "--past", description = "go on behind the loader's entry")
  private boolean past;

  @Option(names = "--second", paramLabel = "IMAGE", description = "a second drive beside it")
  private Path second;

  @Option(names = "--json")
  private boolean json;

  @Override
  public Integer call() {
    Profile profile = Profiles.get(machine);
    Family family = Families.of(profile);
    Setup setup = Setup.of(profile, firmware, system);
    try (FileMedium m = ImageFile.open(image);
        Medium other = second == null ? new MemoryMedium(0) : ImageFile.open(second)) {
      Whereabouts places = Whereabouts.of(m);
      Around usual = family.around(setup, new Card(m.name(), 0, m.sectors()));
      Around around = changed(usual, m.sectors());
      if (second != null) {
        Around its = family.around(setup, new Card(other.name(), 0, other.sectors()));
        around = around.beside(new Around.Drive(other, its.shown(), its.reach()));
      }
      Around meets = around;
      Rehearsal r =
          family
              .boot()
              .flatMap(b -> b.rehearse(marked(b, m), meets, places::at))
              .orElseThrow(
                  () -> new ShedException("The start of " + profile.name() + " is not run here."));
      PrintWriter out = Output.of(spec);
      if (json) Output.json(out, r);
      else print(out, r);
      if (r.starts()) return Shed.CLEAN;
      return r.ending().fails() ? Shed.FINDINGS : Shed.UNDECIDED;
    }
  }

  /** An entry that holds something, which is started as if it alone had the mark. */
  private Medium marked(BootPath path, Medium m) {
    if (active < 0) return m;
    boolean holds =
        active == 0
            || Opener.open(m).table().stream()
                .flatMap(t -> t.reading().entries().stream())
                .anyMatch(e -> e.number() == active);
    if (!holds) {
      throw new ShedException(
          "Entry " + active + " of the table is empty; there is nothing in it to start.");
    }
    return path.marked(m, active);
  }

  /** What this machine shows, but for what was asked for. */
  private Around changed(Around usual, long total) {
    Around a = usual.typed(Keys.of(keys), past);
    if (heads == 0 != (sectors == 0)) {
      throw new ShedException("Heads and sectors a track are given together.");
    }
    if (heads < 0 || heads > MOST_HEADS || sectors < 0 || sectors > MOST_TRACK) {
      throw new ShedException(
          "A firmware shows 1 to 256 heads and 1 to 63 sectors a track, not "
              + heads
              + " and "
              + sectors
              + ".");
    }
    if (processor != null) a = a.on(processor);
    return heads > 0 && sectors > 0 ? a.under(Geometry.called(total, heads, sectors)) : a;
  }

  private static void print(PrintWriter out, Rehearsal r) {
    out.println((r.starts() ? "✓ " : r.ending().fails() ? "✕ " : "▲ ") + r.sentence());
    for (Rehearsal.Read x : r.reads()) {
      out.printf(
          "%-12s sector %-10s %s%s%n",
          x.asked(), Say.count(x.lba()), x.what(), x.refused() ? "  refused" : "");
    }
    if (!r.screen().isEmpty()) out.println();
    r.screen().forEach(l -> out.println("| " + l));
  }
}
