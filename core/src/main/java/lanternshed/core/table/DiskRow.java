package lanternshed.core.table;

import lanternshed.core.medium.Medium;

/**
 * F-16: one file that holds a row of small disks of equal length behind a header with a title and a
 * lock flag of each.
 */
public interface DiskRow {

  /** What the header says of a place in the row. */
  enum State {
    /** A disk that may be written. */
    OPEN,
    /** A disk that the machine must not write. */
    LOCKED,
    /** A place whose disk was never formatted. */
    BLANK,
    /** No place at all. */
    NONE;

    /** Whether a disk is there. */
    public boolean disk() {
      return this == OPEN || this == LOCKED;
    }
  }

  /** A place of the row. */
  record Slot(String title, State state) {}

  /** Places in the row that lie in the file; the machine counts them from 0. */
  int count(Medium file);

  /** Sectors of 512 bytes of a disk. */
  long diskSectors();

  /** Published name of the filesystem of its disks. */
  String holds();

  /** First sector of a place. */
  long start(int number);

  Slot slot(Medium file, int number);

  /** Writes a place's title and flag; nothing else of the file changes. */
  void enter(Medium file, int number, Slot slot);

  /** Says of every place behind the end of the file that it is none. */
  void end(Medium file);

  /** A title as it can stand in the header. */
  String title(String wanted);

  /** Places that a file of this form may have. */
  int most();

  /** Sectors of a file with so many places. */
  long sectors(int places);
}
