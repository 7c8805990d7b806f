package lanternshed.core.fault;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.ToIntFunction;

/**
 * One thing that can be wrong: a part, a pair of parts that do not work together, or one part with
 * every part of a group. Sets of parts are bits of a long.
 *
 * @param one the part, or the pair's first
 * @param other the pair's second or the group; 0 for a single part
 * @param group the group's name; "" for none
 * @param offered whether the board itself put the group together
 */
record Element(long one, long other, String group, boolean offered) {

  private static final Set<String> MEDIA = Set.of("drive", "card", "medium");

  /** A group that nobody named is a bolder guess than one that somebody did. */
  static final double OFFERED = 0.5;

  boolean single() {
    return other == 0;
  }

  /** Whether a test with these parts meets it. */
  boolean in(long parts) {
    return (parts & one) != 0 && (other == 0 || (parts & other) != 0);
  }

  /** All singles, pairs, and parts with whole groups of two and more, named or offered. */
  static List<Element> all(World w) {
    int n = w.parts().size();
    List<Element> out = new ArrayList<>();
    for (int i = 0; i < n; i++) out.add(new Element(1L << i, 0, "", false));
    for (int i = 0; i < n; i++) {
      for (int k = i + 1; k < n; k++) out.add(new Element(1L << i, 1L << k, "", false));
    }
    Map<Long, String> groups = new LinkedHashMap<>();
    w.parts().stream()
        .map(Part::group)
        .filter(g -> !g.isEmpty())
        .distinct()
        .forEach(g -> groups.putIfAbsent(bits(w, p -> p.group().equals(g)), g));
    int named = groups.size();
    offered(w, groups);
    int at = 0;
    for (Map.Entry<Long, String> g : groups.entrySet()) {
      boolean offered = at++ >= named;
      if (Long.bitCount(g.getKey()) < 2) continue;
      for (int i = 0; i < n; i++) {
        boolean inside = (g.getKey() & 1L << i) != 0;
        // What quarrels with a whole group of storage is something beside storage.
        boolean storage = PartKinds.get(w.parts().get(i).kind()).storage();
        if (inside || offered && storage) continue;
        out.add(new Element(1L << i, g.getKey(), g.getValue(), offered));
      }
    }
    for (int i = 0; i < n; i++) {
      if (!storage(w.parts().get(i))) together(w, i, out);
    }
    return out;
  }

  /**
   * The storage that failed with a part and never worked with it, as one group: whoever does not
   * know what they have in common finds it so.
   */
  private static void together(World w, int part, List<Element> out) {
    String id = w.parts().get(part).id();
    long failed = 0;
    long worked = 0;
    for (Trial t : w.trials()) {
      if (!t.tells() || !t.parts().contains(id)) continue;
      long with = bits(w, p -> medium(p) && t.parts().contains(p.id()));
      if (t.bad() > 0) failed |= with;
      else worked |= with;
    }
    long members = failed & ~worked;
    long one = 1L << part;
    boolean known = out.stream().anyMatch(e -> e.one() == one && e.other() == members);
    if (Long.bitCount(members) < 2 || known) return;
    List<String> names = new ArrayList<>();
    for (int i = 0; i < w.parts().size(); i++) {
      if ((members & 1L << i) != 0) names.add(w.parts().get(i).name());
    }
    out.add(new Element(one, members, String.join(" and ", names), true));
  }

  /** Groups by what is known of the storage on the board: newer than, larger than, at 3.3 V. */
  private static void offered(World w, Map<Long, String> groups) {
    by(w, groups, p -> p.traits().year(), y -> "storage newer than " + y);
    by(w, groups, p -> p.traits().megabytes(), m -> "storage above " + m + " MB");
    long low = bits(w, p -> medium(p) && p.traits().tenthsOfVolt() == 33);
    long high = bits(w, p -> medium(p) && p.traits().tenthsOfVolt() == 50);
    if (low != 0 && high != 0) {
      groups.putIfAbsent(low, "storage at 3.3 V");
      groups.putIfAbsent(high, "storage at 5 V");
    }
  }

  private interface Title {
    String of(int threshold);
  }

  private static void by(World w, Map<Long, String> groups, ToIntFunction<Part> trait, Title t) {
    TreeSet<Integer> values = new TreeSet<>();
    for (Part p : w.parts())
      if (medium(p) && trait.applyAsInt(p) > 0) values.add(trait.applyAsInt(p));
    for (int v : values) {
      long above = bits(w, p -> medium(p) && trait.applyAsInt(p) > v);
      if (above != 0) groups.putIfAbsent(above, t.of(v));
    }
  }

  private static boolean storage(Part p) {
    return PartKinds.get(p.kind()).storage();
  }

  /** What holds data itself; what only carries it is not grouped with it. */
  private static boolean medium(Part p) {
    return MEDIA.contains(p.kind());
  }

  private static long bits(World w, java.util.function.Predicate<Part> which) {
    long out = 0;
    for (int i = 0; i < w.parts().size(); i++) if (which.test(w.parts().get(i))) out |= 1L << i;
    return out;
  }
}
