package lanternshed.core.survey;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import lanternshed.core.catalogue.Opener;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.table.TableEntry;
import lanternshed.core.volume.Hint;
import lanternshed.core.volume.Recognised;
import lanternshed.core.volume.Volume;

/** Opens the volumes whose files are read, whatever table they stand in. */
public final class Volumes {

  /**
   * A volume that was opened.
   *
   * @param number as in the table; 0 where there is none
   * @param start its first sector
   */
  public record Opened(int number, long start, Volume volume) {}

  private Volumes() {}

  /** The volume that fills this slice; empty where its files are not read. */
  public static Optional<Volume> recognise(Medium slice) {
    return Opener.recognise(slice, Hint.PART).flatMap(Recognised::volume);
  }

  /** The part of a medium that an entry names, as far as the medium goes. */
  public static Medium slice(Medium m, long start, long length) {
    return Opener.slice(m, start, length);
  }

  /** Every volume whose files are read, in the order of the table. */
  public static List<Opened> all(Medium m) {
    return readable(m, e -> true);
  }

  private static List<Opened> readable(Medium m, Predicate<TableEntry> wanted) {
    List<Opened> out = new ArrayList<>();
    for (Opener.Part p : Opener.open(m, wanted).parts()) {
      p.volume().ifPresent(v -> out.add(new Opened(p.entry().number(), p.entry().start(), v)));
    }
    return out;
  }

  /**
   * One volume of a medium.
   *
   * @param number as in the table; 0 for the first that can be read
   * @throws ShedException where there is none
   */
  public static Opened find(Medium m, int number) {
    if (number < 0) throw new ShedException("There is no volume " + Say.count(number) + ".");
    return number > 0
        ? at(m, number)
        : first(all(m), "This image holds no volume that can be read.");
  }

  /**
   * The volume of exactly that number.
   *
   * @param number as in the table; 0 where there is none
   * @throws ShedException where it is not there
   */
  public static Opened at(Medium m, int number) {
    List<Opened> found = readable(m, e -> e.number() == number);
    boolean meant = !found.isEmpty() && found.get(0).number() == number;
    String why = "Volume " + number + " is not there or cannot be read.";
    return first(meant ? found : List.of(), why);
  }

  private static Opened first(List<Opened> found, String why) {
    return found.stream().findFirst().orElseThrow(() -> new ShedException(why));
  }
}
