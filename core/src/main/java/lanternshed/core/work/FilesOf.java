package lanternshed.core.work;

import java.util.HashMap;
import java.util.Map;
import java.util.function.Predicate;
import lanternshed.core.measure.ShedException;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Volume;

/** What is in a volume, as it goes into another one. */
final class FilesOf {
  private FilesOf() {}

  /**
   * All files and folders in their order on disk, so that system files stay first (F-11).
   *
   * @param longNames whether long names come over; else the names on disk do, which older systems
   *     know alone
   */
  static FileSet volume(Volume v, boolean longNames) {
    return volume(v, longNames, n -> true);
  }

  /**
   * Some of them.
   *
   * @param wanted a folder that is left out leaves out what is in it as well
   */
  static FileSet volume(Volume v, boolean longNames, Predicate<Node> wanted) {
    FileSet out = new FileSet();
    Map<String, String> shortPaths = new HashMap<>();
    shortPaths.put("", "");
    for (Node n : v.all()) {
      if (!wanted.test(n)) continue;
      String path = longNames ? n.path() : below(shortPaths, n);
      String shortName = longNames ? n.name() : "";
      if (n.folder()) {
        if (!longNames) shortPaths.put(n.path(), path);
        out.folder(path, shortName, n.attributes(), n.stamp());
      } else {
        out.file(path, shortName, n.bytes(), n.attributes(), n.stamp(), s -> v.read(n, s));
      }
      out.item(path).own(v.own(n));
    }
    return out;
  }

  private static String below(Map<String, String> shortPaths, Node n) {
    String parent = shortPaths.get(n.parent());
    if (parent == null) {
      throw new ShedException("The folder of " + n.path() + " was not found before it.");
    }
    return parent.isEmpty() ? n.name() : parent + "/" + n.name();
  }
}
