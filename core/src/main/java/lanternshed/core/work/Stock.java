package lanternshed.core.work;

import java.io.ByteArrayOutputStream;
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

    /** Gives its first bytes, all of them where there are not more than {@code most}. */
    void copyTo(Sink sink, long most);

    default void copyTo(Sink sink) {
      copyTo(sink, Long.MAX_VALUE);
    }

    /** Its first bytes, so many at most. */
    default byte[] head(int most) {
      ByteArrayOutputStream b = new ByteArrayOutputStream((int) Math.min(most, bytes()));
      copyTo(b::write, most);
      return b.toByteArray();
    }
  }

  /** What lies in memory already. */
  static Content held(byte[] b) {
    return new Content() {
      @Override
      public long bytes() {
        return b.length;
      }

      @Override
      public void copyTo(Sink sink, long most) {
        sink.take(b, 0, (int) Math.min(most, b.length));
      }
    };
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
