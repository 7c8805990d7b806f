package lanternshed.core.kind;

import java.util.Optional;
import lanternshed.core.measure.Say;

/** Disks as files behind a header whose numbers must agree with the length. */
final class DiskLook implements Look {
  private static final int HEADER = 16;

  @Override
  public Optional<Known> look(Sample s) {
    if (s.head().length >= HEADER && s.at(0) == 0x96 && s.at(1) == 0x02) {
      return Optional.of(paragraphs(s));
    }
    return Optional.empty();
  }

  /**
   * A header of 16 bytes: its mark, paragraphs of 16 bytes (low word, high byte at 6), and bytes of
   * a sector.
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
