package lanternshed.core.fault;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * One part exchanged or taken out, and put back (D-15): fails, works, fails again, or works, fails,
 * works again, in the same operation and with nothing done to these parts in between. Whatever
 * comes and goes by itself would have had to do so twice at the very moment of the exchange.
 *
 * @param part the number of the part that was taken out
 * @param first the first of the three
 * @param back the last of the three: the way back
 */
record Exchange(int part, Trial first, Trial between, Trial back) {
  /** The way back counts as so many tests: more than any new one (D-15). */
  static final int COUNTS = 3;

  /** All exchanges of a board that came back, in the order in which they did. */
  static List<Exchange> all(World world) {
    Map<String, Integer> indexes = world.indexes();
    List<Trial> trials = world.trials();
    long[] parts = trials.stream().mapToLong(t -> World.bits(indexes, t.parts())).toArray();
    List<Exchange> out = new ArrayList<>();
    for (int last = 2; last < parts.length; last++) {
      Exchange e = back(trials, parts, last);
      if (e != null) out.add(e);
    }
    return out;
  }

  private static Exchange back(List<Trial> trials, long[] parts, int last) {
    Trial back = trials.get(last);
    if (!clear(back)) return null;
    int between = -1;
    Set<Long> asBack = new HashSet<>();
    for (int i = last - 1; i >= 0; i--) {
      Trial t = trials.get(i);
      boolean touched = (parts[i] & (parts[last] | (between < 0 ? 0 : parts[between]))) != 0;
      if (t.outcome() == Trial.Outcome.CHANGED && touched) return null;
      if (!clear(t) || !t.operation().equals(back.operation())) continue;
      if (parts[i] == parts[last]) {
        // The same test with nothing between tells of no exchange; another outcome of none either.
        if (between < 0 || fails(t) != fails(back)) return null;
        return exchange(trials, parts, i, between, last);
      }
      if (fails(t) == fails(back)) asBack.add(parts[i]);
      else if (between < 0 && one(parts, i, last)) between = i;
      // What was put in its place went the other way as well: it tells of no exchange.
      if (between >= 0 && asBack.contains(parts[between])) return null;
    }
    return null;
  }

  private static Exchange exchange(List<Trial> trials, long[] parts, int i, int between, int last) {
    boolean fails = fails(trials.get(last));
    long failed = fails ? parts[last] : parts[between];
    long worked = fails ? parts[between] : parts[last];
    if ((failed & ~worked) == 0) return null;
    int part = Long.numberOfTrailingZeros(failed & ~worked);
    return new Exchange(part, trials.get(i), trials.get(between), trials.get(last));
  }

  /**
   * What was seen.
   *
   * @param name of the part; "" where it was said before
   */
  String sentence(String name) {
    boolean fails = fails(back);
    String twice = "tests %d and %d ".formatted(first.number(), back.number());
    String once = "test %d ".formatted(between.number());
    return (name.isEmpty() ? "with it " : "With " + name + " ")
        + (fails ? twice + "fail" : once + "fails")
        + ", without it "
        + (fails ? once + "works." : twice + "work.");
  }

  /** Whether one part of what fails was left out or exchanged for one other, and no more. */
  private static boolean one(long[] parts, int a, int b) {
    return Long.bitCount(parts[a] & ~parts[b]) <= 1
        && Long.bitCount(parts[b] & ~parts[a]) <= 1
        && parts[a] != parts[b];
  }

  /** Whether it went one way, whenever it was tried. */
  private static boolean clear(Trial t) {
    return t.tells() && !t.isReading() && (t.good() == 0 || t.bad() == 0);
  }

  private static boolean fails(Trial t) {
    return t.bad() > 0;
  }

  /**
   * How often each test counts: the ways back more than once, as long as all tries together stay
   * within {@link World#MOST_TIMES}.
   */
  static Map<Trial, Integer> counts(World world, List<Exchange> exchanges) {
    int room = World.MOST_TIMES - world.trials().stream().mapToInt(t -> t.good() + t.bad()).sum();
    Map<Trial, Integer> out = new HashMap<>();
    for (Exchange e : exchanges) {
      int more = (COUNTS - 1) * (e.back().good() + e.back().bad());
      if (more > room) break;
      room -= more;
      out.put(e.back(), COUNTS);
    }
    return out;
  }
}
