package lanternshed.core.fault;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import lanternshed.core.Trials;
import lanternshed.core.fault.Advisor.Candidate;
import lanternshed.core.fault.Posterior.H;
import lanternshed.core.fault.Trial.Outcome;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/**
 * The engine against a calculation from the definitions alone: every hypothesis, every choice of
 * operations in which it shows, every trial one by one. And whether its odds are worth what they
 * say.
 */
@Tag("trial")
class ReasonerJudgeTest {
  private static final String[] KINDS = {
    "drive", "cable", "firmware", "card", "controller", "adapter", "supply"
  };
  private static final String[] OPERATIONS = {"lists", "copies", Trial.READING};

  // ---- the exhaustive calculation ---------------------------------------------------------------

  private record Wrong(Element element, boolean wanders) {}

  private static double shows(World w, Wrong x, boolean reading) {
    double steady = reading ? 0.95 : 1;
    if (!x.wanders()) return steady;
    double sum = 0;
    int n = 0;
    for (int i = 0; i < w.parts().size(); i++) {
      if (((x.element().one() | x.element().other()) >> i & 1) == 0) continue;
      sum += PartKinds.get(w.parts().get(i).kind()).shows() / 1000.0;
      n++;
    }
    return sum / n * steady;
  }

  private static double prior(World w, Wrong x0) {
    Element e = x0.element();
    List<Part> one = new ArrayList<>();
    List<Part> other = new ArrayList<>();
    for (int i = 0; i < w.parts().size(); i++) {
      if ((e.one() >> i & 1) == 1) one.add(w.parts().get(i));
      if ((e.other() >> i & 1) == 1) other.add(w.parts().get(i));
    }
    double p;
    int wanders;
    if (other.isEmpty()) {
      double noticed = 1;
      for (Symptom x : Symptom.all()) {
        if (w.symptoms().contains(x.key())) {
          noticed *= x.kinds().getOrDefault(one.get(0).kind(), 1.0);
        }
      }
      p = PartKinds.get(one.get(0).kind()).prior() / 1000.0 * one.get(0).suspicion().factor();
      p *= Math.max(0.1, Math.min(10, noticed));
      wanders = PartKinds.get(one.get(0).kind()).wanders();
    } else {
      double sum = 0;
      for (Part o : other) sum += PartKinds.quarrel(one.get(0).kind(), o.kind());
      p = sum / other.size() / 1000 * (e.offered() ? 0.5 : 1);
      wanders = 150;
    }
    return p * (x0.wanders() ? wanders : 1000 - wanders) / 1000.0;
  }

  private static boolean meets(World w, Wrong x, Trial t) {
    boolean one = false;
    boolean other = x.element().other() == 0;
    if (!other && t.operation().equals(Trial.READING)) return false;
    for (int i = 0; i < w.parts().size(); i++) {
      if (!t.parts().contains(w.parts().get(i).id())) continue;
      one |= (x.element().one() >> i & 1) == 1;
      other |= (x.element().other() >> i & 1) == 1;
    }
    return one && other;
  }

  private static double outcome(World w, Trial t, double fails) {
    double e =
        switch (t.outcome()) {
          case PARTLY -> 0.05;
          case SLOW -> 0.2;
          default -> 0.02;
        };
    double bad = fails * (1 - e) + (1 - fails) * e;
    for (Trial c : w.trials()) {
      if (c.outcome() != Outcome.CHANGED || c.number() < t.number()) continue;
      if (!Collections.disjoint(c.parts(), t.parts())) {
        bad = bad / 2 + 0.25;
        break;
      }
    }
    int counts = undone(w, t) ? 3 : 1;
    return Math.pow(bad, counts * t.bad()) * Math.pow(1 - bad, counts * t.good());
  }

