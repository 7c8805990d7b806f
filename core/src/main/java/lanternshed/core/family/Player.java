package lanternshed.core.family;

import lanternshed.core.machine.Setup;
import lanternshed.core.measure.Geometry;

/**
 * Portable players: the cards of a board are one drive together, which a restore of the desktop's
 * program fills; the machine shows their sum less its own area.
 */
final class Player implements Family {

  @Override
  public boolean byLbaAlone() {
    return true;
  }

  @Override
  public String key() {
    return "player";
  }

  @Override
  public boolean spans() {
    return true;
  }

  /** One card can be written here; what lies across several only the machine puts there. */
  @Override
  public String madeBy(int cards) {
    return cards > 1
        ? "The restore of the desktop's program makes it, on the board with all its cards."
        : "";
  }

  @Override
  public String letter(int volume) {
    return "player";
  }

  @Override
  public Grid grid(Setup setup, Geometry geometry) {
    return Grid.ofSteps(Grid.FLASH_STEP, Grid.FLASH_STEP);
  }

  @Override
  public String letterReason() {
    return "The player has no letter for it; a desktop that it is connected to gives one.";
  }

  @Override
  public String startsFrom() {
    return "its own ROM, and what a restore wrote";
  }
}
