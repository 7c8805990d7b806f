package lanternshed.core.family;

import java.util.ArrayList;
import java.util.List;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.machine.Card;
import lanternshed.core.machine.Generation;
import lanternshed.core.machine.Pegs;
import lanternshed.core.machine.Setup;
import lanternshed.core.measure.Geometry;
import lanternshed.core.table.TableScheme;

/**
 * Machines whose card is one CP/M volume from its first sector on. They start from a floppy, which
 * hands over: nothing on the card starts anything.
 */
final class Cpm implements Family {
  /** A block of 4 KiB, the usual one of a card. */
  private static final int STEP = 8;

  @Override
  public String key() {
    return "cpm";
  }

  @Override
  public Pegs pegs(Setup setup, Card card) {
    Pegs p = setup.pegs(card);
    long steps = Math.max(1, p.binding().sectors() / STEP);
    return p.on(new Geometry((int) Math.min(Integer.MAX_VALUE, steps), 1, STEP));
  }

  @Override
  public TableScheme table(Generation system) {
    return Catalogue.table("none");
  }

  @Override
  public boolean longNames() {
    return false;
  }

  @Override
  public String letter(int volume) {
    return "B";
  }

  @Override
  public Grid grid(Setup setup, Geometry geometry) {
    return Grid.ofSteps(0, STEP);
  }

  @Override
  public String letterReason() {
    return "The floppy that starts the machine is A; after the hand-over the two change places.";
  }

  @Override
  public String startsFrom() {
    return "a floppy, which hands over";
  }

  @Override
  public List<MachineStep> steps(Setup setup, Pegs pegs, List<Laid> volumes) {
    List<MachineStep> out = new ArrayList<>(Family.named(setup));
    for (Laid v : volumes) {
      // Behind the first look at the card, before anything is copied.
      out.add(
          Math.min(2, out.size()),
          new MachineStep(
              "Ask for the free space of the card, which is empty yet",
              "STAT " + v.letter() + ":",
              v.units() * v.unitBytes() / 1024 + "k"));
    }
    return out;
  }
}
