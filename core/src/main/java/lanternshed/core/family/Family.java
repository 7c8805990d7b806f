package lanternshed.core.family;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import lanternshed.core.boot.Around;
import lanternshed.core.boot.BootPath;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.machine.Card;
import lanternshed.core.machine.Generation;
import lanternshed.core.machine.Pegs;
import lanternshed.core.machine.Setup;
import lanternshed.core.measure.Geometry;
import lanternshed.core.table.TableScheme;

/**
 * A kind of machine, picked by the key in a profile. Facts and choices only: laying out and judging
 * are the planner's.
 */
public interface Family {

  /** The key in the profile, "pc". */
  String key();

  /**
   * A step on the machine itself.
   *
   * @param text what to do
   * @param value exactly what to type; "" for nothing
   * @param answers what its screen should answer; "" for nothing that can be foretold
   */
  record MachineStep(String text, String value, String answers) {}

  /**
   * A volume as it will lie, for what is typed on the machine.
   *
   * @param letter the name under which the machine shows it
   * @param start first sector of 512 bytes
   * @param type the table's own code
   * @param units allocation units for files
   * @param drives that it carries as files
   */
  record Laid(
      String letter,
      String label,
      long start,
      long length,
      String kind,
      String type,
      int unitBytes,
      long units,
      boolean active,
      List<Drive> drives) {}

  /** A drive that a volume carries as a file. */
  record Drive(String name, long bytes) {}

  /** The pegs on the way from a card to a file. */
  default Pegs pegs(Setup setup, Card card) {
    return setup.pegs(card);
  }

  /** How its cards are divided for a system. */
  default TableScheme table(Generation system) {
    return Catalogue.table("MBR");
  }

  /** Whether nothing that reads its cards computes places from heads and sectors. */
  default boolean byLbaAlone() {
    return false;
  }

  /** Whether what starts it computes places from heads and sectors. */
  default boolean countsHeads() {
    return false;
  }

  /** Bytes of a logical sector of a volume of so many sectors. */
  default int sectorBytes(Setup setup, long sectors) {
    return 512;
  }

  /** Whether its FATs have 16 bits an entry whatever the number of clusters (P-26). */
  default boolean always16() {
    return false;
  }

  /** Whether the card carries files that are drives themselves, and the layout is one volume. */
  default boolean carries() {
    return false;
  }

  /** Whether several cards on its board are one drive together (V-5). */
  default boolean spans() {
    return false;
  }

  /**
   * Who makes what is on the cards where no image of them can be written, in a sentence.
   *
   * @param cards how many of them are one drive together
   * @return "" where an image is built here
   */
  default String madeBy(int cards) {
    return "";
  }

  /** Sectors of a native slot that the machine's own tool makes; 0 where there are none (P-31). */
  default long slotSectors() {
    return 0;
  }

  /** The kind of a volume of that length, by its published name. */
  default String kind(Setup setup, long sectors) {
    return setup.system().kind(sectors);
  }

  /** Whether more than eight letters and three can stand in its folders. */
  default boolean longNames() {
    return !always16();
  }

  /** A path of a desktop as it will stand: in capitals where the machine keeps no others. */
  default String onDisk(String path) {
    return longNames() ? path : path.toUpperCase(Locale.ROOT);
  }

  /** The name under which the machine shows its volumes, counted from 0. */
  String letter(int volume);

  /** Where its volumes may lie. */
  Grid grid(Setup setup, Geometry geometry);

  /** Why its volumes are named as they are, in a sentence. */
  String letterReason();

  /** What it starts from where the card starts nothing. */
  default String startsFrom() {
    return "its own ROM";
  }

  /** How it starts; empty where the card starts nothing. */
  default Optional<BootPath> boot() {
    return Optional.empty();
  }

  /** What the code of a start meets on this machine, with a card in it. */
  default Around around(Setup setup, Card card) {
    Pegs pegs = pegs(setup, card);
    boolean calls = setup.firmware().extendedCalls();
    return new Around(pegs.geometry(), pegs.reach(), calls, setup.level());
  }

  /** What is typed on the machine itself, in its own units and in order. */
  default List<MachineStep> steps(Setup setup, Pegs pegs, List<Laid> volumes) {
    return named(setup);
  }

  /** The steps that a profile names, as they stand in it. */
  static List<MachineStep> named(Setup setup) {
    return setup.profile().machineSteps().stream()
        .map(s -> new MachineStep(s.does(), s.types(), s.answers()))
        .toList();
  }
}
