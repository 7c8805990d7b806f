package lanternshed.core.family;

import java.util.List;
import java.util.Optional;
import lanternshed.core.boot.BootPath;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.machine.Card;
import lanternshed.core.machine.Generation;
import lanternshed.core.machine.Pegs;
import lanternshed.core.machine.Setup;
import lanternshed.core.measure.Geometry;
import lanternshed.core.table.TableScheme;

/**
 * Machines whose emulator reads drives as files from a card that a desktop computer understands.
 * What limits the machine limits those files and not the card.
 */
final class Carrier implements Family {

  @Override
  public String key() {
    return "carrier";
  }

  @Override
  public Pegs pegs(Setup setup, Card card) {
    return Pegs.of(setup.firmware(), setup.system(), card, List.of());
  }

  @Override
  public TableScheme table(Generation system) {
    return Catalogue.table("MBR");
  }

  @Override
  public boolean carries() {
    return true;
  }

  @Override
  public String letter(int volume) {
    return "";
  }

  @Override
  public Grid grid(Setup setup, Geometry geometry) {
    return Grid.ofSteps(geometry, Grid.FLASH_STEP, Grid.FLASH_STEP);
  }

  @Override
  public String letterReason() {
    return "The emulator gives each file an id; the card itself has no letter.";
  }

  @Override
  public String startsFrom() {
    return "the drives on it";
  }

  @Override
  public Optional<BootPath> boot() {
    return Optional.empty();
  }

  @Override
  public List<MachineStep> steps(Setup setup, Pegs pegs, List<Laid> volumes) {
    return Family.named(setup);
  }
}
