package lanternshed.core.family;

import java.util.List;
import java.util.Optional;
import lanternshed.core.boot.BootPath;
import lanternshed.core.machine.Card;
import lanternshed.core.machine.Pegs;
import lanternshed.core.machine.Setup;
import lanternshed.core.table.TableScheme;

/**
 * A kind of machine, picked by the key in a profile. Facts and choices only: laying out and judging
 * are the planner's.
 */
public interface Family {

  /** The key in the profile, "pc". */
  String key();

  /** A step on the machine itself: what to do, and the exact value to type. */
  record MachineStep(String text, String value) {}

  /** The pegs on the way from a card to a file. */
  Pegs pegs(Setup setup, Card card);

  /** How its cards are divided. */
  TableScheme table();

  /** Whether the card carries files that are drives themselves, and the layout is one volume. */
  boolean carries();

  /** The kind of a volume of that length, by its published name. */
  default String kind(Setup setup, long sectors) {
    return setup.system().kind(sectors);
  }

  /** The name under which the machine shows its volumes, counted from 0. */
  String letter(int volume);

  /** Whether volumes end on cylinders. */
  boolean endsOnCylinders();

  /** How it starts; empty where the card starts nothing. */
  Optional<BootPath> boot();

  /** What is typed on the machine itself. */
  List<MachineStep> steps(Setup setup, Pegs pegs);
}