  /**
   * Whether it is the way back of an exchange (D-15): the last time the very same was tested it
   * went the same way, and since then it went the other way with one part left out of or exchanged
   * in what fails, and neither went otherwise, and nothing was done to their parts.
   */
  private static boolean undone(World w, Trial back) {
    if (!oneWay(back)) return false;
    List<Trial> since = new ArrayList<>();
    for (int i = w.trials().indexOf(back) - 1; i >= 0; i--) {
      Trial t = w.trials().get(i);
      boolean same = oneWay(t) && t.operation().equals(back.operation());
      if (!same || !t.parts().equals(back.parts())) {
        since.add(t);
        continue;
      }
      if (t.bad() > 0 != back.bad() > 0) return false;
      Trial between = null;
      for (Trial x : since) {
        boolean opposite =
            oneWay(x) && x.operation().equals(back.operation()) && x.bad() > 0 != back.bad() > 0;
        if (!opposite || between != null || !oneExchanged(x, back)) continue;
        between = x;
      }
      if (between == null) return false;
      for (Trial x : since) {
        if (x.outcome() == Outcome.CHANGED
            && !(Collections.disjoint(x.parts(), back.parts())
                && Collections.disjoint(x.parts(), between.parts()))) return false;
        if (oneWay(x)
            && x.operation().equals(back.operation())
            && x.parts().equals(between.parts())
            && x.bad() > 0 == back.bad() > 0) return false;
      }
      Trial fails = back.bad() > 0 ? back : between;
      Trial works = back.bad() > 0 ? between : back;
      return !works.parts().containsAll(fails.parts());
    }
    return false;
  }

  private static boolean oneWay(Trial t) {
    return t.tells() && !t.operation().equals(Trial.READING) && (t.bad() == 0 || t.good() == 0);
  }

  private static boolean oneExchanged(Trial a, Trial b) {
    Set<String> onlyA = new HashSet<>(a.parts());
    onlyA.removeAll(b.parts());
    Set<String> onlyB = new HashSet<>(b.parts());
    onlyB.removeAll(a.parts());
    return onlyA.size() <= 1 && onlyB.size() <= 1 && onlyA.size() + onlyB.size() > 0;
  }

  private static double likelihood(World w, List<Wrong> wrong, List<Trial> trials) {
    List<String> ops =
        trials.stream()
            .map(Trial::operation)
            .filter(o -> !o.equals(Trial.READING))
            .distinct()
            .toList();
    double out = 1;
    for (String o : ops) {
      double sum = 0;
      for (int shown = 0; shown < 1 << wrong.size(); shown++) {
        double p = 1;
        for (int i = 0; i < wrong.size(); i++) p *= (shown >> i & 1) == 1 ? 0.75 : 0.25;
        for (Trial t : trials) {
          if (!t.operation().equals(o)) continue;
          double none = 1;
          for (int i = 0; i < wrong.size(); i++) {
            if ((shown >> i & 1) == 1 && meets(w, wrong.get(i), t))
              none *= 1 - shows(w, wrong.get(i), false);
          }
          p *= outcome(w, t, 1 - none);
        }
        sum += p;
      }
      out *= sum;
    }
    for (Trial t : trials) {
      if (!t.operation().equals(Trial.READING)) continue;
      double none = 1;
      for (Wrong x : wrong) if (meets(w, x, t)) none *= 1 - shows(w, x, true);
      out *= outcome(w, t, 1 - none);
    }
    return out;
  }

  private static boolean shares(Element a, Element b) {
    boolean aSingle = a.other() == 0;
    boolean bSingle = b.other() == 0;
    return aSingle != bSingle && ((a.one() | a.other()) & (b.one() | b.other())) != 0;
  }

  /**
   * What can be wrong, from the handbook's words alone: each part; each two parts; each part that
   * is in no such group with a group that was named, or with one that the board offers.
   */
  private static Set<Element> elements(World w) {
    int n = w.parts().size();
    Set<Element> out = new HashSet<>();
    for (int i = 0; i < n; i++) {
      out.add(new Element(1L << i, 0, "", false));
      for (int k = i + 1; k < n; k++) out.add(new Element(1L << i, 1L << k, "", false));
    }
    Map<Set<Integer>, Element> groups = new LinkedHashMap<>();
    for (int i = 0; i < n; i++) {
      String name = w.parts().get(i).group();
      if (!name.isEmpty()) group(groups, w, x -> x.group().equals(name), name, false);
    }
    for (int i = 0; i < n; i++) {
      int year = w.parts().get(i).traits().year();
      if (medium(w.parts().get(i)) && year > 0) {
        String name = "storage newer than " + year;
        group(groups, w, x -> medium(x) && x.traits().year() > year, name, true);
      }
    }
    boolean low = w.parts().stream().anyMatch(x -> medium(x) && x.traits().tenthsOfVolt() == 33);
    boolean high = w.parts().stream().anyMatch(x -> medium(x) && x.traits().tenthsOfVolt() == 50);
    for (int volts : low && high ? new int[] {33, 50} : new int[0]) {
      String name = volts == 33 ? "storage at 3.3 V" : "storage at 5 V";
      group(groups, w, x -> medium(x) && x.traits().tenthsOfVolt() == volts, name, true);
    }
    for (Map.Entry<Set<Integer>, Element> g : groups.entrySet()) {
      for (int i = 0; g.getKey().size() > 1 && i < n; i++) {
        boolean storage = PartKinds.get(w.parts().get(i).kind()).storage();
        if (g.getKey().contains(i) || g.getValue().offered() && storage) continue;
        out.add(
            new Element(1L << i, bits(g.getKey()), g.getValue().group(), g.getValue().offered()));
      }
    }
    for (int i = 0; i < n; i++) {
      if (!PartKinds.get(w.parts().get(i).kind()).storage()) failedTogether(w, i, out);
    }
    return out;
  }

