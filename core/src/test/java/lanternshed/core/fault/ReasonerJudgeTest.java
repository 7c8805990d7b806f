package lanternshed.core.fault;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import lanternshed.core.fault.Advisor.Candidate;
import lanternshed.core.fault.Trial.Outcome;
import org.junit.jupiter.api.Test;

/**
 * Judges the engine by an exhaustive search that knows only the meaning of a test: it fails when,
 * and only when, something wrong that shows in this operation takes part whole.
 */
class ReasonerJudgeTest {
  private static final String[] KINDS = {"board", "cable", "drive", "card", "supply", "adapter"};

  /** Something wrong: the ids that have to take part together. */
  private record Wrong(Set<Integer> ids) {
    boolean in(Set<Integer> parts) {
      return parts.containsAll(ids);
    }
  }

  private static List<Wrong> everyWrong(int n) {
    List<Wrong> out = new ArrayList<>();
    for (int a = 0; a < n; a++) {
      out.add(new Wrong(Set.of(a)));
      for (int b = a + 1; b < n; b++) out.add(new Wrong(Set.of(a, b)));
    }
    return out;
  }

  private static Set<Integer> ids(Trial t) {
    Set<Integer> out = new HashSet<>();
    for (String id : t.parts()) out.add(Integer.valueOf(id));
    return out;
  }

  /**
   * Whether there is, for each operation, a choice of what shows in it that gives every outcome.
   */
  private static boolean explains(Set<Wrong> wrong, List<Trial> trials) {
    List<Wrong> list = List.copyOf(wrong);
    for (String o : trials.stream().map(Trial::operation).distinct().toList()) {
      boolean some = false;
      for (int shown = 0; shown < 1 << list.size() && !some; shown++) {
        boolean fits = true;
        for (Trial t : trials) {
          if (!t.operation().equals(o)) continue;
          boolean fails = false;
          for (int i = 0; i < list.size(); i++) {
            fails |= (shown >> i & 1) == 1 && list.get(i).in(ids(t));
          }
          fits &= fails == t.outcome().fails();
        }
        some = fits;
      }
      if (!some) return false;
    }
    return true;
  }

  private static Set<Set<Wrong>> exhaustive(int n, List<Trial> trials) {
    Set<Set<Wrong>> out = new HashSet<>();
    List<Wrong> all = everyWrong(n);
    for (Wrong a : all) {
      boolean alone = explains(Set.of(a), trials);
      if (alone) out.add(Set.of(a));
    }
    for (Wrong a : all) {
      for (Wrong b : all) {
        if (a.equals(b) || out.contains(Set.of(a)) || out.contains(Set.of(b))) continue;
        if (explains(Set.of(a, b), trials)) out.add(Set.of(a, b));
      }
    }
    return out;
  }

  private static Set<Set<Wrong>> engine(List<Hypotheses.H> found, Hypotheses all) {
    Set<Set<Wrong>> out = new HashSet<>();
    for (Hypotheses.H h : found) {
      Set<Wrong> one = new HashSet<>();
      one.add(wrong(all.elements.get(h.a())));
      if (h.b() >= 0) one.add(wrong(all.elements.get(h.b())));
      out.add(one);
    }
    return out;
  }

  private static Wrong wrong(Element e) {
    Set<Integer> ids = new TreeSet<>();
    for (int i = 0; i < 8; i++) if (((e.one() | e.other()) >> i & 1) == 1) ids.add(i);
    return new Wrong(ids);
  }

  private static List<Part> parts(int n, Random dice) {
    List<Part> out = new ArrayList<>();
    for (int i = 0; i < n; i++) {
      String kind = KINDS[dice.nextInt(KINDS.length)];
      out.add(new Part("" + i, "part " + i, kind, "", true, new Cost(5, 0, 0), Suspicion.USUAL));
    }
    return out;
  }

  private static Set<Wrong> hidden(int n, Random dice) {
    List<Wrong> all = everyWrong(n);
    List<Wrong> singles = all.stream().filter(w -> w.ids().size() == 1).toList();
    return switch (dice.nextInt(3)) {
      case 0 -> Set.of(singles.get(dice.nextInt(n)));
      case 1 ->
          Set.of(
              all.stream()
                  .filter(w -> w.ids().size() == 2)
                  .toList()
                  .get(dice.nextInt(n * (n - 1) / 2)));
      default -> {
        int a = dice.nextInt(n);
        int b = (a + 1 + dice.nextInt(n - 1)) % n;
        yield Set.of(singles.get(a), singles.get(b));
      }
    };
  }

  @Test
  void theTrueCauseIsNeverExcludedAndMinimalExplanationsAreThoseOfAnExhaustiveSearch() {
    Random dice = new Random(20);
    int failing = 0;
    for (int world = 0; world < 600; world++) {
      int n = 3 + dice.nextInt(6);
      Set<Wrong> truth = hidden(n, dice);
      String[] operations = {"lists", "copies"};
      // What is wrong shows in one operation or in both.
      List<Set<Wrong>> shows = new ArrayList<>();
      for (int o = 0; o < 2; o++) {
        Set<Wrong> s = new HashSet<>();
        for (Wrong w : truth) if (dice.nextInt(4) > 0) s.add(w);
        shows.add(s);
      }
      List<Trial> trials = new ArrayList<>();
      int tests = 1 + dice.nextInt(12);
      for (int t = 0; t < tests; t++) {
        Set<Integer> in = new HashSet<>();
        for (int p = 0; p < n; p++) if (dice.nextInt(3) > 0) in.add(p);
        if (in.isEmpty()) in.add(dice.nextInt(n));
        int o = dice.nextInt(2);
        boolean fails = shows.get(o).stream().anyMatch(w -> w.in(in));
        Set<String> ids = new HashSet<>();
        in.forEach(i -> ids.add("" + i));
        trials.add(
            new Trial(t + 1, "t", ids, operations[o], fails ? Outcome.FAILS : Outcome.WORKS, ""));
        failing += fails ? 1 : 0;
      }
      Hypotheses all = new Hypotheses(new World(parts(n, dice), trials, List.of()));
      assertThat(engine(all.consistent(), all))
          .as("world %d", world)
          .anyMatch(h -> truth.containsAll(h) || h.containsAll(truth));
      if (all.failing.isEmpty()) continue;
      assertThat(engine(all.minimal(), all)).as("world %d", world).isEqualTo(exhaustive(n, trials));
    }
    assertThat(failing).as("the worlds are worth the search").isGreaterThan(500);
  }

