package lanternshed.core.work;

import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import lanternshed.core.catalogue.BlankDisk;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sha256;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.names.NameList;
import lanternshed.core.names.NameRule;
import lanternshed.core.names.Shelving;
import lanternshed.core.names.TextChange;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Maker;

/**
 * Files on their way from a desktop to a volume, or over a set of disks: how each will lie, what it
 * takes, and what stays (T-1 to T-3). Nothing is copied before all of that is known.
 */
public final class Crossing {
  /**
   * A file as it is now.
   *
   * @param stamp packed date and time
   * @param text what becomes of it as a text; absent where it goes over byte by byte
   * @param shelf folder of its kind, where a library is sorted by kinds; "" where it is not known
   */
  public record Coming(
      String path, long bytes, int stamp, String sha256, Optional<Rewritten> text, String shelf) {
    long newBytes() {
      return text.map(Rewritten::bytes).orElse(bytes);
    }
  }

  /**
   * A text as it will lie.
   *
   * @param says what was changed, in words
   * @param lost why the old bytes cannot be had again; "" where they can
   */
  public record Rewritten(long bytes, String sha256, String says, String lost) {}

  /** What becomes of a file of the stock as a text; empty where its bytes stay as they are. */
  public static Optional<Rewritten> rewritten(String sha256, TextChange change, Stock stock) {
    if (change.changesNothing()) return Optional.empty();
    Optional<byte[]> whole = stock.find(sha256).flatMap(Crossing::text);
    return whole
        .map(change::of)
        .filter(c -> !c.says().isEmpty() || !c.lost().isEmpty())
        .map(c -> new Rewritten(c.bytes().length, Sha256.of(c.bytes()), c.says(), c.lost()));
  }

  /** The bytes of what may be a text; empty for what is too long to be one. */
  public static Optional<byte[]> text(Stock.Content content) {
    if (content.bytes() > TextChange.MOST) return Optional.empty();
    return Optional.of(content.head(TextChange.MOST));
  }

  /**
   * What somebody chose.
   *
   * @param rule key of the rule of names
   * @param most files of a folder where letters are put together
   * @param together whether a folder stays on one disk of a set, or on one of several volumes
   * @param names by path as it is the name or path that is wanted
   * @param left paths that are not to go over
   */
  public record Choices(
      NameRule rule,
      Shelving shelving,
      int most,
      boolean together,
      Map<String, String> names,
      Set<String> left) {}

  /** What becomes of a file. */
  public enum State {
    OVER,
    /** It goes over, and something of it changes that somebody should see. */
    LOOK,
    STAYS,
    LEFT
  }

  /**
   * @param to path as it will lie; "" where it does not go
   * @param bytes that it will have
   * @param sha256 of what will lie there, {@code was} of what it is now
   * @param units that it takes there
   * @param says what changes or why it stays, in words
   * @param twin path of one before it, or on the volume, that has the same bytes; "" for none
   * @param disk number of its disk in the set, or of its volume among several, from 0; −1 where it
   *     does not go
   */
  public record Row(
      String from,
      String to,
      long bytes,
      int stamp,
      String sha256,
      String was,
      long units,
      State state,
      String says,
      String twin,
      int disk) {}

  /**
   * @param rows in the order in which the files were given
   * @param holds each volume as it is without them
   * @param fits of each volume with what goes onto it
   * @param least no fewer disks of a set could do
   */
  public record Crossed(List<Row> rows, List<Hold> holds, List<Maker.Fit> fits, int least) {
    /** Files that go over to one of the volumes. */
    public List<Row> on(int disk) {
      return rows.stream().filter(r -> r.disk() == disk).toList();
    }
  }

  private Crossing() {}

  /** Onto one volume, beside what it holds. */
  public static Crossed onto(Hold hold, List<Coming> files, Choices choices) {
    return onto(List.of(hold), files, choices, SameThere.NONE);
  }

  /**
   * Onto one volume, or over several of one image that take the same names.
   *
   * @param volumes in the order in which each is asked
   * @param same what on them has the same bytes
   */
  public static Crossed onto(
      List<Hold> volumes, List<Coming> files, Choices choices, SameThere same) {
    Named named = named(volumes, files, choices);
    Loading.Loaded loaded =
        volumes.size() == 1
            ? Loading.onto(volumes.get(0), named.cargo())
            : Loading.among(volumes, named.cargo(), choices.together());
    return rows(volumes, files, named, loaded, same);
  }

  /** Over as many disks as it takes, each empty before. */
  public static Crossed over(Hold empty, List<Coming> files, Choices choices) {
    Named named = named(List.of(empty), files, choices);
    Loading.Loaded loaded = Loading.over(empty, named.cargo(), choices.together());
    // Where nothing goes over there is no disk, and still a reason why.
    List<Hold> disks = Collections.nCopies(Math.max(1, loaded.fits().size()), empty);
    return rows(disks, files, named, loaded, SameThere.NONE);
  }

  /** What a formatted disk without a file takes. */
  public static Hold empty(BlankDisk disk) {
    return Edit.hold(blank(disk, ""), 0, List.of());
  }

  /** A formatted disk without a file. */
  public static MemoryMedium blank(BlankDisk disk, String label) {
    MemoryMedium m = new MemoryMedium(disk.sectors());
    disk.format(m, label, Stamp.NONE);
    return m;
  }

