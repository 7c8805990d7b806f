package lanternshed.server.archive;

import java.time.DateTimeException;
import java.time.OffsetDateTime;
import java.util.Set;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import tools.jackson.databind.JsonNode;

/**
 * The values in the rows of an archive, held to the bounds that a person at the screen meets: a
 * column takes far more than any screen, list or sum was made for.
 */
final class RowValues {
  /** What is shown in one line. */
  private static final Set<String> LINES =
      Set.of(
          "name",
          "title",
          "machine",
          "author",
          "kind",
          "profile",
          "label",
          "operation",
          "serial",
          "origin",
          "model",
          "joint");

  private static final int MOST_OF_A_LINE = 400;
  private static final int MOST_OF_A_TEXT = 2_000_000;

  /** What a number in JSON says exactly in every program that reads it. */
  private static final long MOST = 1L << 53;

  private static final int FIRST_YEAR = 1970;
  private static final int LAST_YEAR = 2199;

  private RowValues() {}

  /**
   * @param type as the database calls it
   * @throws ShedException naming table and column where no shed has written that
   */
  static void check(String table, String column, String type, JsonNode value) {
    if (value == null || value.isNull()) return;
    String where = column.replace('_', ' ') + " of a " + table.replace('_', ' ');
    switch (type) {
      case "bigint", "integer", "smallint" -> {
        boolean sense = value.isIntegralNumber() && value.canConvertToLong();
        if (!sense || value.asLong() < -1 || value.asLong() > MOST) throw no(where, "number");
      }
      case "timestamp with time zone" -> time(where, value.asString(""));
      case "text", "character varying" -> text(where, column, value.asString(""));
      default -> {}
    }
  }

  private static void time(String where, String value) {
    int year;
    try {
      year = OffsetDateTime.parse(value).getYear();
    } catch (DateTimeException e) {
      throw no(where, "time");
    }
    if (year < FIRST_YEAR || year > LAST_YEAR) throw no(where, "time");
  }

  private static void text(String where, String column, String value) {
    int most = LINES.contains(column) ? MOST_OF_A_LINE : MOST_OF_A_TEXT;
    if (value.length() > most) {
      throw new ShedException(
          "The %s in this archive has %s letters, where a shed keeps %s. Nothing of it was taken in."
              .formatted(where, Say.count(value.length()), Say.count(most)));
    }
    for (int i = 0; i < value.length(); i++) {
      char c = value.charAt(i);
      boolean pair =
          Character.isHighSurrogate(c)
              && i + 1 < value.length()
              && Character.isLowSurrogate(value.charAt(i + 1));
      if (pair) i++;
      else if (c == 0 || Character.isSurrogate(c)) throw no(where, "text");
    }
  }

  private static ShedException no(String where, String what) {
    return new ShedException(
        "The %s in this archive is no %s that a shed writes. Nothing of it was taken in."
            .formatted(where, what));
  }
}
