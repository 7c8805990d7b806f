package lanternshed.core.cli;

import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.function.Consumer;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;

/** A file that gets its name only when it is whole. */
final class HalfFile {

  private HalfFile() {}

  /**
   * Makes a file of the length of another: a small disk of sectors that are no 512 bytes ends where
   * that one ends, and not with the 512 bytes in which it ends.
   *
   * @throws ShedException where it exists, cannot be kept, or {@code fill} refuses; nothing stays
   */
  static void like(FileMedium from, Path to, Consumer<Medium> fill) {
    if (Files.exists(to)) throw new ShedException("The file " + to + " exists already.");
    Path half = to.resolveSibling(to.getFileName() + ".half");
    try {
      Files.deleteIfExists(half);
      try (FileMedium copy = FileMedium.create(half, from.sectors())) {
        fill.accept(copy);
      }
      if (from.length() < from.sectors() * 512) {
        try (FileChannel c = FileChannel.open(half, StandardOpenOption.WRITE)) {
          c.truncate(from.length());
        }
      }
      Files.move(half, to);
    } catch (IOException e) {
      throw new ShedException("The copy cannot be kept: " + e.getMessage() + ".", e);
    } finally {
      remove(half);
    }
  }

  private static void remove(Path half) {
    try {
      Files.deleteIfExists(half);
    } catch (IOException e) {
      throw new ShedException(half + " cannot be removed: " + e.getMessage() + ".", e);
    }
  }
}
