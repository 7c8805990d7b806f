package lanternshed.core.kind;

import java.util.Optional;

/** Archives: no loader of an old machine opens them, and what is in them is not seen. */
final class PackedLook implements Look {
  private static final String[][] MARKS = {
    {"PK\3\4", "zip"}, {"\u001F\u008B", "gzip"}, {"7z\u00BC\u00AF", "7z"}, {"\u00FD7zXZ", "xz"}
  };

  @Override
  public Optional<Known> look(Sample s) {
    for (String[] m : MARKS) if (s.begins(0, m[0])) return Optional.of(known(m[1]));
    boolean lh = s.begins(2, "-lh") && s.head().length > 6 && s.at(6) == '-';
    return lh ? Optional.of(known("lh")) : Optional.empty();
  }

  private static Known known(String form) {
    return Known.of(Kind.PACKED, "as " + form);
  }
}
