package lanternshed.core.boot.pc;

import java.util.Optional;
import java.util.stream.Stream;

/**
 * How a boot sector hands over to a system's loader (B-9): where it is loaded, how much of it, and
 * where it is entered.
 */
enum Contract {
  /** DOS to 6: the first file of the root, contiguous from cluster 2. */
  TWO_FILES("two files", 0x70, 0, 0, 0, 0),
  /** The 95 generation: one file, anywhere; four sectors of it. */
  ONE_FILE("one file", 0x70, 0x200, 4, 0, 4),
  /** Free DOS kernels: one file, anywhere, whole. The code makes room for it. */
  WHOLE("whole file", 0x60, 0, 0, 0x1FE0, 300),
  /**
   * The NT generation: a loader, anywhere, whole. It lies where the code moves to for the others.
   */
  BY_NAME("loader by name", 0x2000, 0, 0, 0x7840, 760);

  private final String key;
  private final int segment;
  private final int offset;
  private final int sectors;
  private final int codeSegment;
  private final int mostSectors;

  Contract(String key, int segment, int offset, int sectors, int codeSegment, int mostSectors) {
    this.key = key;
    this.segment = segment;
    this.offset = offset;
    this.sectors = sectors;
    this.codeSegment = codeSegment;
    this.mostSectors = mostSectors;
  }

  /** By the name that a generation of a system has for it; "" is what old recipes meant. */
  static Optional<Contract> of(String key) {
    if (key.isEmpty()) return Optional.of(TWO_FILES);
    return Stream.of(values()).filter(c -> c.key.equals(key)).findFirst();
  }

  /** Segment at whose start the file's first byte is loaded. */
  int segment() {
    return segment;
  }

  /** Offset in it, and in the file, of what is entered. */
  int offset() {
    return offset;
  }

  /** Sectors of the file that are loaded; 0 for all of it. */
  int sectors() {
    return sectors;
  }

  /** Segment in which the boot sector runs, at 7C00, out of the way of what it loads. */
  int codeSegment() {
    return codeSegment;
  }

  /** More would run over the boot sector itself. */
  int mostSectors() {
    return mostSectors;
  }
}
