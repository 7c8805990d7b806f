package lanternshed.server.images;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.function.BiConsumer;
import lanternshed.core.medium.Copy;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.work.Digests;
import lanternshed.core.work.Progress;
import lanternshed.server.errands.Errands;
import lanternshed.server.shell.Shelf;
import org.springframework.stereotype.Component;

/** Makes a changed copy of an image; the image itself stays as it is. */
@Component
class Copies {
  private final ImageService images;
  private final Shelf shelf;

  Copies(ImageService images, Shelf shelf) {
    this.images = images;
    this.shelf = shelf;
  }

  /**
   * Copies and changes.
   *
   * @param suffix of its name: "mended copy"
   * @param origin what it comes from, in words
   * @param change from the image, on the copy
   */
  Errands.Made make(
      ImageEntity image,
      String suffix,
      String origin,
      BiConsumer<Medium, Medium> change,
      Progress progress)
      throws IOException {
    shelf.needRoom(image.sectors() * 512);
    Path half = shelf.freshHalf();
    try {
      Digests digests;
      try (Medium from = images.open(image);
          FileMedium to = FileMedium.create(half, image.sectors())) {
        Copy.all(from, to, (n, all) -> progress.at("copying", n, all));
        change.accept(from, to);
        to.flush();
        digests = Digests.of(to, progress, "digesting");
      }
      String name = image.name() + ", " + suffix;
      return new Errands.Made(
          images
              .keep(half, name, digests, image.sectors(), origin, image.lost(), image.hits())
              .id());
    } finally {
      Files.deleteIfExists(half);
    }
  }
}
