package lanternshed.core.work;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.Optional;
import lanternshed.core.measure.Sha256;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.table.TableDrivers;
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

    /** The same where it is a file of this computer; whoever asks closes it. */
    default Optional<FileMedium> file() {
      return Optional.empty();
    }

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
   * What becomes a file of a recipe. Whether its bytes are those of the digest says the {@link
   * Proof}, which reads what was laid down.
   *
   * @throws ShedException where it is not here, or has another length
   */
  default Content content(Recipe.FileFrom f) {
    if (!f.text().isEmpty()) return held(f.text().getBytes(StandardCharsets.US_ASCII));
    Content c = find(f.sha256()).orElseThrow(() -> missing(f.path()));
    if (c.bytes() != f.bytes()) throw other(f.path());
    return c;
  }

  /**
   * The bytes of a driver's file, which are few.
   *
   * @throws ShedException where it is not here, or is another
   */
  default byte[] driver(Recipe.DriverFrom d) {
    Content c = find(d.sha256()).orElseThrow(() -> missing(d.name()));
    byte[] b = c.head(TableDrivers.MOST_BYTES);
    if (c.bytes() != d.bytes() || !Sha256.of(b).equals(d.sha256())) throw other(d.name());
    return b;
  }

  private static ShedException missing(String name) {
    return new ShedException(
        "The content of " + name + " is not on the shelf any more; bring it in again.");
  }

  private static ShedException other(String name) {
    return new ShedException(
        "What lies on the shelf for " + name + " is not what its digest says; bring it in again.");
  }
}
