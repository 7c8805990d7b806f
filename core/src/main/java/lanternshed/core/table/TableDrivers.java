package lanternshed.core.table;

import java.util.Optional;

/** Drivers of filesystems that a table keeps in blocks of its own, in the form of its maker. */
public interface TableDrivers {

  /** Drivers take a few dozen KiB; a longer file is none. */
  int MOST_BYTES = 512 << 10;

  /**
   * Looks at a file that is to be a driver.
   *
   * @param name as messages say it
   * @return the version that it says, "40.1"; "" where it says none
   * @throws lanternshed.core.measure.ShedException why the machine would not load it
   */
  String version(String name, byte[] file);

  /**
   * Adds a driver; one that was there for the same volumes gives way.
   *
   * @param kept drivers as {@link TableMaker#kept} gives them; empty for none
   * @param type the table's own code of the volumes that it serves
   * @throws lanternshed.core.measure.ShedException why the machine would not load it
   */
  byte[] with(byte[] kept, String type, String name, byte[] file);

  /**
   * The file of a driver as the machine loads it, filled up to whole longs.
   *
   * @param kept drivers as {@link TableMaker#kept} gives them
   * @param type the table's own code of the volumes that it serves
   * @return empty where there is none for them
   */
  Optional<byte[]> file(byte[] kept, String type);
}
