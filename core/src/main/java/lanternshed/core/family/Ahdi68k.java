package lanternshed.core.family;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import lanternshed.core.boot.BootPath;
import lanternshed.core.boot.ahdi.AhdiBoot;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.machine.Card;
import lanternshed.core.machine.Generation;
import lanternshed.core.machine.Peg;
import lanternshed.core.machine.Pegs;
import lanternshed.core.machine.Profile;
import lanternshed.core.machine.Setup;
import lanternshed.core.measure.Geometry;
import lanternshed.core.table.TableScheme;

/**
 * 68000 computers whose root sector divides a drive: 16-bit FATs with logical sectors that grow
 * with the volume, fourteen letters from C on, a driver that somebody has to bring.
 */
final class Ahdi68k implements Family {
  private static final BootPath BOOT = new AhdiBoot();

  /** The largest logical sector in sectors of 512 bytes: whatever a volume has, it is aligned. */
  private static final int STEP = 32;

  /** Entries of the root sector, and how many of them are volumes when there are more. */
  private static final int ENTRIES = 4;

  private static final int LETTERS = 14;

  /** The table of systems whose volumes only the machine reads; the others name theirs (P-23). */
  private static final String OWN = "AHDI";

  @Override
  public String key() {
    return "ahdi68k";
  }

  @Override
  public Pegs pegs(Setup setup, Card card) {
    long most = LETTERS * setup.system().volumeSectors();
    List<Profile.Limit> limits = new ArrayList<>(setup.profile().limits());
    limits.add(
        new Profile.Limit(
            "P-20",
            "Fourteen volumes",
            most,
            Peg.Scope.MEDIUM,
            "The machine has the letters C to P; each volume ends at its ROM's ceiling.",
            "a later system ROM"));
    Pegs p = Pegs.of(setup.firmware(), setup.system(), card, limits);
    long steps = Math.max(1, p.binding().sectors() / STEP);
    return p.on(new Geometry((int) Math.min(Integer.MAX_VALUE, steps), 1, STEP));
  }

  @Override
  public TableScheme table(Generation system) {
    return Catalogue.table(system.table().isEmpty() ? OWN : system.table());
  }

  @Override
  public boolean always16() {
    return true;
  }

  /** P-21: the smallest power of two for which the count fits what the ROM counts in. */
  @Override
  public int sectorBytes(Setup setup, long sectors) {
    int bytes = 512;
    while (sectors / (bytes / 512) > setup.system().mostLogicalSectors()) bytes *= 2;
    return bytes;
  }

  @Override
  public String letter(int volume) {
    return String.valueOf((char) ('C' + volume));
  }

  @Override
  public Grid grid(Setup setup, Geometry geometry) {
    return Grid.ofSteps(STEP, STEP).chained(ENTRIES, ENTRIES - 1);
  }

  @Override
  public String letterReason() {
    return "The driver gives letters from C on, in the order of the root sector and its chain.";
  }

  @Override
  public Optional<BootPath> boot() {
    return Optional.of(BOOT);
  }

  @Override
  public List<MachineStep> steps(Setup setup, Pegs pegs, List<Laid> volumes) {
    List<MachineStep> out = new ArrayList<>();
    if (!setup.firmware().obtain().isEmpty()) {
      out.add(new MachineStep(setup.firmware().obtain(), "", ""));
    }
    out.addAll(Family.named(setup));
    return out;
  }
}