  /**
   * The changes that bring files over, with their bytes from the stock.
   *
   * @param text what becomes of those rows whose bytes will be others
   */
  public static List<Edit.Change> changes(List<Row> rows, TextChange text, Stock stock) {
    List<Edit.Change> out = new ArrayList<>();
    for (Row r : rows) {
      FileSet.Source source = s -> content(r, stock).copyTo(s);
      FileSet.Source other =
          s -> {
            byte[] b = text.of(text(content(r, stock)).orElseThrow()).bytes();
            s.take(b, 0, b.length);
          };
      boolean same = r.was().equals(r.sha256());
      out.add(new Edit.Change.Put(r.to(), r.bytes(), r.stamp(), r.sha256(), same ? source : other));
    }
    return out;
  }

  private static Stock.Content content(Row r, Stock stock) {
    return stock
        .find(r.was())
        .orElseThrow(
            () ->
                new ShedException(
                    "The content of "
                        + r.from()
                        + " is not on the shelf any more; bring it in again."));
  }

  /** The names of those that are to go, and what they would be on the volume. */
  private record Named(Map<String, NameList.Named> names, List<Hold.Cargo> cargo) {}

  private static Named named(List<Hold> volumes, List<Coming> files, Choices choices) {
    List<Coming> going = files.stream().filter(f -> !choices.left().contains(f.path())).toList();
    List<String> paths = going.stream().map(Coming::path).toList();
    Map<String, String> wanted = new HashMap<>();
    // Where folders cannot be made at will there is nothing to sort into.
    if (choices.rule().folders() == NameRule.Folders.ANY) {
      Map<String, String> shelves = new HashMap<>();
      for (Coming f : going) if (!f.shelf().isEmpty()) shelves.put(f.path(), f.shelf());
      wanted.putAll(choices.shelving().of(paths, choices.most(), shelves));
    }
    wanted.putAll(choices.names());
    Map<String, NameList.Named> names = new LinkedHashMap<>();
    for (NameList.Named n : Hold.names(volumes, choices.rule(), paths, wanted)) {
      names.put(n.from(), n);
    }
    List<Hold.Cargo> cargo =
        going.stream().map(f -> new Hold.Cargo(names.get(f.path()).to(), f.newBytes())).toList();
    return new Named(names, cargo);
  }

  private static Crossed rows(
      List<Hold> holds, List<Coming> files, Named named, Loading.Loaded loaded, SameThere same) {
    List<Row> out = new ArrayList<>();
    Map<String, String> first = new HashMap<>();
    int at = 0;
    for (Coming f : files) {
      NameList.Named n = named.names().get(f.path());
      if (n == null) {
        out.add(row(f, "", 0, State.LEFT, "left out", "", -1));
        continue;
      }
      int disk = loaded.disk()[at];
      String twin = twin(f, first, same);
      first.putIfAbsent(f.sha256(), f.path());
      if (disk < 0) {
        String why = loaded.why()[at] == null ? "" : loaded.why()[at];
        if (why.isEmpty()) why = lacks(holds, loaded, f.newBytes(), n.to());
        long units = holds.get(0).units(f.newBytes());
        out.add(row(f, "", units, State.STAYS, why, twin, -1));
      } else {
        List<String> says = new ArrayList<>(n.changes());
        f.text().map(Rewritten::says).filter(t -> !t.isEmpty()).ifPresent(says::add);
        String lost = f.text().map(Rewritten::lost).orElse("");
        if (!lost.isEmpty()) says.add("loses " + lost);
        State state = n.odd() || !lost.isEmpty() ? State.LOOK : State.OVER;
        long units = holds.get(disk).units(f.newBytes());
        out.add(row(f, n.to(), units, state, String.join(", ", says), twin, disk));
      }
      at++;
    }
    return new Crossed(out, holds, loaded.fits(), loaded.least());
  }

  private static String twin(Coming f, Map<String, String> first, SameThere same) {
    String before = first.getOrDefault(f.sha256(), "");
    if (!before.isEmpty()) return before;
    String sha256 = f.text().map(Rewritten::sha256).orElse(f.sha256());
    return same.of(f.newBytes(), sha256).map(p -> p + ", which is there").orElse("");
  }

  private static Row row(
      Coming f, String to, long units, State state, String says, String twin, int disk) {
    String sha256 = f.text().map(Rewritten::sha256).orElse(f.sha256());
    return new Row(
        f.path(), to, f.newBytes(), f.stamp(), sha256, f.sha256(), units, state, says, twin, disk);
  }

  /** Why the volume that lacks least for it does not take it. */
  private static String lacks(List<Hold> holds, Loading.Loaded loaded, long bytes, String to) {
    Hold hold = holds.get(0);
    long lacking = Long.MAX_VALUE;
    for (int d = 0; d < holds.size(); d++) {
      Hold h = holds.get(d);
      Maker.Fit fit = loaded.fits().isEmpty() ? h.with(List.of()) : loaded.fits().get(d);
      lacking = Math.min(lacking, h.units(bytes) - (fit.there() - fit.needed()));
    }
    if (lacking > 0) {
      String unit = Catalogue.unit(hold.kind());
      return Say.plural(lacking, unit, unit + "s") + " too many";
    }
    if (to.indexOf('/') < 0) return "no entry is left for it in the root";
    return "its folder needs more than is left";
  }
}
