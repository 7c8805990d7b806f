package lanternshed.server.roms;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.Semaphore;
import java.util.function.Function;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.rom.Chip;
import lanternshed.core.rom.HexText;
import lanternshed.server.shell.Shelf;
import org.springframework.stereotype.Component;

/**
 * Files of ROMs as they come in. Each is received to the end first, however slowly; then few at a
 * time are read, so that many senders never fill the memory.
 */
@Component
class RomFiles {
  /** A hexadecimal text of short lines has nearly four characters a byte. */
  private static final long MOST_FILE = 4L * Chip.MOST;

  private static final int AT_A_TIME = 2;

  private final Shelf shelf;
  private final Semaphore reading = new Semaphore(AT_A_TIME);

  RomFiles(Shelf shelf) {
    this.shelf = shelf;
  }

  /** What a stream holds, in whichever form it is, and what is done with it. */
  <T> T taken(InputStream in, Function<byte[], T> then) throws IOException {
    Path half = shelf.freshHalf();
    try {
      shelf.receive(in, half, MOST_FILE, "file");
      reading.acquireUninterruptibly();
      try {
        return then.apply(image(half));
      } finally {
        reading.release();
      }
    } finally {
      Files.deleteIfExists(half);
    }
  }

  private static byte[] image(Path file) throws IOException {
    byte[] b = HexText.read(Files.readAllBytes(file));
    if (b.length <= Chip.MOST) return b;
    throw new ShedException(
        "No ROM of these machines is longer than "
            + Say.size(Chip.MOST)
            + "; this file is longer. A disk image belongs to Images.");
  }
}
