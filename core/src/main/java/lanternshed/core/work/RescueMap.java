package lanternshed.core.work;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Durable;

/**
 * What is known of every sector of a rescue: ranges that cover the medium without gap or
 * overlap. Kept as a text file beside the image; see docs/formats.md.
 */
public final class RescueMap {
  private static final String HEAD = "lantern shed rescue map, form 1";

  /** The state of a sector. */
  public enum State {
    UNREAD,
    READ,
    FAILED,
    /** Failed first and came back on a retry. */
    LATE
  }

  /** A run of sectors of one state. */
  public record Range(long start, long length, State state) {
    public long end() {
      return start + length;
    }
  }

  /** The medium is divided into so many parts, each with its slowest read. */
  public static final int PARTS = 512;

  private final long sectors;
  private final long[] slowest = new long[PARTS];
  private final TreeMap<Long, Range> ranges = new TreeMap<>();
  private final long[] counts = new long[State.values().length];

  /** The retry round that is going on or done, and the sector before which it has been. */
  private int round;

  private long retriedTo;

  private final List<long[]> hung = new ArrayList<>();

  /** The image is divided into at most so many pieces of whole MiB, each with its sum. */
  private static final int MOST_PIECES = 4096;

  private static final int LEAST_PIECE = 2048;

  /** CRC-32 of the pieces of the image that are wholly read, by number. */
  private final TreeMap<Integer, Integer> sums = new TreeMap<>();

  /** Before this sector the forward pass has been; what is unread there is next to errors. */
  private long forwardTo;

  public RescueMap(long sectors) {
    this.sectors = sectors;
    if (sectors > 0) ranges.put(0L, new Range(0, sectors, State.UNREAD));
    counts[State.UNREAD.ordinal()] = sectors;
  }

  public long sectors() {
    return sectors;
  }

  int round() {
    return round;
  }

  long retriedTo() {
    return retriedTo;
  }

  synchronized void retried(int newRound, long to) {
    round = newRound;
    retriedTo = to;
  }

  /** Keeps how long a read took, as nanoseconds a sector. */
  synchronized void timed(long start, long nanosPerSector) {
    int part = (int) (start * PARTS / Math.max(1, sectors));
    slowest[part] = Math.max(slowest[part], nanosPerSector);
  }

  /** Nanoseconds a sector of the slowest read in each part; 0 where none was timed. */
  public synchronized long[] slowest() {
    return slowest.clone();
  }

  /** Keeps a block in which a read never returned; only small ones are read there again. */
  synchronized void hung(long start, long length) {
    hung.add(new long[] {start, length});
  }

  /** How many sectors from there on may be read in one block; 0 inside a block that hung. */
  synchronized long beforeHung(long start, long length) {
    long most = length;
    for (long[] h : hung) {
      if (start >= h[0] && start < h[0] + h[1]) return 0;
      if (start < h[0]) most = Math.min(most, h[0] - start);
    }
    return most;
  }

  synchronized long forwardTo() {
    return forwardTo;
  }

  synchronized void forwardTo(long sector) {
    forwardTo = Math.max(forwardTo, sector);
  }

  /** Sectors of a piece that has a sum. */
  long pieceSectors() {
    long each = (sectors + MOST_PIECES - 1) / MOST_PIECES;
    return Math.max(LEAST_PIECE, (each + LEAST_PIECE - 1) / LEAST_PIECE * LEAST_PIECE);
  }

  /** A piece of the image, as its number says; the last may be shorter. */
  Range piece(int number) {
    long start = number * pieceSectors();
    return new Range(start, Math.min(pieceSectors(), sectors - start), State.READ);
  }

  /** Whether all of a piece came, so that nothing will be written there again. */
  synchronized boolean whole(int piece) {
    Range p = piece(piece);
    return ranges(State.UNREAD, p.start(), p.length()).isEmpty()
        && ranges(State.FAILED, p.start(), p.length()).isEmpty();
  }

  synchronized boolean summed(int piece) {
    return sums.containsKey(piece);
  }

