package lanternshed.core.volume;

import java.util.List;
import lanternshed.core.medium.Medium;

/**
 * Looks at a medium sector by sector for volumes that no table names. One search is of one medium;
 * its memory does not depend on the medium's length.
 */
public interface Search {

  /**
   * A volume that was found.
   *
   * @param start first sector of 512 bytes
   * @param kind published name, for one whose files are not read; else ""
   * @param evidence how it was found, in words
   * @param firstSector what its first sector has to hold to be read; empty where it does, or where
   *     its files are not read
   */
  record Found(
      long start, long length, String kind, String label, String evidence, byte[] firstSector) {
    /** Whether its files can be read. */
    public boolean readable() {
      return kind.isEmpty();
    }
  }

  /** What begins at a sector whose bytes are given, or is told by it. */
  List<Found> see(Medium m, long lba, byte[] b, int at);

  /** What is known only when all was seen. */
  default List<Found> end() {
    return List.of();
  }
}
