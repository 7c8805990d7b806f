package lanternshed.core.cli;

import java.io.IOException;
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
import lanternshed.core.work.FileContent;
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
    return Optional.ofNullable(byDigest.get(sha256)).map(FileContent::new);
  }

  private static ShedException unreadable(Path p, Exception e) {
    return new ShedException(p + " does not read: " + e.getMessage() + ".", e);
  }
}
