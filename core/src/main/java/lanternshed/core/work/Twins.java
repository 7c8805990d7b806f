package lanternshed.core.work;

import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import lanternshed.core.measure.Sha256;
import lanternshed.core.measure.ShedException;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Volume;

/**
 * Files of one content.
 *
 * @param sha256 of that content
 * @param bytes of each of them
 * @param paths of all of them, in the order on disk
 */
public record Twins(String sha256, long bytes, List<String> paths) {

  /** What the copies past the first one take. */
  public long spare() {
    return bytes * (paths.size() - 1);
  }

  /**
   * All of them, the most wasteful first. Only files of equal length are read; one that does not
   * read to its end is nobody's twin.
   */
  public static List<Twins> of(Volume volume, Progress progress) {
    Map<Long, List<Node>> byLength =
        volume.all().stream()
            .filter(n -> !n.folder() && n.bytes() > 0)
            .collect(Collectors.groupingBy(Node::bytes));
    List<List<Node>> candidates = byLength.values().stream().filter(l -> l.size() > 1).toList();
    long total = candidates.stream().flatMap(List::stream).mapToLong(Node::bytes).sum();
    long done = 0;
    List<Twins> out = new ArrayList<>();
    for (List<Node> same : candidates) {
      Map<String, List<String>> byDigest = new java.util.LinkedHashMap<>();
      for (Node n : same) {
        progress.at("reading files of equal length", done, total);
        done += n.bytes();
        MessageDigest d = Sha256.fresh();
        try {
          volume.read(n, d::update);
        } catch (ShedException e) {
          continue;
        }
        byDigest.computeIfAbsent(Digests.hex(d.digest()), x -> new ArrayList<>()).add(n.path());
      }
      byDigest.forEach(
          (digest, paths) -> {
            if (paths.size() > 1) out.add(new Twins(digest, same.get(0).bytes(), paths));
          });
    }
    out.sort(Comparator.comparingLong(Twins::spare).reversed());
    return out;
  }
}
