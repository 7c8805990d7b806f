package lanternshed.core.survey;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.table.TableEntry;
import lanternshed.core.table.TableReading;
import lanternshed.core.volume.Volume;
import lanternshed.core.volume.exfat.ExfatVolume;
import lanternshed.core.volume.fat.FatVolume;

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
    Optional<FatVolume> fat = FatVolume.recogniseDamaged(slice);
    return fat.isPresent()
        ? Optional.of(fat.get())
        : ExfatVolume.recognise(slice).map(Volume.class::cast);
  }

  /** The part of a medium that an entry names, as far as the medium goes. */
  public static Medium slice(Medium m, long start, long length) {
    return new SliceMedium(m, start, Math.min(length, m.sectors() - start));
  }

  /** Every volume whose files are read, in the order of the table. */
  public static List<Opened> all(Medium m) {
    List<TableReading> tables = Surveyor.tables(m);
    if (tables.isEmpty() || Surveyor.bareVolume(m).isPresent())
      return recognise(m).map(v -> new Opened(0, 0, v)).stream().toList();
    List<Opened> out = new ArrayList<>();
    for (TableEntry e : tables.get(0).volumes()) {
      if (e.start() >= m.sectors()) continue;
      recognise(slice(m, e.start(), e.length()))
          .ifPresent(v -> out.add(new Opened(e.number(), e.start(), v)));
    }
    return out;
  }

  /**
   * One volume of a medium.
   *
   * @param number as in the table; below 1 for the first that can be read
   * @throws ShedException where there is none
   */
  public static Opened find(Medium m, int number) {
    return all(m).stream()
        .filter(o -> number <= 0 || o.number() == number)
        .findFirst()
        .orElseThrow(
            () ->
                new ShedException(
                    number > 0
                        ? "Volume " + number + " is not there or cannot be read."
                        : "This image holds no volume that can be read."));
  }
}
