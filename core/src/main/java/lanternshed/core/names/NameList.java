package lanternshed.core.names;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;

/**
 * What each path of a set becomes on a volume (T-1): the same set gives the same names whatever its
 * order, no two become one, and the list leads back (T-7).
 */
public final class NameList {

  /**
   * One file.
   *
   * @param from its path as it is now
   * @param to its path as it will lie
   * @param changes what became of its name beyond capitals, in words
   * @param odd whether that is more than a shorter name, so that somebody should see it
   */
  public record Named(String from, String to, List<String> changes, boolean odd) {}

  private final NameRule rule;

  /** Folded paths that are taken, folders and files; a folder by its folded path ends with "/". */
  private final Set<String> taken = new HashSet<>();

  /** By folded path the folders of the volume as they are spelled. */
  private final Map<String, String> spelled = new HashMap<>();

  private final Map<String, String> folders = new HashMap<>();

  /** Folded paths of the folders that folders of the source became. */
  private final Set<String> become = new HashSet<>();

  private final Map<String, Integer> tails = new HashMap<>();

  /** By name what it is cleaned to: most are asked for twice. */
  private final Map<String, NameRule.Cleaned> cleaned = new HashMap<>();

  private NameList(NameRule rule) {
    this.rule = rule;
  }

  /**
   * Names for files.
   *
   * @param from their paths, folders joined by "/"; no two alike
   * @param chosen by such a path the name or path that somebody wants for it; cleaned like any
   *     other
   * @param files paths of files that are on the volume
   * @param there paths of folders that are on it
   * @return in the order of {@code from}
   */
  public static List<Named> of(
      NameRule rule,
      Collection<String> from,
      Map<String, String> chosen,
      Collection<String> files,
      Collection<String> there) {
    NameList list = new NameList(rule);
    files.forEach(f -> list.taken.add(fold(f)));
    for (String f : there) {
      list.taken.add(fold(f) + "/");
      list.spelled.put(fold(f), f);
    }
    Map<String, Named> out = new LinkedHashMap<>();
    from.forEach(f -> out.put(f, null));
    // What somebody chose has its name before the others; so has a name that stands as it is.
    Set<String> changed = new HashSet<>();
    for (String f : out.keySet()) {
      if (!list.clean(name(f)).name().equals(name(f))) changed.add(f);
    }
    List<String> order = new ArrayList<>(out.keySet());
    order.sort(
        Comparator.comparing((String f) -> !chosen.containsKey(f))
            .thenComparing(changed::contains)
            .thenComparing(Comparator.naturalOrder()));
    for (String f : order) {
      String wanted = chosen.get(f);
      out.put(
          f,
          wanted == null
              ? list.named(f, f, list.folder(parent(f)))
              : list.named(f, wanted, list.wanted(parent(wanted))));
    }
    return List.copyOf(out.values());
  }

  /** By each name as it lies the one that it had: the list undone. */
  public static Map<String, String> back(Collection<Named> list) {
    Map<String, String> out = new HashMap<>();
    list.forEach(n -> out.put(n.to(), n.from()));
    return out;
  }

  /** Letter by letter, as volumes compare: some letters become two in capitals elsewhere. */
  public static String fold(String path) {
    StringBuilder out = new StringBuilder(path.length());
    for (char c : path.toCharArray()) out.append(Character.toUpperCase(c));
    return out.toString();
  }

  private NameRule.Cleaned clean(String name) {
    return cleaned.computeIfAbsent(name, rule::clean);
  }

  private Named named(String from, String wanted, String folder) {
    List<String> changes = new ArrayList<>();
    boolean out = depth(folder) < depth(wanted);
    if (out) changes.add("out of its folder " + parent(wanted));
    NameRule.Cleaned c = clean(name(wanted));
    changes.addAll(c.changes());
    String to = free(folder, c, this::isFileFree);
    if (!to.equals(folder + c.name())) changes.add("numbered, as the name is taken");
    taken.add(fold(to));
    boolean deep = rule.path() > 0 && to.length() > rule.path();
    if (deep) {
      changes.add("a path of " + to.length() + " letters, where programs end at " + rule.path());
    }
    return new Named(from, to, List.copyOf(changes), c.odd() || out || deep);
  }

  private static int depth(String path) {
    return (int) path.chars().filter(c -> c == '/').count();
  }

  /** Where a folder of the source lies, with "/" at its end; "" for the root. */
  private String folder(String path) {
    if (path.isEmpty()) return "";
    String known = folders.get(path);
    if (known == null) {
      String above = folder(parent(path));
      known = below(above, name(path), true);
      if (!known.equals(above)) become.add(fold(known));
      folders.put(path, known);
    }
    return known;
  }

  /** A folder of the volume that somebody named. */
  private String wanted(String path) {
    return path.isEmpty() ? "" : below(wanted(parent(path)), name(path), false);
  }

  /**
   * A folder below another.
   *
   * @param own whether no two names may come to one folder
   * @return that of above, where it can have none of that name below it
   */
  private String below(String above, String name, boolean own) {
    boolean patterned = !rule.folderPattern().isEmpty();
    String as = patterned && rule.capitals() ? fold(name) : name;
    if (!rule.folderFits(as, depth(above) + 1)) return above;
    if (patterned && taken.contains(fold(above + as))) return above;
    String to = patterned ? above + as : free(above, clean(name), f -> isFolderFree(f, own));
    taken.add(fold(to) + "/");
    return spelled.computeIfAbsent(fold(to), t -> to) + "/";
  }

  private String free(String folder, NameRule.Cleaned c, Predicate<String> isFree) {
    String plain = folder + c.name();
    if (isFree.test(fold(plain))) return plain;
    String key = fold(plain);
    for (int n = tails.getOrDefault(key, 1); ; n++) {
      String numbered = folder + rule.numbered(c, n);
      if (!isFree.test(fold(numbered))) continue;
      tails.put(key, n + 1);
      return numbered;
    }
  }

  private boolean isFileFree(String folded) {
    return !taken.contains(folded) && !taken.contains(folded + "/");
  }

  /** A folder that is on the volume is the one that is meant, unless another became it. */
  private boolean isFolderFree(String folded, boolean own) {
    return !taken.contains(folded) && !(own && become.contains(folded + "/"));
  }

  private static String parent(String path) {
    int slash = path.lastIndexOf('/');
    return slash < 0 ? "" : path.substring(0, slash);
  }

  private static String name(String path) {
    return path.substring(path.lastIndexOf('/') + 1);
  }
}
