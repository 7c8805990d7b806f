package lanternshed.core.fault;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import lanternshed.core.fault.Advisor.Candidate;

/**
 * Every test that the parts at hand allow (D-3): one of those done, with a part exchanged, stood in
 * for by a known good one, taken out or brought elsewhere; and readings. None asks for what cannot
 * be done without a part that is left out ({@link Operation}).
 */
final class Candidates {
  private static final int MOST_BASES = 14;
  private static final Cost ELSEWHERE = new Cost(20, 0, 1);
  private static final Cost TAKEN_OUT = new Cost(5, 0, 0);
  private static final Cost REPEATED = new Cost(5, 0, 0);

  /** So often what fails is tried as it is, and what works with a part exchanged. */
  private static final int ENOUGH_FAILING = 3;

  private static final int MOST_WORKING = 6;

  private final Posterior all;
  private final Map<String, Candidate> out = new LinkedHashMap<>();
  private final Set<String> done = new HashSet<>();
  private final Set<String> onBoard;

  /**
   * @param again a test to be done again before all others
   */
  Candidates(Posterior all, Optional<Trial> again) {
    this.all = all;
    this.onBoard = kinds(all.world.parts());
    for (Trial t : all.trials()) done.add(all.bits(t.parts()) + " " + t.operation());
    again.ifPresent(t -> repeated(t, "Test " + t.number() + " again, just as it was"));
  }

  List<Candidate> all() {
    if (all.failing().isEmpty()) {
      long fitted =
          all.bits(all.world.parts().stream().filter(Part::fitted).map(Part::id).toList());
      if (fitted != 0) {
        add(
            new Candidate(
                "Show the fault once, with everything as it came",
                fitted,
                "starts",
                REPEATED,
                false));
      }
      return List.copyOf(out.values());
    }
    List<String> operations =
        all.failing().stream()
            .map(Trial::operation)
            .filter(o -> !o.equals(Trial.READING))
            .distinct()
            .toList();
    for (Trial base : bases()) {
      long parts = all.bits(base.parts());
      // Taking it out costs less than a known good one, and tells the same.
      if (base.bad() > 0) withoutStorage(base, parts);
      for (String o : base.bad() > 0 ? List.of(base.operation()) : operations) {
        for (Part p : all.partsOf(parts)) exchanged(base, parts, o, p);
      }
      if (base.bad() > 0) elsewhere(base, parts);
      again(base, parts);
    }
    for (Part p : all.world.parts()) byItself(p, operations);
    together(operations);
    return List.copyOf(out.values());
  }

  private List<Trial> bases() {
    Set<Long> seen = new HashSet<>();
    List<Trial> order = new ArrayList<>(all.failing());
    // The newest failure is the bench as it stands.
    order.sort(Comparator.comparingInt(Trial::number).reversed());
    all.trials().stream().filter(t -> t.bad() == 0).forEach(order::add);
    List<Trial> bases = new ArrayList<>();
    for (Trial t : order) {
      if (t.isReading()) continue;
      if (seen.add(all.bits(t.parts())) && bases.size() < MOST_BASES) bases.add(t);
    }
    return bases;
  }

  private void exchanged(Trial base, long parts, String operation, Part p) {
    long bit = all.bits(List.of(p.id()));
    String again = "Test " + base.number() + " again, ";
    for (Part q : all.world.parts()) {
      long other = all.bits(List.of(q.id()));
      if ((parts & other) != 0 || !q.kind().equals(p.kind())) continue;
      Cost cost = q.swap().plus(new Cost(5, 0, 0));
      String title = again + q.name() + " in place of " + p.name();
      add(new Candidate(title, parts & ~bit | other, operation, cost, false));
    }
    PartKind kind = PartKinds.get(p.kind());
    if (base.bad() == 0 || Long.bitCount(parts) < 2 || !kind.spare()) return;
    add(
        new Candidate(
            again + "a known good " + kind.name() + " in place of " + p.name(),
            parts & ~bit,
            operation,
            kind.borrow(),
            true,
            Set.of(p.kind())));
  }

  private void withoutStorage(Trial base, long parts) {
    long storage = storage(parts);
    if (storage == 0 || storage == parts || !Operation.withoutStorage(base.operation())) return;
    add(
        new Candidate(
            "Test " + base.number() + " again, with the storage taken out",
            parts & ~storage,
            base.operation(),
            TAKEN_OUT,
            true));
  }

  /** The storage of what failed, in another whole machine that is known to work. */
  private void elsewhere(Trial base, long parts) {
    long storage = storage(parts);
    if (storage == 0 || storage == parts) return;
    add(
        new Candidate(
            names(storage) + ", in another whole machine that is known to work",
            storage,
            base.operation(),
            ELSEWHERE,
            true,
            onBoard));
  }