  /** Keeps the CRC-32 of a piece of the image; it is gone when something there is set anew. */
  synchronized void sum(int piece, int crc) {
    sums.put(piece, crc);
  }

  synchronized Map<Integer, Integer> sums() {
    return new TreeMap<>(sums);
  }

  /** A piece that the image does not hold as it was kept is read again. */
  synchronized void again(int piece) {
    Range p = piece(piece);
    set(p.start(), p.length(), State.UNREAD);
    forwardTo = Math.min(forwardTo, p.start());
  }

  public synchronized List<Range> ranges() {
    return new ArrayList<>(ranges.values());
  }

  public synchronized List<Range> ranges(State state) {
    return ranges.values().stream().filter(r -> r.state() == state).toList();
  }

  /** The runs of that state within a piece, cut at its ends. */
  synchronized List<Range> ranges(State state, long start, long length) {
    long end = start + length;
    List<Range> out = new ArrayList<>();
    Map.Entry<Long, Range> first = ranges.floorEntry(start);
    for (Range r : ranges.tailMap(first == null ? start : first.getKey(), true).values()) {
      if (r.start() >= end) break;
      long from = Math.max(start, r.start());
      long to = Math.min(end, r.end());
      if (r.state() == state && from < to) out.add(new Range(from, to - from, state));
    }
    return out;
  }

  /** Sectors by state. */
  public synchronized Map<State, Long> counts() {
    Map<State, Long> out = new EnumMap<>(State.class);
    for (State s : State.values()) out.put(s, counts[s.ordinal()]);
    return out;
  }

  /** Sets a run; neighbours of the same state grow together. */
  public synchronized void set(long start, long length, State state) {
    if (length <= 0) return;
    if (start < 0 || start + length > sectors) {
      throw new IllegalArgumentException("outside the map: " + start + "+" + length);
    }
    long end = start + length;
    sums.subMap((int) (start / pieceSectors()), true, (int) ((end - 1) / pieceSectors()), true)
        .clear();
    split(start);
    split(end);
    Map<Long, Range> replaced = ranges.subMap(start, true, end, false);
    for (Range r : replaced.values()) counts[r.state().ordinal()] -= r.length();
    counts[state.ordinal()] += length;
    replaced.clear();
    Map.Entry<Long, Range> before = ranges.lowerEntry(start);
    if (before != null && before.getValue().state() == state) start = before.getKey();
    Range after = ranges.get(end);
    if (after != null && after.state() == state) {
      ranges.remove(end);
      end = after.end();
    }
    ranges.put(start, new Range(start, end - start, state));
  }

  private void split(long at) {
    Map.Entry<Long, Range> e = ranges.lowerEntry(at);
    if (e == null || e.getValue().end() <= at) return;
    Range r = e.getValue();
    ranges.put(r.start(), new Range(r.start(), at - r.start(), r.state()));
    ranges.put(at, new Range(at, r.end() - at, r.state()));
  }

  /**
   * What another round of retries may buy, from what the rounds so far have brought: of those that
   * failed at first, the share that came back late.
   */
  public synchronized String another() {
    long failed = counts[State.FAILED.ordinal()];
    long late = counts[State.LATE.ordinal()];
    if (failed == 0) return "";
    if (round < 2) {
      return Say.sectors(failed)
          + " did not come yet; no round of retries is over, so nothing is known of their chance.";
    }
    long rounds = round - 1L;
    long perRound = late / rounds;
    return "In "
        + Say.plural(rounds, "round", "rounds")
        + " of retries "
        + Say.sectors(late)
        + " came back and "
        + Say.count(failed)
        + " did not. Another round may bring about "
        + Say.count(Math.min(failed, perRound / 2))
        + (perRound == 0 ? "; it is hardly worth the wear." : ".");
  }

  /** Writes the map in one step: a reader sees the old one or the new one, never half of it. */
  public void save(Path file) {
    save(file, false);
  }

