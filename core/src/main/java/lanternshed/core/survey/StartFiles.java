package lanternshed.core.survey;

import java.util.Collection;
import java.util.HashMap;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.volume.Node;

/** Looks for the files without which a card's menu does not come up (T-8). */
public final class StartFiles {
  private StartFiles() {}

  /**
   * On which volumes they lie; letters' case does not count.
   *
   * @return by path the numbers of the volumes that hold it whole; none for what lies nowhere
   */
  public static Map<String, Set<Integer>> on(Medium m, Collection<String> paths) {
    Map<String, Set<Integer>> out = new HashMap<>();
    paths.forEach(p -> out.put(p, new TreeSet<>()));
    if (paths.isEmpty()) return out;
    for (Volumes.Opened o : Volumes.all(m)) {
      try {
        for (Node n : o.volume().all()) {
          if (n.folder()) continue;
          for (String p : paths) {
            boolean it = n.path().equalsIgnoreCase(p);
            if (it && o.volume().notWhole(n).isEmpty()) out.get(p).add(o.number());
          }
        }
      } catch (ShedException e) {
        // What is damaged is told by the volume's own findings; it is not on a volume like that.
      }
    }
    return out;
  }
}