  private static void group(
      Map<Set<Integer>, Element> groups,
      World w,
      java.util.function.Predicate<Part> in,
      String name,
      boolean offered) {
    Set<Integer> members = new HashSet<>();
    for (int i = 0; i < w.parts().size(); i++) if (in.test(w.parts().get(i))) members.add(i);
    groups.putIfAbsent(members, new Element(0, 0, name, offered));
  }

  /** The storage that failed with a part and never worked with it. */
  private static void failedTogether(World w, int part, Set<Element> out) {
    Set<Integer> members = new java.util.TreeSet<>();
    for (int i = 0; i < w.parts().size(); i++) {
      if (!medium(w.parts().get(i))) continue;
      boolean failed = false;
      boolean worked = false;
      for (Trial t : w.trials()) {
        if (t.outcome() == Outcome.NOTED || t.outcome() == Outcome.CHANGED) continue;
        if (!t.parts().contains("" + part) || !t.parts().contains("" + i)) continue;
        if (t.bad() > 0) failed = true;
        else worked = true;
      }
      if (failed && !worked) members.add(i);
    }
    long bits = bits(members);
    if (members.size() < 2) return;
    if (out.stream().anyMatch(e -> e.one() == 1L << part && e.other() == bits)) return;
    List<String> names = members.stream().map(i -> w.parts().get(i).name()).toList();
    out.add(new Element(1L << part, bits, String.join(" and ", names), true));
  }

  private static boolean medium(Part p) {
    return Set.of("drive", "card", "medium").contains(p.kind());
  }

  private static long bits(Set<Integer> members) {
    long out = 0;
    for (int i : members) out |= 1L << i;
    return out;
  }

  /** Every hypothesis with its share, as the engine walks them. */
  private static List<H> hypotheses(Posterior p) {
    List<H> raw = new ArrayList<>();
    p.walk(
        new Posterior.Walk() {
          @Override
          public void one(int a, double weight) {
            raw.add(new H(a, Posterior.NONE, 0, weight));
          }

          @Override
          public void two(int e, int f, double[] weights, double[] fits) {
            for (int mode = 0; mode < 4; mode++) {
              raw.add(new H(e * 2 + mode / 2, f * 2 + mode % 2, fits[mode], weights[mode]));
            }
          }
        });
    double total = raw.stream().mapToDouble(H::share).sum();
    return raw.stream().map(h -> new H(h.a(), h.b(), h.fit(), h.share() / total)).toList();
  }

  private static Map<Set<Wrong>, Double> exhaustive(World w) {
    List<Trial> trials =
        w.trials().stream()
            .filter(t -> t.outcome() != Outcome.NOTED && t.outcome() != Outcome.CHANGED)
            .toList();
    List<Wrong> all = new ArrayList<>();
    for (Element e : elements(w)) {
      all.add(new Wrong(e, false));
      all.add(new Wrong(e, true));
    }
    Map<Set<Wrong>, Double> out = new HashMap<>();
    out.put(Set.of(), 0.02 * likelihood(w, List.of(), trials));
    for (Wrong a : all) out.put(Set.of(a), prior(w, a) * likelihood(w, List.of(a), trials));
    for (int i = 0; i < all.size(); i++) {
      for (int k = i + 1; k < all.size(); k++) {
        Wrong a = all.get(i);
        Wrong b = all.get(k);
        if (a.element().equals(b.element()) || shares(a.element(), b.element())) continue;
        boolean both =
            trials.stream().anyMatch(t -> t.bad() > 0 && meets(w, a, t))
                && trials.stream().anyMatch(t -> t.bad() > 0 && meets(w, b, t));
        if (!both) continue;
        out.put(Set.of(a, b), prior(w, a) * prior(w, b) * likelihood(w, List.of(a, b), trials));
      }
    }
    double total = out.values().stream().mapToDouble(x -> x).sum();
    out.replaceAll((k, v) -> v / total);
    return out;
  }

