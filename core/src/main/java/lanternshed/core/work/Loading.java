package lanternshed.core.work;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import lanternshed.core.measure.ShedException;
import lanternshed.core.names.Split;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.VolumeException;
import lanternshed.core.work.Hold.Cargo;

/**
 * Which files go onto a volume, or onto which disk of a set (T-2), asked of the makers themselves:
 * what is aboard fits, and what stays would not.
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
   * @param least no fewer volumes could do, by the units of what is aboard
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
      refusal = "";
      if (!mayTake(units(hold, more))) return false;
      if (fit.rootEntries() > 0 && fit.rootNeeded() >= fit.rootEntries() && allInRoot(more)) {
        return false;
      }
      List<Cargo> all = new ArrayList<>(aboard);
      all.addAll(more);
      Maker.Fit now;
      try {
        now = hold.with(all);
      } catch (VolumeException e) {
        refusal = e.getMessage();
        return false;
      }
      if (!now.fits()) return false;
      aboard.addAll(more);
      fit = now;
      return true;
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
    List<Group> groups = groups(cargo, together, empty);
    int[] disk = new int[cargo.size()];
    String[] why = new String[cargo.size()];
    List<Filling> set = new ArrayList<>();
    List<Long> pieces = new ArrayList<>();
    int step = 1;
    for (int i = 0; i < groups.size(); ) {
      int n = together(groups, i, step, set);
      List<Cargo> files =
          groups.subList(i, i + n).stream().flatMap(g -> g.files().stream()).toList();
      int at = n == 1 ? place(set, empty, files) : last(set, files);
      if (at < 0 && n > 1) {
        step = n / 2;
        continue;
      }
      for (Group g : groups.subList(i, i + n)) {
        if (at >= 0) pieces.add(g.units());
        else why[g.numbers().get(0)] = refusal(empty, files);
        for (int number : g.numbers()) disk[number] = at;
      }
      i += n;
      step *= 2;
    }
    long room = new Filling(empty).fit.there();
    long[] sizes = pieces.stream().mapToLong(Long::longValue).toArray();
    int least = Split.least(sizes, room, set.size()).orElse(Split.bound(sizes, room));
    return new Loaded(disk, why, set.stream().map(f -> f.fit).toList(), least);
  }

  /** What goes onto one disk together, and the units that it takes. */
  private record Group(List<Integer> numbers, List<Cargo> files, long units) {}

  /**
   * How many groups can be asked of the last disk at once, as no other has room for any of them: a
   * maker that is asked once for each of many files takes longer than all the rest.
   */
  private static int together(List<Group> groups, int from, int most, List<Filling> set) {
    int n = 0;
    while (n < most && from + n < groups.size() && !set.isEmpty()) {
      long units = groups.get(from + n).units();
      if (set.subList(0, set.size() - 1).stream().anyMatch(f -> f.mayTake(units))) break;
      n++;
    }
    return Math.max(1, n);
  }

  private static int last(List<Filling> set, List<Cargo> files) {
    return set.get(set.size() - 1).take(files) ? set.size() - 1 : -1;
  }

  private static String refusal(Hold empty, List<Cargo> files) {
    Filling f = new Filling(empty);
    f.take(files);
    return f.refusal;
  }

  private static int place(List<Filling> set, Hold empty, List<Cargo> files) {
    for (int d = 0; d < set.size(); d++) if (set.get(d).take(files)) return d;
    Filling next = new Filling(empty);
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

  /** What goes together, the most units first; what fits no disk together goes one by one. */
  private static List<Group> groups(List<Cargo> cargo, boolean together, Hold empty) {
    Map<String, List<Integer>> byFolder = new LinkedHashMap<>();
    for (int i = 0; i < cargo.size(); i++) {
      String path = cargo.get(i).path();
      int slash = path.indexOf('/');
      String key = together && slash > 0 ? path.substring(0, slash + 1) : "file " + i;
      byFolder.computeIfAbsent(key, k -> new ArrayList<>()).add(i);
    }
    List<Group> out = new ArrayList<>();
    for (List<Integer> numbers : byFolder.values()) {
      Group g = group(numbers, cargo, empty);
      if (numbers.size() == 1 || new Filling(empty).take(g.files())) out.add(g);
      else numbers.forEach(i -> out.add(group(List.of(i), cargo, empty)));
    }
    out.sort(Comparator.comparingLong(Group::units).reversed());
    return out;
  }

  private static Group group(List<Integer> numbers, List<Cargo> cargo, Hold empty) {
    List<Cargo> files = numbers.stream().map(cargo::get).toList();
    return new Group(numbers, files, units(empty, files));
  }

  private static long units(Hold hold, List<Cargo> files) {
    return files.stream().mapToLong(c -> hold.units(c.bytes())).sum();
  }
}
