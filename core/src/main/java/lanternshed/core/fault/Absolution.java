package lanternshed.core.fault;

import java.util.List;

/** What speaks against saying that storage is not the fault (D-16). */
final class Absolution {
  private Absolution() {}

  /**
   * Storage, or storage and something else together, that alone would still explain everything: it
   * is not absolved (D-16).
   *
   * @return "" for nothing
   */
  static String untested(Posterior p) {
    int likeliest = -1;
    for (int e = 0; e < p.elements.size(); e++) {
      Element x = p.elements.get(e);
      if (storage(p, x.one() | x.other()) == 0 || !p.evidence.explainsAll(e)) continue;
      if (likeliest < 0 || p.prior(e) > p.prior(likeliest)) likeliest = e;
    }
    if (likeliest < 0) return "";
    Element x = p.elements.get(likeliest);
    if (x.single()) return "nothing speaks for " + p.name(likeliest) + " yet";
    String one = p.partsOf(x.one()).get(0).name();
    if (!x.group().isEmpty()) {
      return one + " may be good and not work with " + x.group() + ": try it with other storage";
    }
    String other = p.partsOf(x.other()).get(0).name();
    return one + " and " + other + " may each be good and not work together: test them apart";
  }

  /**
   * What of storage no test has seen to work, alone or with what it failed with: it may be at fault
   * as well.
   *
   * @param suspects parts that may still be the fault: storage cannot work with these
   * @return "" for nothing
   */
  static String unseen(Posterior p, List<Part> suspects) {
    long without = p.bits(suspects.stream().map(Part::id).toList());
    long left = 0;
    for (Trial t : p.failing()) left |= p.bits(t.parts()) & ~without;
    long storage = storage(p, left);
    for (int e = 0; e < p.world.parts().size(); e++) {
      long one = p.elements.get(e).one();
      if ((one & storage) != 0 && !p.evidence.meetsPass(e)) {
        return "no test with " + p.name(e) + " has worked";
      }
    }
    for (int e = p.world.parts().size(); e < p.elements.size(); e++) {
      Element x = p.elements.get(e);
      boolean mixed = Long.bitCount(x.other()) == 1 && storage(p, x.one() | x.other()) != 0;
      if (!mixed || ((x.one() | x.other()) & ~left) != 0 || p.evidence.meetsPass(e)) continue;
      if (p.evidence.meetsFailure(e)) return "the pair " + p.name(e) + " was not seen to work";
    }
    return "";
  }

  /** The storage among these parts. */
  private static long storage(Posterior p, long parts) {
    long out = 0;
    for (Part q : p.partsOf(parts)) {
      if (PartKinds.get(q.kind()).storage()) out |= p.bits(List.of(q.id()));
    }
    return out;
  }
}
