package lanternshed.server.jobs;

/** What a job starts from (W-10). */
public enum StartsFrom {
  /** The old drive or floppy. */
  MEDIUM,
  /** An image on the shelf: a starter, or one that was made elsewhere. */
  IMAGE,
  /** Files from a desktop. */
  FILES,
  /** Nothing at all: the machine gets its first drive. */
  NOTHING
}
