package lanternshed.core.family;

import lanternshed.core.machine.Setup;
import lanternshed.core.measure.Geometry;

/**
 * Machines that read folders and files of a card which a desktop understands too: one volume behind
 * a PC's table. What they start lies in a ROM, a cartridge or a restore of their own.
 */
final class CardFolder implements Family {

  @Override
  public boolean byLbaAlone() {
    return true;
  }

  @Override
  public String key() {
    return "card";
  }

  @Override
  public String letter(int volume) {
    return "card";
  }

  @Override
  public Grid grid(Setup setup, Geometry geometry) {
    return Grid.ofSteps(Grid.FLASH_STEP, Grid.FLASH_STEP);
  }

  @Override
  public String letterReason() {
    return "The machine has no letter for it: its menu shows the folders of the card.";
  }
}
