package lanternshed.core.fault;

import java.util.Arrays;
import java.util.Comparator;
import java.util.List;

/**
 * How well the tests fit one or two things that are wrong (D-13), against nothing wrong: a plain
 * number, 1 where the tests say nothing of them. At most {@link World#MOST_TIMES} tries count, so
 * that it stays between 1e-200 and 1e260.
 *
 * <p>A <i>moded element</i> is twice the index of an {@link Element}, and one more where it comes
 * and goes. Tests that are alike in operation, tries and reliability are one <i>type</i>: what an
 * element does to one of them it does to all, so that two elements cost as many steps as there are
 * types, and which tests meet both is counted in bits.
 */
final class Evidence {
  /** A fault shows in an operation this often; one in four concerns other operations only. */
  static final double SHOWS = 0.75;

  /** A reading finds a steady fault of its part this often. */
  static final double READING_FINDS = 0.95;

  /**
   * Before something was done to a part: so much of what a test of it tells is about a state gone.
   */
  static final double GONE = 0.5;

  /** Two elements, each steady or coming and going, in the order of {@link #fits}. */
  static final int MODES = 4;

  final List<Trial> trials;
  final List<Trial> failing;
  final List<String> operations;

  /** What was exchanged and put back. */
  final List<Exchange> exchanges;

  private record Type(int operation, int bad, int good, double misread, boolean gone) {}

  private final World world;
  private final List<Element> elements;
  private final long[] partsOfTrial;
  private final boolean[] isReading;
  private final Type[] types;
  private final int[] firstType;
  private final long[] inType;
  private final long[] failed = new long[2];

  /** The tests that only work, of an operation that fails elsewhere. */
  private final long[] passed = new long[2];

  /** By element, two words each: the tests that meet it. */
  private final long[] met;

  /** By element and type: how many tests meet it. */
  private final int[] count;

  /** By moded element: how often a test that meets it fails where it shows. */
  private final double[] chance;

  /** By moded element: the number of its chance among all that are different. */
  private final int[] chanceClass;

  /** By type: see {@link #slopes()}. */
  private final double[] badRises;

  private final double[] goodFalls;

  /** What so many tests make of it, one row a type and class of chance. */
  private final double[] power;

  /** By type and class of chance: where its row begins. */
  private final int[] row;

  /** By moded element and operation: the product over its tests there, where it shows. */
  private final double[] alone;

  private final double[] fitAlone;
  private final double[] chances;

  Evidence(World world, List<Element> elements) {
    this.world = world;
    this.elements = elements;
    var indexes = world.indexes();
    for (Trial t : world.trials()) World.bits(indexes, t.parts());
    this.exchanges = Exchange.all(world);
    this.trials = world.trials().stream().filter(Trial::tells).toList();
    this.failing = trials.stream().filter(t -> t.bad() > 0).toList();
    this.operations = trials.stream().map(Trial::operation).distinct().toList();
    this.partsOfTrial = trials.stream().mapToLong(t -> World.bits(indexes, t.parts())).toArray();
    this.isReading = new boolean[operations.size()];
    for (int o = 0; o < isReading.length; o++) {
      isReading[o] = operations.get(o).equals(Trial.READING);
    }
    Type[] of = types();
    this.types =
        Arrays.stream(of)
            .distinct()
            .sorted(Comparator.comparingInt(Type::operation))
            .toArray(Type[]::new);
    int[] typeOf = Arrays.stream(of).mapToInt(t -> Arrays.asList(types).indexOf(t)).toArray();
    this.firstType = new int[operations.size() + 1];
    for (Type t : types) firstType[t.operation() + 1]++;
    for (int o = 0; o < operations.size(); o++) firstType[o + 1] += firstType[o];
    this.inType = new long[types.length * 2];
    for (int t = 0; t < typeOf.length; t++) {
      inType[typeOf[t] * 2 + t / 64] |= 1L << t % 64;
      if (trials.get(t).bad() > 0) failed[t / 64] |= 1L << t % 64;
      if (passes(trials.get(t))) passed[t / 64] |= 1L << t % 64;
    }
    int n = elements.size();
    this.met = new long[n * 2];
    this.count = new int[n * types.length];
    this.chance = new double[n * 2];
    this.chanceClass = new int[n * 2];
    for (int e = 0; e < n; e++) meet(e);
    this.chances = Arrays.stream(chance).distinct().sorted().toArray();
    for (int x = 0; x < chance.length; x++) {
      chanceClass[x] = Arrays.binarySearch(chances, chance[x]);
    }
    this.badRises = new double[types.length];
    this.goodFalls = new double[types.length];
    slopes();
    this.row = new int[types.length * chances.length];
    this.power = powers(row);
    this.alone = new double[n * 2 * operations.size()];
    this.fitAlone = new double[n * 2];
    for (int x = 0; x < n * 2; x++) weighAlone(x);
  }

