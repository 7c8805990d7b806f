package lanternshed.core.volume;

import java.util.Optional;

/**
 * What is known of a place before it is looked at.
 *
 * @param whole whether it is a whole medium without a table
 * @param scheme the table in which it stands, "MBR"; "" for none
 * @param type the table's type code; 0 for none
 * @param damaged whether a copy may be taken where the first sector is spoiled
 * @param laidOut how it was laid out, for kinds that write no mark of their own; empty where that
 *     is not known
 */
public record Hint(
    boolean whole, String scheme, int type, boolean damaged, Optional<Maker.Layout> laidOut) {

  public Hint(boolean whole, String scheme, int type, boolean damaged) {
    this(whole, scheme, type, damaged, Optional.empty());
  }

  /** A whole medium whose first sector must speak for itself. */
  public static final Hint FIRST_SECTOR = new Hint(true, "", 0, false);

  /** A whole medium without a table. */
  public static final Hint NO_TABLE = new Hint(true, "", 0, true);

  /** A part of which only the length is known. */
  public static final Hint PART = new Hint(false, "", 0, true);
}
