package lanternshed.server.work;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import lanternshed.core.medium.Medium;
import lanternshed.core.volume.Sink;
import lanternshed.core.work.FileContent;
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

  /** Read through its digests, so that a spoiled file is named where it is spoiled. */
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