  /** The type of each test. */
  private Type[] types() {
    Type[] of = new Type[trials.size()];
    var counts = Exchange.counts(world, exchanges);
    for (int t = 0; t < of.length; t++) {
      Trial x = trials.get(t);
      int times = counts.getOrDefault(x, 1);
      of[t] =
          new Type(
              operations.indexOf(x.operation()),
              x.bad() * times,
              x.good() * times,
              x.outcome().misread(),
              touchedAfter(x, partsOfTrial[t]));
    }
    return of;
  }

  private boolean touchedAfter(Trial trial, long parts) {
    return world.trials().stream()
        .filter(c -> c.outcome() == Trial.Outcome.CHANGED && c.number() > trial.number())
        .anyMatch(c -> (World.bits(world.indexes(), c.parts()) & parts) != 0);
  }

  private void meet(int e) {
    Element x = elements.get(e);
    for (int t = 0; t < partsOfTrial.length; t++) {
      if (meets(x, partsOfTrial[t], trials.get(t).isReading())) {
        met[e * 2 + t / 64] |= 1L << t % 64;
      }
    }
    for (int type = 0; type < types.length; type++) {
      count[e * types.length + type] =
          Long.bitCount(met[e * 2] & inType[type * 2])
              + Long.bitCount(met[e * 2 + 1] & inType[type * 2 + 1]);
    }
    chance[e * 2] = 1;
    chance[e * 2 + 1] =
        world.partsOf(x.one() | x.other()).stream()
                .mapToInt(p -> PartKinds.get(p.kind()).shows())
                .average()
                .orElse(500)
            / 1000;
  }

  /** Readings are taken on single parts: a pair that quarrels reads well. */
  static boolean meets(Element e, long parts, boolean reading) {
    return (!reading || e.single()) && e.in(parts);
  }

  /** Rows of powers: of each type and class of chance, from none of its tests to all of them. */
  private double[] powers(int[] rows) {
    double[] out = new double[(trials.size() + types.length) * chances.length];
    int at = 0;
    for (int type = 0; type < types.length; type++) {
      int most = most(type);
      for (int c = 0; c < chances.length; c++) {
        double r = ratio(type, found(chances[c], type), 1);
        rows[type * chances.length + c] = at;
        out[at++] = 1;
        for (int k = 1; k <= most; k++, at++) out[at] = out[at - 1] * r;
      }
    }
    return out;
  }

  private double power(int type, int chanceClass, int tests) {
    return power[row[type * chances.length + chanceClass] + tests];
  }

  private double found(double chance, int type) {
    return isReading[types[type].operation()] ? chance * READING_FINDS : chance;
  }

  /**
   * How likely a try is reported bad, against nothing wrong, grows evenly with how likely it fails:
   * by so much of itself, and so much falls what is reported good.
   */
  private void slopes() {
    for (int type = 0; type < types.length; type++) {
      double none = reported(0, types[type]);
      double always = reported(1, types[type]);
      badRises[type] = always / none - 1;
      goodFalls[type] = (always - none) / (1 - none);
    }
  }

  private static double reported(double fails, Type t) {
    double bad = reported(fails, t.misread());
    return t.gone() ? (1 - GONE) * bad + GONE * 0.5 : bad;
  }

