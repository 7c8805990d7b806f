package lanternshed.core.work;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;
import lanternshed.core.measure.ShedException;
import lanternshed.core.names.Split;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.VolumeException;
import lanternshed.core.work.Hold.Cargo;

/**
 * Which files go onto a volume, onto which of several, or onto which disk of a set (T-2), asked of
 * the makers themselves: what is aboard fits, and what stays would not.
 */
public final class Loading {
  /** More disks than this are no set that somebody changes by hand. */
  private static final int MOST_DISKS = 200;

  /**
   * What became of each file.
   *
   * @param disk by its place among those that were asked for the number of its volume, from 0; −1
   *     where it stays
   * @param why for one that stays the reason that its maker has beyond room; "" for want of room
   * @param fits of each volume with what goes onto it
   * @param least no fewer disks of a set could do, by the units of what is aboard
   */
  public record Loaded(int[] disk, String[] why, List<Maker.Fit> fits, int least) {
    public boolean stays(int i) {
      return disk[i] < 0;
    }
  }

  /** A volume as it fills. */
  private static final class Filling {
    private final Hold hold;
    private final List<Cargo> aboard = new ArrayList<>();
    private Maker.Fit fit;

    /** Why it refused what it was asked last, beyond room. */
    private String refusal = "";

    Filling(Hold hold) {
      this.hold = hold;
      this.fit = hold.with(aboard);
    }

    /** Takes all of them or none. */
    boolean take(List<Cargo> more) {
      Optional<Maker.Fit> now = asked(more);
      now.ifPresent(
          f -> {
            aboard.addAll(more);
            fit = f;
          });
      return now.isPresent();
    }

    /** What the volume would be with them; empty where it does not take all of them. */
    Optional<Maker.Fit> asked(List<Cargo> more) {
      refusal = "";
      if (!mayTake(units(hold, more))) return Optional.empty();
      if (fit.rootEntries() > 0 && fit.rootNeeded() >= fit.rootEntries() && allInRoot(more)) {
        return Optional.empty();
      }
      List<Cargo> all = new ArrayList<>(aboard);
      all.addAll(more);
      try {
        return Optional.of(hold.with(all)).filter(Maker.Fit::fits);
      } catch (VolumeException e) {
        refusal = e.getMessage();
        return Optional.empty();
      }
    }

    /** Folders only add to what the files take by themselves. */
    boolean mayTake(long units) {
      return units <= fit.there() - fit.needed();
    }

    private static boolean allInRoot(List<Cargo> more) {
      return more.stream().allMatch(c -> c.path().indexOf('/') < 0);
    }
  }

  private Loading() {}

  /** Onto one volume, in the order in which they are given; what does not fit stays. */
  public static Loaded onto(Hold hold, List<Cargo> cargo) {
    Filling f = new Filling(hold);
    int[] disk = new int[cargo.size()];
    String[] why = new String[cargo.size()];
    int step = cargo.size();
    for (int i = 0; i < cargo.size(); ) {
      int n = Math.min(step, cargo.size() - i);
      if (f.take(cargo.subList(i, i + n))) {
        i += n;
        step = step * 2;
      } else if (n > 1) {
        step = Math.max(1, n / 2);
      } else {
        why[i] = f.refusal;
        disk[i++] = -1;
        step = 1;
      }
    }
    return new Loaded(disk, why, List.of(f.fit), 1);
  }

  /**
   * Over a set of disks: the largest first, each onto the first that takes it.
   *
   * @param empty a disk without a file
   * @param together whether what is in one folder of the root stays on one disk, where it fits one
   */
  public static Loaded over(Hold empty, List<Cargo> cargo, boolean together) {
    List<Group> groups = groups(cargo, together, fillings(List.of(empty)));
    List<Filling> set = new ArrayList<>();
    Loaded all = fill(set, groups, cargo.size(), Optional.of(empty));
    long room = new Filling(empty).fit.there();
    long[] sizes =
        groups.stream()
            .filter(g -> !all.stays(g.numbers().get(0)))
            .mapToLong(g -> g.unitsOn(empty))
            .toArray();
    int least = Split.least(sizes, room, set.size()).orElse(Split.bound(sizes, room));
    return new Loaded(all.disk(), all.why(), all.fits(), least);
  }

