package lanternshed.core.kind;

import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Say;
import lanternshed.core.names.TextChange;

/** All that recognise a kind; those that are surest of it come first. */
public final class Kinds {
  private static final List<Look> LOOKS =
      List.of(
          new WaveLook(),
          new PackedLook(),
          new TapeLook(),
          new DiskLook(),
          new ProgramLook(),
          new SegmentsLook(),
          new BasicLook(),
          Kinds::text,
          new LengthLook());

  private Kinds() {}

  /** What a file is; {@link Kind#OTHER} where no structure is known. */
  public static Known of(Sample s) {
    if (s.length() == 0) return Known.of(Kind.OTHER, "empty");
    return LOOKS.stream()
        .flatMap(l -> l.look(s).stream())
        .findFirst()
        .orElse(Known.of(Kind.OTHER, ""));
  }

  private static Optional<Known> text(Sample s) {
    if (!TextChange.isText(s.head())) return Optional.empty();
    int cr = 0;
    int lf = 0;
    int pairs = 0;
    for (int i = 0; i < s.head().length; i++) {
      if (s.at(i) == '\r') cr++;
      if (s.at(i) == '\n') lf++;
      if (s.at(i) == '\n' && i > 0 && s.at(i - 1) == '\r') pairs++;
    }
    int lines = cr + lf - pairs;
    if (lines == 0) return Optional.of(Known.of(Kind.TEXT, "one line"));
    String ends =
        pairs == lines ? "CR LF" : pairs > 0 || cr > 0 && lf > 0 ? "mixed" : lf > 0 ? "LF" : "CR";
    String about = s.whole() ? "" : "at least ";
    return Optional.of(
        Known.of(Kind.TEXT, about + Say.plural(lines, "line", "lines") + ", ends " + ends));
  }
}
