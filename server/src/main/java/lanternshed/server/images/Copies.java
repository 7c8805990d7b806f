package lanternshed.server.images;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import lanternshed.core.medium.Copy;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.survey.Holes;
import lanternshed.core.work.Digests;
import lanternshed.core.work.Progress;
import lanternshed.server.errands.Errands;
import lanternshed.server.shell.Shelf;
import org.springframework.stereotype.Component;

/** Makes new images, a changed copy of one among them; what is on the shelf stays as it is. */
@Component
public class Copies {
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
    New made =
        new New(image.name() + ", " + suffix, image.sectors(), origin, image.lost(), image.hits());
    return fill(
        made,
        to -> {
          try (Medium from = images.open(image)) {
            Copy.all(from, to, (n, all) -> progress.at("copying", n, all));
            change.accept(from, to);
          }
        },
        progress);
  }

  /** What a new image is called, how long it is, and what is known of its source. */
  public record New(String name, long sectors, String origin, long lost, List<Holes.Hit> hits) {}

  /** A new image, all zero until it is filled. */
  public Errands.Made fill(New made, Consumer<Medium> fill, Progress progress) throws IOException {
    shelf.needRoom(made.sectors() * 512);
    Path half = shelf.freshHalf();
    try {
      Digests digests;
      try (FileMedium to = FileMedium.create(half, made.sectors())) {
        fill.accept(to);
        to.flush();
        digests = Digests.of(to, progress, "digesting");
      }
      return new Errands.Made(
          images
              .keep(
                  half,
                  made.name(),
                  digests,
                  made.sectors(),
                  made.origin(),
                  made.lost(),
                  made.hits())
              .id());
    } finally {
      Files.deleteIfExists(half);
    }
  }
}