  private static double power(double base, int exponent) {
    double out = 1;
    double square = base;
    for (int e = exponent; e > 0; e >>= 1) {
      if ((e & 1) == 1) out *= square;
      square *= square;
    }
    return out;
  }

  static double reported(double fails, double misread) {
    return fails * (1 - misread) + (1 - fails) * misread;
  }

  static boolean wanders(int x) {
    return x % 2 == 1;
  }

  private void weighAlone(int x) {
    fitAlone[x] = 1;
    for (int o = 0; o < operations.size(); o++) {
      double product = 1;
      for (int type = firstType[o]; type < firstType[o + 1]; type++) {
        product *= power(type, chanceClass[x], count[x / 2 * types.length + type]);
      }
      alone[x * operations.size() + o] = product;
      fitAlone[x] *= isReading[o] ? product : SHOWS * product + 1 - SHOWS;
    }
  }

  /** Whether some test that failed meets this element. */
  boolean meetsFailure(int element) {
    return (met[element * 2] & failed[0] | met[element * 2 + 1] & failed[1]) != 0;
  }

  /** Whether some test that only works, of an operation that fails elsewhere, meets it. */
  boolean meetsPass(int element) {
    return (met[element * 2] & passed[0] | met[element * 2 + 1] & passed[1]) != 0;
  }

  /** Whether every test that failed meets it, and none that works: it alone would explain all. */
  boolean explainsAll(int element) {
    return (failed[0] & ~met[element * 2]) == 0
        && (failed[1] & ~met[element * 2 + 1]) == 0
        && !meetsPass(element);
  }

  /** What failed even once speaks for none that took part in it; nor does another operation. */
  boolean passes(Trial t) {
    return t.good() > 0
        && t.bad() == 0
        && (t.isReading() || failing.stream().anyMatch(f -> f.operation().equals(t.operation())));
  }

  /** How often a test that meets a moded element fails, where it shows. */
  double fails(int x, boolean reading) {
    return reading ? chance[x] * READING_FINDS : chance[x];
  }

  /** How well the tests fit one moded element alone. */
  double fit(int x) {
    return fitAlone[x];
  }

  /** What the tests of an operation make of one moded element that shows in it. */
  double shown(int x, int operation) {
    return alone[x * operations.size() + operation];
  }

  /** What the tests of an operation make of two moded elements that both show in it. */
  double shown(int a, int b, int operation) {
    int[] both = new int[types.length];
    meetBoth(a / 2, b / 2, both);
    return together(a, b, operation, both);
  }

  /**
   * How well the tests fit two elements, in their four modes: both steady, the second comes and
   * goes, the first does, both do.
   *
   * @param into the four answers
   * @param room kept from call to call: cheapest where those of equal chances follow each other
   */
  void fits(int e, int f, double[] into, Room room) {
    int[] both = room.both;
    boolean meet = meetBoth(e, f, both);
    int n = operations.size();
    Arrays.fill(into, 1);
    for (int o = 0; o < n; o++) {
      double steadyA = alone[e * 2 * n + o];
      double wandersA = alone[(e * 2 + 1) * n + o];
      double steadyB = alone[f * 2 * n + o];
      double wandersB = alone[(f * 2 + 1) * n + o];
      if (isReading[o]) {
        into[0] *= meet ? together(e * 2, f * 2, o, both) : steadyA * steadyB;
        into[1] *= meet ? together(e * 2, f * 2 + 1, o, both) : steadyA * wandersB;
        into[2] *= meet ? together(e * 2 + 1, f * 2, o, both) : wandersA * steadyB;
        into[3] *= meet ? together(e * 2 + 1, f * 2 + 1, o, both) : wandersA * wandersB;
        continue;
      }
      // A steady one fails every test that both meet, whatever the other does there.
      double ss = steadyA;
      double sw = steadyA;
      double ws = steadyB;
      double ww = 1;
      int steady = chanceClass[e * 2];
      int classA = chanceClass[e * 2 + 1];
      int classB = chanceClass[f * 2 + 1];
      room.either(1 - (1 - chances[classA]) * (1 - chances[classB]));
      for (int type = firstType[o]; type < firstType[o + 1]; type++) {
        int met = both[type];
        int restA = count[e * types.length + type] - met;
        int restB = count[f * types.length + type] - met;
        int rows = type * chances.length;
        if (restB > 0) {
          double onlyB = power[row[rows + classB] + restB];
          ss *= power[row[rows + steady] + restB];
          sw *= onlyB;
          ww *= onlyB;
        }
        if (restA > 0) {
          double onlyA = power[row[rows + classA] + restA];
          ws *= onlyA;
          ww *= onlyA;
        }
        if (met > 0) ww *= room.power(type, met);
      }
      into[0] *= shownOrNot(steadyA, steadyB, ss);
      into[1] *= shownOrNot(steadyA, wandersB, sw);
      into[2] *= shownOrNot(wandersA, steadyB, ws);
      into[3] *= shownOrNot(wandersA, wandersB, ww);
    }
  }

