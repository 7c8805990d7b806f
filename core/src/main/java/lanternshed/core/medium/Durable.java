package lanternshed.core.medium;

import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;

/**
 * Makes files last past a loss of power: content before name. A renamed file whose folder was not
 * forced may come back under its old name; one whose content was not may come back empty.
 */
public final class Durable {
  private Durable() {}

  /** Forces a file's content to disk. */
  public static void force(Path file) throws IOException {
    try (FileChannel c = FileChannel.open(file, StandardOpenOption.WRITE)) {
      c.force(true);
    }
  }

  /** Forces the names in a file's folder to disk. */
  public static void forceFolderOf(Path file) throws IOException {
    try (FileChannel c =
        FileChannel.open(file.toAbsolutePath().getParent(), StandardOpenOption.READ)) {
      c.force(true);
    }
  }
}
