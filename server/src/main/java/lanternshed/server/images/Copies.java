package lanternshed.server.images;

import java.util.function.BiConsumer;
import lanternshed.core.medium.Copy;
import lanternshed.core.medium.Medium;
import lanternshed.core.work.Progress;
import lanternshed.server.errands.Errands;
import org.springframework.stereotype.Component;

/** Makes a changed copy of an image; the image itself stays as it is. */
@Component
class Copies {
  private final ImageService images;

  Copies(ImageService images) {
    this.images = images;
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
      Progress progress) {
    String name = image.name() + ", " + suffix;
    ImageService.Source source =
        new ImageService.Source(origin, image.lost(), image.hits(), image.layout());
    try (Medium from = images.open(image)) {
      return new Errands.Made(
          images
              .make(
                  name,
                  image.sectors(),
                  source,
                  to -> {
                    Copy.all(from, to, (n, all) -> progress.at("copying", n, all));
                    change.accept(from, to);
                  },
                  progress)
              .id());
    }
  }
}
