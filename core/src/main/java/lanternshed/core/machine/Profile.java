package lanternshed.core.machine;

import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Geometry;

/**
 * A family of machines as data. Profiles ship as JSON files; nothing in the program asks for a key
 * by name.
 *
 * @param matters what matters about it, in one line
 * @param firmwares the firmware variants; the first is the usual one
 * @param systems keys of {@link Generation}; the first is the usual one
 * @param inspection points to look at before power
 * @param fit what is done by hand at the machine when the card goes in
 * @param prove what its screen should show afterwards
 */
public record Profile(
    String key,
    String name,
    String matters,
    List<String> buses,
    List<Firmware> firmwares,
    List<String> systems,
    List<Step> inspection,
    List<Step> fit,
    List<Step> prove) {

  /**
   * One firmware variant.
   *
   * @param pegs rule ids of its ceilings
   * @param extendedCalls whether its disk calls take an LBA
   * @param userType number of the type whose values are typed by hand; 0 where there is none
   * @param typeTable rows of fixed types; empty where the drive is asked
   * @param obtain what has to be done to have this variant; "" for the usual one
   */
  public record Firmware(
      String key,
      String name,
      Translation translation,
      List<String> pegs,
      boolean extendedCalls,
      int userType,
      List<TypeRow> typeTable,
      String obtain) {}

  /** One row of a fixed table of drive types. */
  public record TypeRow(int number, int cylinders, int heads, int sectors) {
    public Geometry geometry() {
      return new Geometry(cylinders, heads, sectors);
    }

    public long total() {
      return geometry().total();
    }
  }

  /**
   * A step or point of a list.
   *
   * @param caution what can hurt; "" where nothing can
   * @param reading what is to be written down, "5 V rail"; "" where nothing is
   */
  public record Step(String text, String caution, String reading) {}

  public Profile {
    buses = List.copyOf(buses);
    firmwares = List.copyOf(firmwares);
    systems = List.copyOf(systems);
    inspection = List.copyOf(inspection);
    fit = List.copyOf(fit);
    prove = List.copyOf(prove);
  }

  public Optional<Firmware> firmware(String firmwareKey) {
    return firmwares.stream().filter(f -> f.key().equals(firmwareKey)).findFirst();
  }
}
