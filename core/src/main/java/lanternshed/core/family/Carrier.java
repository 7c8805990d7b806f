package lanternshed.core.family;

import java.util.ArrayList;
import java.util.List;
import lanternshed.core.machine.Card;
import lanternshed.core.machine.Pegs;
import lanternshed.core.machine.Profile;
import lanternshed.core.machine.Setup;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Say;

/**
 * Machines whose emulator reads drives as files from a card that a desktop computer understands.
 * What limits the machine limits those files and not the card.
 */
final class Carrier implements Family {
  /** What such a unit knows; a sheet of more would be no help. */
  private static final int MOST_PARTITIONS = 254;

  @Override
  public String key() {
    return "carrier";
  }

  @Override
  public Pegs pegs(Setup setup, Card card) {
    return Pegs.of(setup.firmware(), setup.system(), card, List.of());
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
    return Grid.ofSteps(Grid.FLASH_STEP, Grid.FLASH_STEP);
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
  public List<MachineStep> steps(Setup setup, Pegs pegs, List<Laid> volumes) {
    List<MachineStep> out = new ArrayList<>(Family.named(setup));
    Profile.Carrier c = setup.profile().carrier();
    if (c.partition() > 0) {
      for (Laid v : volumes) for (Drive d : v.drives()) partitions(out, c, d);
    }
    return out;
  }

  /** P-33: a drive's blocks in partitions as large as the unit makes them, the rest in the last. */
  private static void partitions(List<MachineStep> out, Profile.Carrier c, Drive d) {
    long left = d.bytes() / c.blocks().get(0);
    int step = Math.max(1, c.step());
    for (int i = 0; left >= step && i < MOST_PARTITIONS; i++) {
      long blocks = Math.min(c.partition(), left) / step * step;
      out.add(
          new MachineStep(
              d.name() + ", partition " + i + ": its blocks, in steps of " + step,
              "" + blocks,
              Say.size(blocks * c.blocks().get(0)) + ", less what the unit keeps for itself"));
      left -= blocks;
    }
  }
}
