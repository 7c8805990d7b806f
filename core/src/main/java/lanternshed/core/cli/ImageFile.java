package lanternshed.core.cli;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.container.Container;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.FileMedium;

/** An image that a person names: its sectors must lie in the file as they are. */
final class ImageFile {
  private static final String RAW = "raw";

  private ImageFile() {}

  /**
   * Opens it for reading; a file that only describes where the sectors are is followed to them.
   *
   * @throws ShedException for one that is packed
   */
  static FileMedium open(Path file) {
    // A device is sectors and nothing else, and a folder or nothing is told by the medium.
    if (!Files.isRegularFile(file)) return FileMedium.open(file);
    try {
      Container form = form(file);
      if (form.key().equals(RAW)) return FileMedium.open(file);
      Optional<String> beside;
      try (InputStream in = Files.newInputStream(file)) {
        beside = form.describes(in);
      }
      if (beside.isPresent()) return FileMedium.open(file.resolveSibling(beside.get()));
      if (form.packer().isEmpty()) {
        try (InputStream in = Files.newInputStream(file)) {
          // What is known and not read says so itself.
          form.open(in);
        }
      }
      throw new ShedException(
          file
              + " is not an image as it is but "
              + form.key()
              + ". Unpack it first, or bring it in on Images, where it is unpacked.");
    } catch (IOException e) {
      throw new ShedException(file + " does not read: " + e.getMessage() + ".", e);
    }
  }

  private static Container form(Path file) throws IOException {
    try (InputStream in = Files.newInputStream(file)) {
      return Catalogue.UNPACKER.of(in.readNBytes(Container.HEAD));
    }
  }
}
