package lanternshed.core.table;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Place;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.Mending;

/**
 * One way to divide a medium: the face of each package of tables. Recognises its own table and
 * reads it; nonsense becomes findings.
 */
public interface TableScheme {
  /** Short name: "MBR". */
  String name();

  /** Reads the table; empty when this medium does not carry one of this scheme. */
  Optional<TableReading> read(Medium medium);

  /**
   * What is told of a table of this scheme that stands on the medium and does not count, such as
   * one of before; empty where there is none.
   */
  default Optional<Finding> left(Medium medium) {
    return Optional.empty();
  }

  /** Where its own sectors lie. */
  default List<Place> places(TableReading table, Medium medium) {
    return List.of(Place.of(name() + " table", "", 0, 1, 0));
  }

  /**
   * What only table and volumes together can say, such as a type code that does not fit.
   *
   * @param kinds published name of what lies in each entry, by number
   */
  default List<Finding> against(TableReading table, Map<Integer, String> kinds) {
    return List.of();
  }

  /** The geometries under which its entries were written; empty where it knows no C/H/S. */
  default List<GeometryHint> geometry(TableReading table) {
    return List.of();
  }

  /** Entries that say different places by C/H/S and by LBA under a geometry. */
  default List<Finding> under(TableReading table, Geometry geometry) {
    return List.of();
  }

  /**
   * Whether a volume's boot sector under this table speaks of a PC's geometry and hidden sectors.
   */
  default boolean ofPcs() {
    return false;
  }

  /** Whether there is no table, and one volume has the medium for itself. */
  default boolean alone() {
    return false;
  }

  /** Whether each of its entries is a whole medium by itself. */
  default boolean ofDisks() {
    return false;
  }

  /** The row of small disks that this file is (F-16); empty where it is none. */
  default Optional<DiskRow> row(Medium file) {
    return Optional.empty();
  }

  /** How the table of a copy is mended; empty where this scheme is not mended here. */
  default Optional<Mending> mending(Medium medium) {
    return Optional.empty();
  }

  /** Writes tables of this scheme; empty where none are written here. */
  default Optional<TableMaker> maker() {
    return Optional.empty();
  }
}