  /**
   * Writes the map in one step.
   *
   * @param survivePowerLoss whether it is forced to disk; what it tells of must be there before it
   */
  public void save(Path file, boolean survivePowerLoss) {
    StringBuilder out = new StringBuilder(HEAD).append("\nsectors ").append(sectors).append('\n');
    out.append("retried ").append(round).append(' ').append(retriedTo).append('\n');
    out.append("forward ").append(forwardTo).append('\n');
    long[] times = slowest();
    for (int i = 0; i < PARTS; i++) {
      if (times[i] > 0) out.append("time ").append(i).append(' ').append(times[i]).append('\n');
    }
    for (long[] h : hung) {
      out.append("hung ").append(h[0]).append(' ').append(h[1]).append('\n');
    }
    sums().forEach((n, crc) -> out.append(String.format(Locale.ROOT, "sum %d %08x\n", n, crc)));
    for (Range r : ranges()) {
      out.append(r.start()).append(' ').append(r.length()).append(' ');
      out.append(r.state().name().toLowerCase(Locale.ROOT)).append('\n');
    }
    Path next = file.resolveSibling(file.getFileName() + ".next");
    try {
      Files.writeString(next, out, StandardCharsets.UTF_8);
      if (survivePowerLoss) Durable.force(next);
      Files.move(next, file, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
      if (survivePowerLoss) Durable.forceFolderOf(file);
    } catch (IOException e) {
      throw new ShedException(
          "The rescue map cannot be kept: " + e.getMessage() + ". Make room on the disk and go on.",
          e);
    }
  }

  /**
   * Reads a map.
   *
   * @throws ShedException with the line that makes no sense
   */
  public static RescueMap load(Path file) {
    try {
      return parse(Files.readAllLines(file, StandardCharsets.UTF_8));
    } catch (IOException e) {
      throw new ShedException("The rescue map does not read: " + e.getMessage() + ".", e);
    }
  }

  /** Reads a map from its text. */
  public static RescueMap read(String text) {
    return parse(text.lines().limit(5_000_000).toList());
  }

  static RescueMap parse(List<String> lines) {
    if (lines.size() < 3 || !lines.get(0).equals(HEAD)) {
      throw new ShedException("This is no rescue map: its first line is not \"" + HEAD + "\".");
    }
    int n = 1;
    try {
      RescueMap map = new RescueMap(Long.parseLong(lines.get(1).replaceFirst("^sectors ", "")));
      n = 2;
      String[] retried = lines.get(2).split(" ");
      map.retried(Integer.parseInt(retried[1]), Long.parseLong(retried[2]));
      long expected = 0;
      Map<Integer, Integer> told = new TreeMap<>();
      for (n = 3; n < lines.size(); n++) {
        String[] f = lines.get(n).split(" ");
        if (f[0].equals("forward")) {
          map.forwardTo(Long.parseLong(f[1]));
          continue;
        }
        if (f[0].equals("time")) {
          map.slowest[Integer.parseInt(f[1])] = Long.parseLong(f[2]);
          continue;
        }
        if (f[0].equals("hung")) {
          map.hung(Long.parseLong(f[1]), Long.parseLong(f[2]));
          continue;
        }
        if (f[0].equals("sum")) {
          told.put(Integer.parseInt(f[1]), Integer.parseUnsignedInt(f[2], 16));
          continue;
        }
        long start = Long.parseLong(f[0]);
        long length = Long.parseLong(f[1]);
        if (start != expected || length <= 0 || f.length != 3) throw new IllegalArgumentException();
        map.set(start, length, State.valueOf(f[2].toUpperCase(Locale.ROOT)));
        expected = start + length;
      }
      if (expected != map.sectors) throw new IllegalArgumentException();
      // After the runs, whose setting would take them back; of a piece that is not whole it is
      // none.
      told.forEach(
          (piece, crc) -> {
            boolean there = piece >= 0 && piece * map.pieceSectors() < map.sectors;
            if (there && map.whole(piece)) map.sum(piece, crc);
          });
      return map;
    } catch (RuntimeException e) {
      throw new ShedException(
          "Line "
              + (Math.min(n, lines.size() - 1) + 1)
              + " of the rescue map makes no sense; start the rescue anew or use"
              + " an older copy of the map.",
          e);
    }
  }
}
