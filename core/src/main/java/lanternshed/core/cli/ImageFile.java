package lanternshed.core.cli;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.container.Container;
import lanternshed.core.container.Unpacked;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.FileMedium;

/** An image that a person names: its sectors must lie in the file as they are. */
final class ImageFile {
  private ImageFile() {}

  /**
   * Opens it for reading; a file that only describes where the sectors are is followed to them.
   *
   * @throws ShedException for one that is packed, and where what is followed has another length
   */
  static FileMedium open(Path file) {
    // A device is sectors and nothing else, and a folder or nothing is told by the medium.
    if (!Files.isRegularFile(file)) return FileMedium.open(file);
    try {
      Container form = form(file);
      if (form == Catalogue.RAW) return FileMedium.open(file);
      Optional<Container.Beside> beside = beside(file, form);
      if (beside.isPresent()) return followed(file, beside.get());
      throw packed(file);
    } catch (IOException e) {
      throw new ShedException(file + " does not read: " + e.getMessage() + ".", e);
    }
  }

  private static Container form(Path file) throws IOException {
    try (InputStream in = Files.newInputStream(file)) {
      return Catalogue.UNPACKER.of(in.readNBytes(Container.HEAD));
    }
  }

  private static Optional<Container.Beside> beside(Path file, Container form) throws IOException {
    try (InputStream in = Files.newInputStream(file)) {
      return form.describes(in);
    }
  }

  private static FileMedium followed(Path file, Container.Beside beside) {
    FileMedium m = FileMedium.open(file.resolveSibling(beside.name()));
    if (m.sectors() == beside.sectors()) return m;
    m.close();
    throw new ShedException(
        file
            + " says that "
            + beside.name()
            + " has "
            + Say.sectors(beside.sectors())
            + "; it has "
            + Say.count(m.sectors())
            + ": it was cut, or is another. Name it itself to look at what is there.");
  }

  /** What is known and not read, or damaged, says so itself. */
  private static ShedException packed(Path file) throws IOException {
    try (InputStream in = Files.newInputStream(file);
        Unpacked u = Catalogue.UNPACKER.open(in)) {
      return new ShedException(
          file
              + " is not an image as it is but "
              + u.form().key()
              + ". Unpack it first, or bring it in on Media, where it is unpacked.");
    }
  }
}
