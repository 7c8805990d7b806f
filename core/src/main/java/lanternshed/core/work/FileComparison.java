package lanternshed.core.work;

import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Predicate;
import lanternshed.core.measure.Sha256;
import lanternshed.core.measure.ShedException;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Volume;

/**
 * Two volumes file by file: a rebuilt volume has other sectors throughout and the same files.
 *
 * @param same files of the same path and content in both
 * @param differing of the same path with other content, or that do not read to their end
 * @param onlyFirst paths that only the first has
 * @param onlySecond paths that only the second has
 */
public record FileComparison(
    long same, List<String> differing, List<String> onlyFirst, List<String> onlySecond) {

  /** What is known before a byte is read. */
  public interface Known {
    Known NOTHING = (a, b) -> false;

    /** Whether these two lie in the same sectors and none of those differ. */
    boolean same(Node a, Node b);
  }

  /** Compares all files; only those of equal length that may differ are read. */
  public static FileComparison of(Volume a, Volume b, Known known, Progress progress) {
    Map<String, Node> first = files(a);
    Map<String, Node> second = files(b);
    long total = first.values().stream().mapToLong(Node::bytes).sum();
    long done = 0;
    long same = 0;
    List<String> differing = new ArrayList<>();
    List<String> onlyFirst = new ArrayList<>();
    for (Node n : first.values()) {
      progress.at("comparing file by file", done, total);
      done += n.bytes();
      Node other = second.remove(n.path());
      if (other == null) onlyFirst.add(n.path());
      else if (n.bytes() == other.bytes() && (known.same(n, other) || sameContent(a, n, b, other)))
        same++;
      else differing.add(n.path());
    }
    return new FileComparison(same, differing, onlyFirst, List.copyOf(second.keySet()));
  }

  /**
   * Whether two files lie in the same sectors of volumes that begin at the same place.
   *
   * @param untouched whether none of the sectors of a file of the first differs
   */
  public static Known inPlace(Volume a, Volume b, Predicate<Node> untouched) {
    return (x, y) ->
        untouched.test(x)
            && Arrays.deepEquals(
                a.sectorsOf(x).toArray(long[][]::new), b.sectorsOf(y).toArray(long[][]::new));
  }

  private static Map<String, Node> files(Volume v) {
    Map<String, Node> out = new LinkedHashMap<>();
    for (Node n : v.all()) if (!n.folder()) out.putIfAbsent(n.path(), n);
    return out;
  }

  /** What does not read to its end is the same as nothing. */
  static boolean sameContent(Volume a, Node n, Volume b, Node other) {
    if (n.bytes() != other.bytes()) return false;
    MessageDigest x = Sha256.fresh();
    MessageDigest y = Sha256.fresh();
    try {
      a.read(n, x::update);
      b.read(other, y::update);
    } catch (ShedException e) {
      return false;
    }
    return MessageDigest.isEqual(x.digest(), y.digest());
  }
}
