package lanternshed.core.kind;

import java.util.Optional;
import lanternshed.core.measure.Say;

/** Programs that say so: with relocations for a PC, in hunks or with one header for a 68000. */
final class ProgramLook implements Look {
  private static final int PAGE = 512;
  private static final int HEADER = 28;

  @Override
  public Optional<Known> look(Sample s) {
    if (s.head().length < HEADER) return Optional.empty();
    if (s.begins(0, "MZ")) return Optional.of(pages(s));
    if (s.word(0) == 0 && s.word(2) == 0x3F3) {
      return Optional.of(Known.of(Kind.PROGRAM, "in hunks, for a 68000"));
    }
    if (s.word(0) == 0x601A) return lengths(s);
    return Optional.empty();
  }

  private static Known pages(Sample s) {
    int last = s.little(2);
    long bytes = (long) s.little(4) * PAGE - (last == 0 ? 0 : PAGE - last);
    Known k = Known.of(Kind.PROGRAM, "for a PC, " + Say.bytes(bytes) + " by its header");
    return bytes <= s.length() ? k : k.faulty("cut short: " + Say.bytes(s.length()) + " are there");
  }

  private static Optional<Known> lengths(Sample s) {
    long text = (long) s.word(2) << 16 | s.word(4);
    long data = (long) s.word(6) << 16 | s.word(8);
    if (text + data + HEADER > s.length()) return Optional.empty();
    return Optional.of(
        Known.of(
            Kind.PROGRAM,
            "for a 68000, " + Say.bytes(text) + " of code and " + Say.bytes(data) + " of data"));
  }
}
