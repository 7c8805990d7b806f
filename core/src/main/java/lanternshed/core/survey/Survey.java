package lanternshed.core.survey;

import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import lanternshed.core.measure.Finding;
import lanternshed.core.table.TableReading;
import lanternshed.core.volume.Volume;

/**
 * What was found on a medium.
 *
 * @param sectors of 512 bytes
 * @param table the table; empty where the medium has none
 * @param volumes in the order of the table
 * @param geometry every source of heads and sectors (G-15)
 * @param findings of the medium itself and of its table; those of a volume stand with the volume
 */
public record Survey(
    long sectors,
    Optional<TableReading> table,
    List<Found> volumes,
    List<GeometrySource> geometry,
    List<Finding> findings) {

  /**
   * One volume.
   *
   * @param number as in the table; 0 where the medium has none
   * @param kind "FAT16", or what is known of a volume that is not read yet
   * @param readable whether its files could be read
   * @param active whether it is marked to boot
   * @param notWhole how many files and folders do not come whole
   * @param sizes length of each file, for slack by cluster size (F-3)
   * @param rootEntries entries taken in the root folder
   * @param systemFiles the files that stand first in the root with the system mark (F-11)
   * @param bootCode whether its boot sector has code
   * @param guesses as {@link Volume#guesses}
   */
  public record Found(
      int number,
      long start,
      long length,
      String kind,
      String label,
      boolean readable,
      boolean active,
      Volume.Use use,
      long files,
      long folders,
      long notWhole,
      long bytes,
      long[] sizes,
      int rootEntries,
      List<String> systemFiles,
      boolean bootCode,
      List<String> guesses,
      List<Finding> findings) {}

  /** One source of a geometry: what it says and where it was read. */
  public record GeometrySource(String source, int heads, int sectors, String evidence) {}

  /**
   * The survey of a file with so many bytes behind its last whole sector. Where all that is known
   * ends before them they are something that was appended; else the file was cut.
   */
  public Survey withTail(int bytes) {
    if (bytes == 0) return this;
    boolean cut =
        volumes.isEmpty()
            || stop().isPresent()
            || allFindings().stream().anyMatch(f -> f.rule().equals("P-2"));
    String where = "end of the file";
    Finding told =
        cut
            ? Finding.wrong(
                "U-1",
                where,
                "The file ends " + bytes + " B into a sector: it was cut, or is not a raw image.",
                "Compare its length with the source.")
            : Finding.note(
                "U-1",
                where,
                bytes + " B follow the last whole sector; every volume ends before them.");
    List<Finding> more = Stream.concat(findings.stream(), Stream.of(told)).toList();
    return new Survey(sectors, table, volumes, geometry, more);
  }

  /** All findings, the weightiest first. */
  public List<Finding> allFindings() {
    return Stream.concat(findings.stream(), volumes.stream().flatMap(v -> v.findings().stream()))
        .sorted(Comparator.comparing(Finding::weight))
        .toList();
  }

  /** The first finding that stops: what comes after it stands on nothing. */
  public Optional<Finding> stop() {
    return allFindings().stream().filter(f -> f.weight() == Finding.Weight.STOPS).findFirst();
  }

  /** The heads and sectors that the sources agree on; empty where they do not. */
  public Optional<GeometrySource> agreedGeometry() {
    long different = geometry.stream().map(g -> g.heads() * 1000 + g.sectors()).distinct().count();
    return different == 1 ? Optional.of(geometry.get(0)) : Optional.empty();
  }
}
