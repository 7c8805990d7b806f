package lanternshed.server.work;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.volume.Sink;
import lanternshed.core.work.FileContent;
import lanternshed.core.work.Progress;
import lanternshed.core.work.Recipe;
import lanternshed.core.work.Stock;
import lanternshed.server.images.ImageEntity;
import lanternshed.server.images.ImageService;
import lanternshed.server.shell.Shelf;
import org.springframework.stereotype.Component;

/** What the shelf holds under a digest: an image, or a file that was brought in. */
@Component
class ShelfStock implements Stock {
  private static final int SECTORS = 2048;
  private final ImageService images;
  private final Shelf shelf;

  ShelfStock(ImageService images, Shelf shelf) {
    this.images = images;
    this.shelf = shelf;
  }

  @Override
  public Optional<Content> find(String sha256) {
    Path brought = shelf.brought(sha256);
    if (Files.exists(brought)) return Optional.of(new FileContent(brought));
    return images.find(sha256).map(Image::new);
  }

  /**
   * What is spoiled of the images that a recipe names, in a sentence; empty where nothing is. The
   * kernel copies them unseen, so this is asked when the proof found other bytes.
   */
  Optional<String> spoiled(Recipe recipe, Progress progress) {
    return recipe.volumes().stream()
        .flatMap(p -> p.files().stream())
        .flatMap(f -> images.find(f.sha256()).stream())
        .flatMap(i -> images.spoiled(i, progress).stream().map(why -> spoiled(i, why)))
        .findFirst();
  }

  private static String spoiled(ImageEntity i, String why) {
    return "On the shelf \""
        + i.name()
        + "\" is spoiled: "
        + why
        + ". Bring a good copy in again; it takes its place.";
  }

  private final class Image implements Content {
    private final ImageEntity image;

    Image(ImageEntity image) {
      this.image = image;
    }

    @Override
    public long bytes() {
      return image.sectors() * 512;
    }

    @Override
    public Optional<FileMedium> file() {
      return Optional.of(images.file(image));
    }

    @Override
    public void copyTo(Sink sink, long most) {
      byte[] b = new byte[SECTORS * 512];
      try (Medium m = images.open(image)) {
        for (long at = 0; at < m.sectors() && at * 512 < most; at += SECTORS) {
          int n = (int) Math.min(SECTORS, m.sectors() - at);
          m.read(at, n, b, 0);
          sink.take(b, 0, (int) Math.min(n * 512L, most - at * 512));
        }
      }
    }
  }
}
