package lanternshed.core.kind;

import java.util.Map;
import java.util.Optional;
import lanternshed.core.catalogue.BlankDisk;
import lanternshed.core.measure.Say;

/** What only a length tells: bare disks of formats that were sold, and ROMs. It is said as that. */
final class LengthLook implements Look {
  private static final int SECTOR = 512;
  private static final int SMALLEST_ROM = 2 << 10;
  private static final int LARGEST_ROM = 64 << 10;

  /** Bare images of formats that are not made here: bytes, and bytes of a sector. */
  private static final Map<Long, Integer> BARE =
      Map.of(
          133_120L,
          128,
          143_360L,
          256,
          161_280L,
          256,
          196_608L,
          256,
          322_560L,
          256,
          655_360L,
          256,
          2_949_120L,
          512);

  @Override
  public Optional<Known> look(Sample s) {
    for (BlankDisk d : BlankDisk.ALL) {
      if (s.length() == d.sectors() * SECTOR) {
        return Optional.of(Known.of(Kind.DISK_IMAGE, "as long as " + d.title()));
      }
    }
    return Optional.ofNullable(BARE.get(s.length()))
        .map(b -> Say.count(s.length() / b) + " sectors of " + b + " B, by its length")
        .map(says -> Known.of(Kind.DISK_IMAGE, says))
        .or(() -> rom(s));
  }

  private static Optional<Known> rom(Sample s) {
    boolean power = Long.bitCount(s.length()) == 1;
    if (!power || s.length() < SMALLEST_ROM || s.length() > LARGEST_ROM) return Optional.empty();
    return Optional.of(Known.of(Kind.ROM, "as long as a ROM of " + (s.length() >> 10) + " KiB"));
  }
}