  /** A bench: originals and spares; a test is one of each kind, or one part alone. */
  private record Bench(List<Part> parts, List<Candidate> tests, Set<Wrong> truth) {}

  private static Bench bench(Random dice) {
    while (true) {
      List<Part> parts = new ArrayList<>();
      List<List<Integer>> slots = new ArrayList<>();
      int kinds = 3 + dice.nextInt(3);
      for (int k = 0; k < kinds; k++) {
        List<Integer> slot = new ArrayList<>();
        int copies = parts.size() < 7 && dice.nextInt(3) > 0 ? 2 : 1;
        for (int c = 0; c < copies && parts.size() < 8; c++) {
          slot.add(parts.size());
          parts.add(
              new Part(
                  "" + parts.size(),
                  "p" + parts.size(),
                  KINDS[k],
                  "",
                  c == 0,
                  new Cost(5, 0, 0),
                  Suspicion.USUAL));
        }
        slots.add(slot);
      }
      List<Candidate> tests = new ArrayList<>();
      combine(slots, 0, 0L, tests);
      for (int p = 0; p < parts.size(); p++) {
        if (dice.nextBoolean())
          tests.add(new Candidate("", 1L << p, "o", new Cost(5, 0, 0), false));
      }
      Set<Wrong> truth = hidden(parts.size(), dice);
      if (fails(truth, tests.get(0).parts())) return new Bench(parts, tests, truth);
    }
  }

  private static void combine(List<List<Integer>> slots, int k, long parts, List<Candidate> out) {
    if (k == slots.size()) {
      out.add(new Candidate("", parts, "o", new Cost(5, 0, 0), false));
      return;
    }
    for (int p : slots.get(k)) combine(slots, k + 1, parts | 1L << p, out);
  }

  private static boolean fails(Set<Wrong> wrong, long parts) {
    return wrong.stream().anyMatch(w -> w.ids().stream().allMatch(i -> (parts >> i & 1) == 1));
  }

  private interface Choice {
    int next(Hypotheses known, List<Integer> left);
  }

  /** Tests until everything that is left foretells what the truth does, whatever is tested. */
  private static int needed(Bench b, Choice choice) {
    List<Trial> trials = new ArrayList<>();
    List<Integer> left = new ArrayList<>();
    for (int i = 1; i < b.tests().size(); i++) left.add(i);
    int test = 0;
    while (true) {
      Candidate c = b.tests().get(test);
      Set<String> ids = new HashSet<>();
      for (int p = 0; p < b.parts().size(); p++) if ((c.parts() >> p & 1) == 1) ids.add("" + p);
      trials.add(
          new Trial(
              trials.size() + 1,
              "",
              ids,
              "o",
              fails(b.truth(), c.parts()) ? Outcome.FAILS : Outcome.WORKS,
              ""));
      Hypotheses known = new Hypotheses(new World(b.parts(), trials, List.of()));
      Set<Set<Wrong>> minimal = engine(known.minimal(), known);
      boolean found =
          b.tests().stream()
              .allMatch(
                  t ->
                      minimal.stream()
                          .allMatch(h -> fails(h, t.parts()) == fails(b.truth(), t.parts())));
      if (found || left.isEmpty()) return trials.size();
      test = choice.next(known, left);
      left.remove(Integer.valueOf(test));
    }
  }

  @Test
  void itsOwnAdviceFindsTheCauseInNoMoreTestsThanChanceOrSwappingOneByOne() {
    Random dice = new Random(4);
    double advised = 0;
    double random = 0;
    double swapping = 0;
    int worlds = 400;
    for (int w = 0; w < worlds; w++) {
      Bench b = bench(dice);
      advised +=
          needed(
              b,
              (known, left) -> {
                List<Candidate> open = left.stream().map(b.tests()::get).toList();
                int best = Advisor.best(known, open);
                return left.get(Math.max(0, best));
              });
      random += needed(b, (known, left) -> left.get(dice.nextInt(left.size())));
      long original = b.tests().get(0).parts();
      List<Integer> order = new ArrayList<>();
      for (int i = 1; i < b.tests().size(); i++) {
        if (Long.bitCount(b.tests().get(i).parts() & ~original) == 1) order.add(i);
      }
      List<Integer> rest = new ArrayList<>();
      for (int i = 1; i < b.tests().size(); i++) if (!order.contains(i)) rest.add(i);
      Collections.shuffle(rest, dice);
      order.addAll(rest);
      swapping +=
          needed(
              b, (known, left) -> order.stream().filter(left::contains).findFirst().orElseThrow());
    }
    System.out.printf(
        "tests needed on average over %d benches: advised %.2f, by chance %.2f, swapping one by one %.2f%n",
        worlds, advised / worlds, random / worlds, swapping / worlds);
    assertThat(advised).isLessThanOrEqualTo(Math.min(random, swapping));
  }
}
