package lanternshed.core.table;

import lanternshed.core.measure.Chs;

/**
 * One volume as its table describes it.
 *
 * @param number 1–4 for the entries of the first sector, 5 and up for logical volumes
 * @param start first sector on the medium
 * @param length sectors
 * @param type the scheme's type code
 * @param typeName the type in words
 * @param active whether it is marked to boot
 * @param container whether it only holds other volumes
 * @param first start as the table says it in C/H/S
 * @param last end as the table says it in C/H/S
 * @param tableSector the sector in which this entry stands
 * @param name under which the machine mounts it, where the table says so; else ""
 */
public record TableEntry(
    int number,
    long start,
    long length,
    int type,
    String typeName,
    boolean active,
    boolean container,
    Chs first,
    Chs last,
    long tableSector,
    String name) {

  /** An entry of a scheme that knows no C/H/S. */
  public static TableEntry plain(
      int number, long start, long length, String typeName, boolean active, long tableSector) {
    Chs none = new Chs(0, 0, 0);
    return new TableEntry(
        number, start, length, 0, typeName, active, false, none, none, tableSector, "");
  }

  /** The same entry of a table that names its volumes. */
  public TableEntry named(String said) {
    return new TableEntry(
        number, start, length, type, typeName, active, container, first, last, tableSector, said);
  }

  /** First sector after the volume. */
  public long end() {
    return start + length;
  }

  public boolean logical() {
    return number > 4;
  }
}
