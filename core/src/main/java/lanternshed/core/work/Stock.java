package lanternshed.core.work;

import java.nio.charset.StandardCharsets;
import java.util.Optional;
import lanternshed.core.measure.ShedException;
import lanternshed.core.volume.Sink;

/** Where the contents come from that a recipe names by their digest. */
@FunctionalInterface
public interface Stock {
  /** Holds nothing. */
  Stock EMPTY = sha256 -> Optional.empty();

  /** One content: an image on the shelf, or a file that was brought in. */
  interface Content {
    long bytes();

    void copyTo(Sink sink);
  }

  /** The content of that SHA-256, in hexadecimal; empty where it is not here. */
  Optional<Content> find(String sha256);

  /**
   * Gives a file's bytes to {@code sink}. Whether they are those of its digest says the {@link
   * Proof}, which reads what was laid down.
   *
   * @throws ShedException where it is not here, or has another length
   */
  default void copy(Recipe.FileFrom f, Sink sink) {
    if (!f.text().isEmpty()) {
      byte[] b = f.text().getBytes(StandardCharsets.US_ASCII);
      sink.take(b, 0, b.length);
      return;
    }
    Content c = find(f.sha256()).orElseThrow(() -> missing(f));
    if (c.bytes() != f.bytes()) throw other(f);
    c.copyTo(sink);
  }

  private static ShedException missing(Recipe.FileFrom f) {
    return new ShedException(
        "The content of " + f.path() + " is not on the shelf any more; bring it in again.");
  }

  private static ShedException other(Recipe.FileFrom f) {
    return new ShedException(
        "What lies on the shelf for "
            + f.path()
            + " is not what its digest says; bring it in again.");
  }
}
