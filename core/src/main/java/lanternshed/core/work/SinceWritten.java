package lanternshed.core.work;

import java.io.ByteArrayOutputStream;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.survey.Volumes;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Volume;

/**
 * Z-1: what a machine did to a card since it was written, file by file, with a guess why. A guess
 * says what it rests on: the bytes where they tell, else the name alone.
 *
 * @param same files as they were written
 * @param changes at most {@value #MOST}
 * @param more changes that are not listed
 */
public record SinceWritten(
    long same, long changed, long fresh, long gone, List<Change> changes, long more) {
  public static final SinceWritten NONE = new SinceWritten(0, 0, 0, 0, List.of(), 0);

  private static final int MOST = 500;

  /** Larger files are not looked into. */
  private static final long LOOKED_INTO = 4 << 20;

  private static final Set<String> SETTINGS =
      Set.of("INI", "CFG", "DAT", "SYS", "BAT", "PRF", "PREFS", "CNF", "CONF", "INF", "RC");
  private static final Set<String> LOGS = Set.of("LOG", "TXT", "JNL");
  private static final Set<String> SWAP = Set.of("SWP", "PAR");
  private static final Set<String> PASSING = Set.of("TMP", "BAK", "$$$", "OLD");

  public SinceWritten {
    changes = List.copyOf(changes);
  }

  /** What became of a file. */
  public enum What {
    NEW,
    CHANGED,
    GONE
  }

  /**
   * One file.
   *
   * @param before bytes when it was written; 0 for a new one
   * @param after bytes now; 0 for one that is gone
   * @param guess what it may be, and what that rests on
   */
  public record Change(int volume, String path, What what, long before, long after, String guess) {}

  /** Compares all volumes; both media are read only. */
  public static SinceWritten of(Medium written, Medium now, Progress progress) {
    Collector c = new Collector();
    List<Volumes.Opened> there = Volumes.all(now);
    for (Volumes.Opened before : Volumes.all(written)) {
      Optional<Volumes.Opened> after =
          there.stream().filter(v -> v.number() == before.number()).findFirst();
      if (after.isEmpty()) {
        files(before.volume())
            .values()
            .forEach(n -> c.add(before.number(), n, null, "its volume is not there any more"));
        continue;
      }
      c.volume(before.number(), before.volume(), after.get().volume(), progress);
    }
    return new SinceWritten(c.same, c.changed, c.fresh, c.gone, c.changes, c.more);
  }

  /** "812 files are as written; 3 changed, 1 new, 0 gone." */
  public String sentence() {
    return Say.plural(same, "file is", "files are")
        + " as written; "
        + Say.count(changed)
        + " changed, "
        + Say.count(fresh)
        + " new, "
        + Say.count(gone)
        + " gone.";
  }

  private static Map<String, Node> files(Volume v) {
    Map<String, Node> out = new LinkedHashMap<>();
    for (Node n : v.all()) if (!n.folder()) out.putIfAbsent(n.path(), n);
    return out;
  }

  /** Counts all and lists as many as anybody reads. */
  private static final class Collector {
    private final List<Change> changes = new ArrayList<>();
    private long same;
    private long changed;
    private long fresh;
    private long gone;
    private long more;

    void volume(int number, Volume a, Volume b, Progress progress) {
      FileComparison c = FileComparison.of(a, b, FileComparison.Known.NOTHING, progress);
      Map<String, Node> before = files(a);
      Map<String, Node> after = files(b);
      same += c.same();
      for (String path : c.differing()) {
        Node x = before.get(path);
        Node y = after.get(path);
        add(number, x, y, guess(a, x, b, y));
      }
      for (String path : c.onlySecond()) {
        add(
            number,
            null,
            after.get(path),
            byName(path).orElse("made since; nothing tells by what"));
      }
      for (String path : c.onlyFirst()) {
        add(number, before.get(path), null, byName(path).orElse("nothing tells why"));
      }
    }

    void add(int number, Node before, Node after, String guess) {
      What what = before == null ? What.NEW : after == null ? What.GONE : What.CHANGED;
      switch (what) {
        case NEW -> fresh++;
        case CHANGED -> changed++;
        case GONE -> gone++;
      }
      if (changes.size() == MOST) {
        more++;
        return;
      }
      changes.add(
          new Change(
              number,
              (before == null ? after : before).path(),
              what,
              before == null ? 0 : before.bytes(),
              after == null ? 0 : after.bytes(),
              guess));
    }
  }

  /** What the bytes tell comes first; a name may mean anything. */
  private static String guess(Volume a, Node before, Volume b, Node after) {
    String named = byName(after.path()).map(g -> "; " + g).orElse("");
    if (Math.max(before.bytes(), after.bytes()) > LOOKED_INTO) {
      return "too large to be looked into" + named;
    }
    Optional<byte[]> x = content(a, before);
    Optional<byte[]> y = content(b, after);
    if (x.isEmpty()) return "the written one does not read to its end" + named;
    if (y.isEmpty()) return "it does not read to its end any more: look at the card" + named;
    if (y.get().length > x.get().length
        && Arrays.equals(x.get(), Arrays.copyOf(y.get(), x.get().length))) {
      return Say.bytes(y.get().length - x.get().length)
          + " were added at its end, as to a log"
          + named;
    }
    if (x.get().length == y.get().length) {
      long other = 0;
      for (int i = 0; i < x.get().length; i++) if (x.get()[i] != y.get()[i]) other++;
      return Say.count(other)
          + " of "
          + Say.bytes(x.get().length)
          + " differ in place"
          + (named.isEmpty() ? ", as in a table or a counter" : named);
    }
    return "written anew" + named;
  }

  private static Optional<byte[]> content(Volume v, Node n) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    try {
      v.read(n, out::write);
    } catch (ShedException e) {
      return Optional.empty();
    }
    return Optional.of(out.toByteArray());
  }

  private static Optional<String> byName(String path) {
    String name = path.substring(path.lastIndexOf('/') + 1).toUpperCase(Locale.ROOT);
    String ending = name.substring(name.lastIndexOf('.') + 1);
    if (PASSING.contains(ending) || name.startsWith("~")) {
      return Optional.of("by its name it is kept for a while only");
    }
    if (SWAP.contains(ending)) return Optional.of("by its name it is swap");
    if (name.contains("LOG") || LOGS.contains(ending)) {
      return Optional.of("by its name it is a log");
    }
    if (SETTINGS.contains(ending)) return Optional.of("by its name it holds settings");
    return Optional.empty();
  }
}
