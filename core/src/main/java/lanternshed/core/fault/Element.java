package lanternshed.core.fault;

import java.util.ArrayList;
import java.util.List;

/**
 * One thing that can be wrong: a part, a pair of parts that do not work together, or one part with
 * every part of a group. Sets of parts are bits of a long.
 *
 * @param one the part, or the pair's first
 * @param other the pair's second or the group; 0 for a single part
 */
record Element(long one, long other, String group) {

  boolean single() {
    return other == 0;
  }

  /** Whether a test with these parts meets it. */
  boolean in(long parts) {
    return (parts & one) != 0 && (other == 0 || (parts & other) != 0);
  }

  /** All singles, pairs, and parts with whole groups of two and more. */
  static List<Element> all(World w) {
    int n = w.parts().size();
    List<Element> out = new ArrayList<>();
    for (int i = 0; i < n; i++) out.add(new Element(1L << i, 0, ""));
    for (int i = 0; i < n; i++) {
      for (int k = i + 1; k < n; k++) out.add(new Element(1L << i, 1L << k, ""));
    }
    w.parts().stream()
        .map(Part::group)
        .filter(g -> !g.isEmpty())
        .distinct()
        .forEach(
            g -> {
              long members = 0;
              for (int i = 0; i < n; i++) {
                if (w.parts().get(i).group().equals(g)) members |= 1L << i;
              }
              if (Long.bitCount(members) < 2) return;
              for (int i = 0; i < n; i++) {
                if ((members & 1L << i) == 0) out.add(new Element(1L << i, members, g));
              }
            });
    return out;
  }
}
