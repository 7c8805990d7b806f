package lanternshed.core.work;

import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import lanternshed.core.names.NameList;
import lanternshed.core.names.NameRule;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Maker;

/**
 * A volume that files may go to: what it holds, and exactly what it still takes (T-2).
 *
 * @param kind published name, "FAT16"
 * @param there what it holds
 */
public record Hold(String kind, Maker maker, Maker.Layout layout, FileSet there) {

  /** A file that would come, under the path that it would have. */
  public record Cargo(String path, long bytes) {}

  /** What its maker says of it with files that would come. */
  public Maker.Fit with(Collection<Cargo> coming) {
    FileSet all = new FileSet();
    for (FileSet.Item i : there.items()) {
      if (i.folder()) all.folder(i.path(), i.shortName(), i.marks(), i.stamp());
      else all.file(i.path(), i.shortName(), i.bytes(), i.marks(), i.stamp(), i::copyTo);
      all.item(i.path()).own(i.own());
    }
    TreeSet<String> folders = new TreeSet<>();
    for (Cargo c : coming) {
      for (int i = c.path().indexOf('/'); i > 0; i = c.path().indexOf('/', i + 1)) {
        folders.add(c.path().substring(0, i));
      }
    }
    for (String f : folders) if (!all.has(f)) all.folder(f, 0, 0);
    for (Cargo c : coming) all.file(c.path(), c.bytes(), 0, 0, s -> {});
    return maker.fit(layout, all);
  }

  /** Units that a file takes by itself, without what a longer folder may take. */
  public long units(long bytes) {
    return maker.units(kind, layout.clusterBytes(), bytes);
  }

  /**
   * Names for files that would come to one of some volumes: no two alike among all that is on any
   * of them, so that the list leads back wherever each goes.
   */
  public static List<NameList.Named> names(
      List<Hold> volumes, NameRule rule, Collection<String> from, Map<String, String> chosen) {
    return NameList.of(rule, from, chosen, paths(volumes, false), paths(volumes, true));
  }

  private static List<String> paths(List<Hold> volumes, boolean folders) {
    return volumes.stream()
        .flatMap(v -> v.there().items().stream())
        .filter(i -> i.folder() == folders)
        .map(FileSet.Item::path)
        .toList();
  }
}
