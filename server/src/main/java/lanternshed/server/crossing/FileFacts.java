package lanternshed.server.crossing;

import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import lanternshed.core.kind.Kinds;
import lanternshed.core.kind.Known;
import lanternshed.core.kind.Sample;
import lanternshed.core.names.TextChange;
import lanternshed.core.volume.FileSet;
import lanternshed.core.work.Crossing;
import lanternshed.core.work.SameThere;
import lanternshed.core.work.Stock;
import org.springframework.stereotype.Component;

/** What was found out of files by reading them: none of it changes, so each is read once. */
@Component
class FileFacts {
  private static final int MOST = 40_000;

  private final Stock stock;
  private final Found<Known> kinds = new Found<>();
  private final Found<Optional<Crossing.Rewritten>> rewritten = new Found<>();
  private final Found<String> digests = new Found<>();

  FileFacts(Stock stock) {
    this.stock = stock;
  }

  /** Forgets what was not asked for longest; nobody waits while somebody else's file is read. */
  private static final class Found<V> {
    private final Map<String, V> known =
        Collections.synchronizedMap(
            new LinkedHashMap<>(16, 0.75f, true) {
              @Override
              protected boolean removeEldestEntry(Map.Entry<String, V> e) {
                return size() > MOST;
              }
            });

    V of(String key, Supplier<V> read) {
      V had = known.get(key);
      if (had != null) return had;
      V now = read.get();
      known.put(key, now);
      return now;
    }
  }

  /** What a file is by its content; of what is not on the shelf any more only its length tells. */
  Known kind(String sha256, long bytes) {
    return kinds.of(
        sha256,
        () -> {
          int wanted = Sample.wanted(bytes);
          byte[] head = stock.find(sha256).map(c -> c.head(wanted)).orElse(new byte[0]);
          return Kinds.of(new Sample(head, bytes));
        });
  }

  /** What becomes of a file as a text. */
  Optional<Crossing.Rewritten> rewritten(String sha256, TextChange text) {
    if (text.changesNothing()) return Optional.empty();
    return rewritten.of(sha256 + text, () -> Crossing.rewritten(sha256, text, stock));
  }

  /**
   * SHA-256 of a file on a volume.
   *
   * @param volume the digest of its image, which never changes, and its number
   */
  String digest(String volume, FileSet.Item item) {
    return digests.of(volume + " " + item.path(), () -> SameThere.digest(item));
  }
}
