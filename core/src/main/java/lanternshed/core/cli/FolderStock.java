package lanternshed.core.cli;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.DigestInputStream;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import lanternshed.core.measure.Sha256;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.volume.Sink;
import lanternshed.core.work.Stock;

/** Contents found by their digest among the files of a folder; each is digested once. */
final class FolderStock implements Stock {
  private final Map<String, Path> byDigest = new HashMap<>();

  FolderStock(Path folder) {
    try (Stream<Path> all = Files.walk(folder)) {
      List<Path> files = all.filter(Files::isRegularFile).sorted().toList();
      for (Path p : files) byDigest.putIfAbsent(digest(p), p);
    } catch (IOException | UncheckedIOException e) {
      throw unreadable(folder, e);
    }
  }

  private static String digest(Path p) {
    try (DigestInputStream in = new DigestInputStream(Files.newInputStream(p), Sha256.fresh())) {
      in.transferTo(java.io.OutputStream.nullOutputStream());
      return HexFormat.of().formatHex(in.getMessageDigest().digest());
    } catch (IOException e) {
      throw unreadable(p, e);
    }
  }

  @Override
  public Optional<Content> find(String sha256) {
    return Optional.ofNullable(byDigest.get(sha256)).map(FolderStock::content);
  }

  private static Content content(Path p) {
    return new Content() {
      @Override
      public long bytes() {
        try {
          return Files.size(p);
        } catch (IOException e) {
          throw unreadable(p, e);
        }
      }

      @Override
      public Optional<FileMedium> file() {
        return Optional.of(FileMedium.open(p));
      }

      @Override
      public void copyTo(Sink sink, long most) {
        byte[] buffer = new byte[(int) Math.min(1 << 20, Math.max(1, most))];
        long left = most;
        try (InputStream in = Files.newInputStream(p)) {
          for (int n = in.read(buffer); n > 0 && left > 0; n = in.read(buffer)) {
            sink.take(buffer, 0, (int) Math.min(n, left));
            left -= n;
          }
        } catch (IOException e) {
          throw unreadable(p, e);
        }
      }
    };
  }

  private static ShedException unreadable(Path p, Exception e) {
    return new ShedException(p + " does not read: " + e.getMessage() + ".", e);
  }
}