  /**
   * Over volumes that are there, beside what each holds: the largest first, each onto the first
   * that takes it; where something would stay for want of room alone, a small set is dealt out in
   * other ways, as many as can be looked through, before that is said.
   *
   * @param volumes in the order in which they are asked
   * @param together whether what is in one folder of the root stays on one volume, where it fits
   *     one
   */
  public static Loaded among(List<Hold> volumes, List<Cargo> cargo, boolean together) {
    List<Filling> set = fillings(volumes);
    List<Group> groups = groups(cargo, together, set);
    Loaded first = fill(set, groups, cargo.size(), Optional.empty());
    boolean all = IntStream.range(0, cargo.size()).noneMatch(first::stays);
    return all ? first : dealt(volumes, groups, first);
  }

  /** A way in which all goes that could go at all, and that the makers take; else the first way. */
  private static Loaded dealt(List<Hold> volumes, List<Group> groups, Loaded first) {
    List<Filling> set = fillings(volumes);
    List<Group> small =
        groups.stream()
            .filter(g -> set.stream().anyMatch(f -> f.mayTake(g.unitsOn(f.hold))))
            .toList();
    if (small.size() > Split.MOST_PIECES) return first;
    // What no volume takes even by itself stays whatever is done, and hinders nothing else.
    List<Group> could =
        small.stream()
            .filter(g -> set.stream().anyMatch(f -> f.asked(g.files()).isPresent()))
            .toList();
    if (could.stream().noneMatch(g -> g.numbers().stream().anyMatch(first::stays))) return first;
    long[][] pieces =
        could.stream()
            .map(g -> volumes.stream().mapToLong(g::unitsOn).toArray())
            .toArray(long[][]::new);
    int[] kinds = IntStream.range(0, volumes.size()).toArray();
    long[] rooms = set.stream().mapToLong(f -> f.fit.there() - f.fit.needed()).toArray();
    Optional<int[]> at = Split.deal(pieces, kinds, rooms);
    if (at.isEmpty()) return first;
    int[] disk = new int[first.disk().length];
    Arrays.fill(disk, -1);
    for (int g = 0; g < could.size(); g++) {
      int place = at.get()[g];
      if (!set.get(place).take(could.get(g).files())) return first;
      for (int number : could.get(g).numbers()) disk[number] = place;
    }
    return new Loaded(disk, first.why(), fits(set), set.size());
  }

  private static List<Filling> fillings(List<Hold> volumes) {
    return volumes.stream().map(Filling::new).toList();
  }

  private static List<Maker.Fit> fits(List<Filling> set) {
    return set.stream().map(f -> f.fit).toList();
  }

  /**
   * Puts each group where it finds room, and one that finds none file by file.
   *
   * @param next an empty disk that may be begun; absent where the set is what it is
   */
  private static Loaded fill(
      List<Filling> set, List<Group> groups, int files, Optional<Hold> next) {
    int[] disk = new int[files];
    String[] why = new String[files];
    Deque<Group> left = new ArrayDeque<>(groups);
    int step = 1;
    while (!left.isEmpty()) {
      List<Group> now = together(left, step, set);
      List<Cargo> all = now.stream().flatMap(g -> g.files().stream()).toList();
      int at = first(set, now.get(0));
      if (now.size() == 1) at = place(set, next, all);
      else if (!set.get(at).take(all)) at = -1;
      if (at < 0 && now.size() > 1) {
        step = now.size() / 2;
        continue;
      }
      now.forEach(g -> left.remove());
      if (at < 0 && all.size() > 1) {
        List<Group> singly = now.get(0).singly();
        for (int i = singly.size() - 1; i >= 0; i--) left.addFirst(singly.get(i));
        continue;
      }
      for (Group g : now) {
        for (int number : g.numbers()) {
          if (at < 0) why[number] = refusal(set, next, all);
          disk[number] = at;
        }
      }
      step = Math.min(step * 2, files);
    }
    return new Loaded(disk, why, fits(set), set.size());
  }