  @Test
  void posteriorsAreThoseOfAnExhaustiveCalculation() {
    Random dice = new Random(20);
    double worst = 0;
    int exchanges = 0;
    for (int world = 0; world < Trials.turns(150, 1000); world++) {
      World w = world(dice);
      exchanges += Exchange.counts(w, Exchange.all(w)).size();
      Posterior p = new Posterior(w);
      Map<Set<Wrong>, Double> expected = exhaustive(w);
      List<H> all = hypotheses(p);
      assertThat(all).as("world %d", world).hasSize(expected.size());
      for (H h : all) {
        Set<Wrong> key = new HashSet<>();
        for (int x : new int[] {h.a(), h.b()}) {
          if (x >= 0) key.add(new Wrong(p.elements.get(x / 2), x % 2 == 1));
        }
        double is = expected.get(key);
        worst = Math.max(worst, Math.abs(is - h.share()));
        assertThat(h.share()).as("world %d, %s", world, key).isCloseTo(is, within(1e-9));
      }
    }
    assertThat(exchanges).as("exchanges that were undone").isGreaterThan(20);
    System.out.printf("largest difference from the exhaustive calculation: %.1e%n", worst);
  }

  private static World world(Random dice) {
    int n = 3 + dice.nextInt(4);
    List<Part> parts = new ArrayList<>();
    for (int i = 0; i < n; i++) {
      String kind = KINDS[dice.nextInt(KINDS.length)];
      Part.Traits traits = new Part.Traits(dice.nextInt(3) * 1000, 0, dice.nextInt(2) * 33);
      parts.add(
          new Part(
              "" + i,
              "part " + i,
              kind,
              dice.nextInt(4) == 0 ? "alike" : "",
              true,
              new Cost(5, 0, 0),
              Suspicion.values()[dice.nextInt(3)],
              traits));
    }
    List<Trial> trials = new ArrayList<>();
    int tests = dice.nextInt(9);
    for (int t = 0; t < tests; t++) {
      Set<String> in = new HashSet<>();
      for (int p = 0; p < n; p++) if (dice.nextInt(3) > 0) in.add("" + p);
      if (in.isEmpty()) in.add("0");
      Outcome o = Outcome.values()[dice.nextInt(Outcome.values().length)];
      int of = o == Outcome.SOMETIMES ? 2 + dice.nextInt(5) : 0;
      trials.add(
          new Trial(
              t + 1,
              "t",
              in,
              OPERATIONS[dice.nextInt(3)],
              o,
              "",
              of == 0 ? 0 : dice.nextInt(of + 1),
              of));
    }
    if (dice.nextBoolean()) exchange(trials, n, dice);
    List<Symptom> noticed = new ArrayList<>(Symptom.all());
    Collections.shuffle(noticed, dice);
    List<String> symptoms = noticed.stream().limit(dice.nextInt(3)).map(Symptom::key).toList();
    return new World(parts, trials, symptoms);
  }

  /** A test, the same with one part in or out, and the first again. */
  private static void exchange(List<Trial> trials, int parts, Random dice) {
    Set<String> first = new HashSet<>();
    for (int p = 0; p < parts; p++) if (dice.nextInt(4) > 0) first.add("" + p);
    Set<String> second = new HashSet<>(first);
    String one = "" + dice.nextInt(parts);
    if (!second.remove(one)) second.add(one);
    if (first.isEmpty() || second.isEmpty()) return;
    boolean fails = dice.nextInt(3) > 0;
    String operation = OPERATIONS[dice.nextInt(2)];
    for (int i = 0; i < 3; i++) {
      Outcome o = fails == (i != 1) ? Outcome.FAILS : Outcome.WORKS;
      trials.add(new Trial(trials.size() + 1, "t", i == 1 ? second : first, operation, o, ""));
      if (dice.nextInt(6) == 0) {
        Outcome done = dice.nextBoolean() ? Outcome.CHANGED : Outcome.NOTED;
        trials.add(new Trial(trials.size() + 1, "t", Set.of(one), operation, done, ""));
      }
    }
  }

  // ---- benches with a hidden truth --------------------------------------------------------------

