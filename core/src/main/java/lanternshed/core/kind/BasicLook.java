package lanternshed.core.kind;

import java.util.Optional;
import lanternshed.core.measure.Say;

/** BASIC as it lies in memory: lines that lead to one another. */
final class BasicLook implements Look {
  @Override
  public Optional<Known> look(Sample s) {
    return BasicLines.of(s)
        .map(
            b ->
                Known.of(
                    Kind.BASIC,
                    Say.plural(b.lines().size(), "line", "lines")
                        + ", "
                        + b.lines().get(0).number()
                        + " to "
                        + b.lines().get(b.lines().size() - 1).number()));
  }
}