  /** A test once more, whatever it said. */
  private void repeated(Trial t, String title) {
    long parts = all.bits(t.parts());
    Cost cost =
        t.isReading() ? PartKinds.get(all.partsOf(parts).get(0).kind()).alone().cost() : REPEATED;
    String key = parts + " " + t.operation() + " again";
    out.putIfAbsent(key, new Candidate(title, parts, t.operation(), cost, false));
  }

  /**
   * The very same once more: what fails, to see whether something comes and goes; what works with a
   * part exchanged, where something does. How often the whole fails tells less of which part it is.
   */
  private void again(Trial base, long parts) {
    List<Trial> same =
        all.trials().stream()
            .filter(t -> t.operation().equals(base.operation()) && all.bits(t.parts()) == parts)
            .toList();
    int times = same.stream().mapToInt(t -> t.good() + t.bad()).sum();
    Optional<Part> back = putBack(base, parts);
    boolean fails = same.stream().anyMatch(t -> t.bad() > 0);
    if (back.isEmpty() && times >= (fails ? ENOUGH_FAILING : wanders() ? MOST_WORKING : 1)) return;
    String again = "Test " + base.number() + " again, just as it was";
    repeated(
        base,
        back.map(p -> "Put " + p.name() + " back, and do test " + base.number() + " again")
            .orElse(again));
  }

  /** Whether the same test went both ways. */
  private boolean wanders() {
    Map<String, Boolean> first = new LinkedHashMap<>();
    for (Trial t : all.trials()) {
      boolean fails = t.bad() > 0;
      if (fails && t.good() > 0) return true;
      Boolean before = first.putIfAbsent(all.bits(t.parts()) + " " + t.operation(), fails);
      if (before != null && before != fails) return true;
    }
    return false;
  }

  /** The part whose exchange made it work, where nothing was tested in between (D-15). */
  private Optional<Part> putBack(Trial base, long parts) {
    Optional<Trial> last =
        all.trials().stream()
            .filter(t -> t.operation().equals(base.operation()))
            .max(Comparator.comparingInt(Trial::number));
    if (last.isEmpty() || last.get().bad() > 0) return Optional.empty();
    long worked = all.bits(last.get().parts());
    boolean one = Long.bitCount(parts & ~worked) == 1 && Long.bitCount(worked & ~parts) <= 1;
    return one ? Optional.of(all.partsOf(parts & ~worked).get(0)) : Optional.empty();
  }

  private void byItself(Part p, List<String> operations) {
    PartKind.Alone alone = PartKinds.get(p.kind()).alone();
    if (alone.text().isEmpty()) return;
    long bit = all.bits(List.of(p.id()));
    String title =
        p.name() + ": " + Character.toLowerCase(alone.text().charAt(0)) + alone.text().substring(1);
    if (alone.reading()) {
      add(new Candidate(title, bit, Trial.READING, alone.cost(), false, onBoard));
      return;
    }
    for (String o : operations) {
      add(new Candidate(title, bit, o, alone.cost(), true, onBoard));
    }
  }

  /** An adapter with the card in it, read in another machine. */
  private void together(List<String> operations) {
    for (Part a : all.world.parts()) {
      if (!a.kind().equals("adapter")) continue;
      for (Part c : all.world.parts()) {
        if (!c.kind().equals("card")) continue;
        long parts = all.bits(List.of(a.id(), c.id()));
        String title = c.name() + " in " + a.name() + ": read whole in another machine";
        for (String o : operations) {
          add(new Candidate(title, parts, o, new Cost(15, 0, 0), true, onBoard));
        }
      }
    }
  }

  private long storage(long parts) {
    return all.bits(
        all.partsOf(parts).stream()
            .filter(p -> PartKinds.get(p.kind()).storage())
            .map(Part::id)
            .toList());
  }

  private String names(long parts) {
    return all.partsOf(parts).stream().map(Part::name).collect(Collectors.joining(" with "));
  }

  private static Set<String> kinds(List<Part> parts) {
    return parts.stream().map(Part::kind).collect(Collectors.toSet());
  }

  private void add(Candidate c) {
    String key = c.parts() + " " + c.operation();
    if (done.contains(key)) return;
    Set<String> there = new HashSet<>(kinds(all.partsOf(c.parts())));
    there.addAll(c.provided());
    boolean reading = c.operation().equals(Trial.READING);
    if (reading || Operation.possible(c.operation(), there, onBoard)) out.putIfAbsent(key, c);
  }
}