  /**
   * What goes onto one disk together.
   *
   * @param units that it takes on a volume like {@code measured}
   */
  private record Group(List<Integer> numbers, List<Cargo> files, Hold measured, long units) {
    static Group of(List<Integer> numbers, List<Cargo> files, Hold hold) {
      return new Group(numbers, files, hold, Loading.units(hold, files));
    }

    long unitsOn(Hold hold) {
      return hold == measured ? units : Loading.units(hold, files);
    }

    /** Each file by itself, the most units first. */
    List<Group> singly() {
      return IntStream.range(0, files.size())
          .mapToObj(i -> of(List.of(numbers.get(i)), List.of(files.get(i)), measured))
          .sorted(Comparator.comparingLong(Group::units).reversed())
          .toList();
    }
  }

  /**
   * The groups that are asked of one volume at once, as none before it has room for any of them: a
   * maker that is asked once for each of many files takes longer than all the rest.
   */
  private static List<Group> together(Deque<Group> left, int most, List<Filling> set) {
    List<Group> out = new ArrayList<>();
    int at = first(set, left.getFirst());
    for (Group g : left) {
      if (out.size() == most || (!out.isEmpty() && (at < 0 || first(set, g) != at))) break;
      out.add(g);
    }
    return out;
  }

  /** Number of the first that may take a group; −1 where none may. */
  private static int first(List<Filling> set, Group g) {
    for (int d = 0; d < set.size(); d++) {
      if (set.get(d).mayTake(g.unitsOn(set.get(d).hold))) return d;
    }
    return -1;
  }

  /** Why none took them, beyond room. */
  private static String refusal(List<Filling> set, Optional<Hold> next, List<Cargo> files) {
    List<Filling> asked = new ArrayList<>(set);
    next.map(Filling::new).filter(f -> !f.take(files)).ifPresent(asked::add);
    return asked.stream().map(f -> f.refusal).filter(r -> !r.isEmpty()).findFirst().orElse("");
  }

  private static int place(List<Filling> set, Optional<Hold> empty, List<Cargo> files) {
    for (int d = 0; d < set.size(); d++) if (set.get(d).take(files)) return d;
    if (empty.isEmpty()) return -1;
    Filling next = new Filling(empty.get());
    if (!next.take(files)) return -1;
    if (set.size() == MOST_DISKS) {
      throw new ShedException(
          "These files need more than "
              + MOST_DISKS
              + " such disks; take larger ones, or fewer files.");
    }
    set.add(next);
    return set.size() - 1;
  }

  /** What goes together, the most units first; what fits no volume together goes one by one. */
  private static List<Group> groups(List<Cargo> cargo, boolean together, List<Filling> volumes) {
    Map<String, List<Integer>> byFolder = new LinkedHashMap<>();
    for (int i = 0; i < cargo.size(); i++) {
      String path = cargo.get(i).path();
      int slash = path.indexOf('/');
      String key = together && slash > 0 ? path.substring(0, slash + 1) : "file " + i;
      byFolder.computeIfAbsent(key, k -> new ArrayList<>()).add(i);
    }
    List<Group> out = new ArrayList<>();
    for (List<Integer> numbers : byFolder.values()) {
      List<Cargo> files = numbers.stream().map(cargo::get).toList();
      Group g = Group.of(numbers, files, volumes.get(0).hold);
      boolean fits =
          files.size() == 1 || volumes.stream().anyMatch(v -> v.asked(files).isPresent());
      if (fits) out.add(g);
      else out.addAll(g.singly());
    }
    out.sort(Comparator.comparingLong(Group::units).reversed());
    return out;
  }

  private static long units(Hold hold, List<Cargo> files) {
    return files.stream().mapToLong(c -> hold.units(c.bytes())).sum();
  }
}