  /** A bench: originals and spares; a test is one of each kind, or one part alone. */
  private record Bench(
      List<Part> parts, List<Candidate> tests, List<Wrong> truth, boolean[] shown) {}

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
        // With eight parts there is no room for another kind.
        if (!slot.isEmpty()) slots.add(slot);
      }
      List<Candidate> tests = new ArrayList<>();
      combine(slots, 0, 0L, tests);
      for (int p = 0; p < parts.size(); p++) {
        if (dice.nextBoolean())
          tests.add(new Candidate("", 1L << p, "o", new Cost(5, 0, 0), false));
      }
      World w = new World(parts, List.of(), List.of());
      List<Wrong> truth = List.of(drawn(w, dice));
      boolean[] shown = {true};
      Bench b = new Bench(parts, tests, truth, shown);
      // A bench is set up because something failed: with everything as it came.
      if (meetsBits(truth.get(0), tests.get(0).parts())) return b;
    }
  }

  /** One thing that is wrong, drawn as often as the stated priors say. */
  private static Wrong drawn(World w, Random dice) {
    Map<Wrong, Double> weights = new LinkedHashMap<>();
    double total = 0;
    for (Element e : Element.all(w)) {
      for (boolean wanders : new boolean[] {false, true}) {
        Wrong x = new Wrong(e, wanders);
        double p = prior(w, x);
        weights.put(x, p);
        total += p;
      }
    }
    double at = dice.nextDouble() * total;
    for (Map.Entry<Wrong, Double> x : weights.entrySet()) {
      at -= x.getValue();
      if (at <= 0) return x.getKey();
    }
    throw new IllegalStateException();
  }

  private static boolean meetsBits(Wrong x, long parts) {
    return x.element().in(parts);
  }

  private static Outcome tried(Bench b, long parts, World w, Random dice) {
    boolean fails = false;
    for (Wrong x : b.truth()) {
      if (meetsBits(x, parts)) fails |= dice.nextDouble() < shows(w, x, false);
    }
    boolean misread = dice.nextInt(50) == 0;
    return fails != misread ? Outcome.FAILS : Outcome.WORKS;
  }

  private static void combine(List<List<Integer>> slots, int k, long parts, List<Candidate> out) {
    if (k == slots.size()) {
      out.add(new Candidate("", parts, "o", new Cost(5, 0, 0), false));
      return;
    }
    for (int p : slots.get(k)) combine(slots, k + 1, parts | 1L << p, out);
  }

  private static final int MOST_TESTS = 30;

  /** Tests until the likeliest explanation holds nine tenths; which it is, and after how many. */
  private static Map.Entry<Integer, List<Integer>> found(Bench b, Random dice) {
    List<Trial> trials = new ArrayList<>();
    World empty = new World(b.parts(), List.of(), List.of());
    int test = 0;
    while (true) {
      Candidate c = b.tests().get(test);
      Set<String> ids = new HashSet<>();
      for (int p = 0; p < b.parts().size(); p++) if ((c.parts() >> p & 1) == 1) ids.add("" + p);
      Outcome o = trials.isEmpty() ? Outcome.FAILS : tried(b, c.parts(), empty, dice);
      trials.add(new Trial(trials.size() + 1, "", ids, "o", o, ""));
      Posterior p = new Posterior(new World(b.parts(), trials, List.of()));
      Explanations known = Explanations.of(p);
      Explanations.One first = known.first();
      if (first.share() >= 0.9 || trials.size() == MOST_TESTS) {
        return Map.entry(trials.size(), first.share() >= 0.9 ? first.elements() : List.of(-1));
      }
      test = dice.nextInt(b.tests().size());
    }
  }

  @Test
  void aVerdictAtNineTenthsIsRightThatOften() {
    Random dice = new Random(5);
    int benches = Trials.turns(200, 5000);
    int said = 0;
    int right = 0;
    TreeMap<Boolean, int[]> byMode = new TreeMap<>();
    for (int i = 0; i < benches; i++) {
      Bench b = bench(dice);
      var f = found(b, dice);
      boolean wanders = b.truth().get(0).wanders();
      int[] n = byMode.computeIfAbsent(wanders, k -> new int[3]);
      n[0]++;
      if (f.getValue().equals(List.of(-1))) continue;
      said++;
      n[1]++;
      World w = new World(b.parts(), List.of(), List.of());
      int truth = Element.all(w).indexOf(b.truth().get(0).element());
      if (f.getValue().equals(List.of(truth))) {
        right++;
        n[2]++;
      }
    }
    System.out.printf(
        "of %d benches a verdict at 0.9 in %d, right in %.3f; steady %.3f, now and then %.3f%n",
        benches,
        said,
        right / (double) said,
        byMode.get(false)[2] / (double) byMode.get(false)[1],
        byMode.get(true)[2] / (double) byMode.get(true)[1]);
    assertThat(said).isGreaterThan(benches / 2);
    assertThat(right / (double) said).isGreaterThanOrEqualTo(0.87);
  }
}
