package lanternshed.core.survey;

import java.util.Locale;
import java.util.Set;
import java.util.regex.Pattern;

/**
 * Names that usually mean somebody's letters, mail, addresses or money: a reminder before a medium
 * leaves the house, never a verdict.
 */
public final class PrivateThings {
  private static final Set<String> KINDS =
      Set.of(
          "DOC", "WRI", "WPS", "TXT", "RTF", "MBX", "PST", "DBX", "EML", "ADR", "DBF", "XLS", "WK1",
          "QDF", "MNY");

  /** The short ones only as words of their own: SYNTAX is nobody's tax. */
  private static final Pattern WORDS =
      Pattern.compile(
          "LETTER|MAIL|ADDRESS|ADRESS|DIARY|BANK|PRIVAT|PHOTO|(?<![A-Z])(TAX|CV)(?![A-Z])");

  private PrivateThings() {}

  public static boolean isLikely(String path) {
    String p = path.toUpperCase(Locale.ROOT);
    return KINDS.contains(p.substring(p.lastIndexOf('.') + 1)) || WORDS.matcher(p).find();
  }
}
