package lanternshed.core.work;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.volume.Sink;

/** A content that is a file of this computer: read, or left to the kernel to copy. */
public record FileContent(Path place) implements Stock.Content {
  private static final int BLOCK = 1 << 20;

  @Override
  public long bytes() {
    try {
      return Files.size(place);
    } catch (IOException e) {
      throw unreadable(e);
    }
  }

  @Override
  public Optional<FileMedium> file() {
    return Optional.of(FileMedium.open(place));
  }

  @Override
  public void copyTo(Sink sink, long most) {
    byte[] b = new byte[(int) Math.max(1, Math.min(BLOCK, Math.min(most, bytes())))];
    long left = most;
    try (InputStream in = Files.newInputStream(place)) {
      for (int n = in.read(b); n > 0 && left > 0; n = in.read(b)) {
        sink.take(b, 0, (int) Math.min(n, left));
        left -= n;
      }
    } catch (IOException e) {
      throw unreadable(e);
    }
  }

  private ShedException unreadable(IOException e) {
    return new ShedException(
        "The file " + place.getFileName() + " does not read: " + e.getMessage() + ".", e);
  }
}