  /** Over all choices of which of two shows in an operation. */
  private static double shownOrNot(double onlyA, double onlyB, double both) {
    return SHOWS * SHOWS * both + SHOWS * (1 - SHOWS) * (onlyA + onlyB) + (1 - SHOWS) * (1 - SHOWS);
  }

  Room room() {
    return new Room();
  }

  /** What {@link #fits} works in: counts, and powers of what two that come and go do together. */
  final class Room {
    private final int[] both = new int[types.length];
    private final int[] from = new int[types.length];
    private final int[] known = new int[types.length];
    private final double[] once = new double[types.length];
    private final double[] powers = new double[trials.size() + types.length];
    private double either = -1;

    private Room() {
      for (int type = 1; type < from.length; type++)
        from[type] = from[type - 1] + most(type - 1) + 1;
    }

    private void either(double fails) {
      if (fails == either) return;
      either = fails;
      for (int type = 0; type < known.length; type++) {
        once[type] = ratio(type, fails, 1);
        powers[from[type]] = 1;
        known[type] = 0;
      }
    }

    private double power(int type, int tests) {
      int at = from[type];
      for (int k = known[type] + 1; k <= tests; k++) {
        powers[at + k] = powers[at + k - 1] * once[type];
        known[type] = k;
      }
      return powers[at + tests];
    }
  }

  /** The number of its chance to fail a test that meets it, where it comes and goes. */
  int chanceClass(int element) {
    return chanceClass[element * 2 + 1];
  }

  /** Counts by type the tests that meet both; whether there is one. */
  private boolean meetBoth(int e, int f, int[] both) {
    long low = met[e * 2] & met[f * 2];
    long high = met[e * 2 + 1] & met[f * 2 + 1];
    if ((low | high) == 0) {
      Arrays.fill(both, 0);
      return false;
    }
    for (int type = 0; type < both.length; type++) {
      both[type] =
          Long.bitCount(low & inType[type * 2]) + Long.bitCount(high & inType[type * 2 + 1]);
    }
    return true;
  }

  private double together(int a, int b, int o, int[] both) {
    double j = 1;
    for (int type = firstType[o]; type < firstType[o + 1]; type++) {
      int met = both[type];
      j *= power(type, chanceClass[a], count[a / 2 * types.length + type] - met);
      j *= power(type, chanceClass[b], count[b / 2 * types.length + type] - met);
      if (met == 0) continue;
      double miss = (1 - found(chance[a], type)) * (1 - found(chance[b], type));
      j *= ratio(type, 1 - miss, met);
    }
    return j;
  }

  /** What so many tests of a type make of it when each fails with this probability. */
  private double ratio(int type, double fails, int tests) {
    Type t = types[type];
    return power(1 + badRises[type] * fails, t.bad() * tests)
        * power(1 - goodFalls[type] * fails, t.good() * tests);
  }

  private int most(int type) {
    return Long.bitCount(inType[type * 2]) + Long.bitCount(inType[type * 2 + 1]);
  }
}
