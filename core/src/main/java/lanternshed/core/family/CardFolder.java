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
 * Machines that read folders and files of a card which a desktop understands too: one volume behind
 * a PC's table. What they start lies in a ROM, a cartridge or a restore of their own.
 */
final class CardFolder implements Family {

  @Override
  public String key() {
    return "card";
  }

  @Override
  public Pegs pegs(Setup setup, Card card) {
    return setup.pegs(card);
  }

  @Override
  public TableScheme table(Generation system) {
    return Catalogue.table("MBR");
  }

  @Override
  public boolean carries() {
    return false;
  }

  @Override
  public String letter(int volume) {
    return "card";
  }

  @Override
  public Grid grid(Setup setup, Geometry geometry) {
    return Grid.ofSteps(geometry, Grid.FLASH_STEP, Grid.FLASH_STEP);
  }

  @Override
  public String letterReason() {
    return "The machine has no letter for it: its menu shows the folders of the card.";
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
