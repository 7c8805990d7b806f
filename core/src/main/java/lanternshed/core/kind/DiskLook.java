package lanternshed.core.kind;

import java.util.Map;
import java.util.Optional;
import lanternshed.core.catalogue.BlankDisk;
import lanternshed.core.measure.Say;

/**
 * Disks as files: behind a header whose numbers must agree with the length, or bare, where the
 * length is one of published formats.
 */
final class DiskLook implements Look {
  private static final int HEADER = 16;
  private static final int SECTOR = 512;

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
    if (s.head().length >= HEADER && s.at(0) == 0x96 && s.at(1) == 0x02) {
      return Optional.of(paragraphs(s));
    }
    for (BlankDisk d : BlankDisk.ALL) {
      if (s.length() == d.sectors() * SECTOR) {
        return Optional.of(Known.of(Kind.DISK_IMAGE, "as long as " + d.title()));
      }
    }
    return Optional.ofNullable(BARE.get(s.length()))
        .map(b -> Say.count(s.length() / b) + " sectors of " + b + " B, by its length")
        .map(says -> Known.of(Kind.DISK_IMAGE, says));
  }

  /**
   * A header of 16 bytes: its mark, paragraphs of 16 bytes (low word, high byte at 6), and bytes of
   * a sector; the first three sectors have 128 bytes whatever the others have.
   */
  private static Known paragraphs(Sample s) {
    long bytes = 16L * (s.little(2) | (long) s.little(6) << 16);
    int sector = s.little(4);
    Known k =
        Known.of(
            Kind.DISK_IMAGE, "sectors of " + sector + " B behind a header of " + HEADER + " B");
    if (sector != 128 && sector != 256 && sector != 512) {
      return k.faulty("no sector has " + sector + " B");
    }
    return bytes == s.length() - HEADER
        ? k
        : k.faulty(
            "its header says "
                + Say.bytes(bytes)
                + ", "
                + Say.bytes(s.length() - HEADER)
                + " are there");
  }
}
