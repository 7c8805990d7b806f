package lanternshed.server.shell;

/** Text of people in a table that a spreadsheet opens. */
public final class CsvText {
  private CsvText() {}

  /**
   * A spreadsheet takes a cell that begins like a formula for one and runs it; a leading apostrophe
   * makes it text (the usual advice on CSV injection).
   */
  public static String safe(String s) {
    return !s.isEmpty() && "=+-@\t\r".indexOf(s.charAt(0)) >= 0 ? "'" + s : s;
  }
}
