package lanternshed.core.work;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.function.LongSupplier;
import java.util.function.Supplier;
import java.util.zip.CRC32;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.UnreadableException;
import lanternshed.core.work.RescueMap.Range;
import lanternshed.core.work.RescueMap.State;

/**
 * Images a medium that may be failing, in passes: forward in large blocks with growing skips
 * after an error, backwards over what was skipped, sector by sector, and retries up to a bound. The
 * map beside the image is written after the image's own bytes, so it never claims more than the
 * image holds, and a rescue that was stopped or killed goes on from it.
 */
public final class Rescue {
  private static final int SECTOR = 512;
  private static final int BLOCK = Digests.Running.BLOCK / SECTOR;
  private static final int SMALL_BLOCK = 128;
  private static final int FIRST_SKIP = 64;
  private static final int MOST_SKIP = 1 << 16;

  /** The map is kept after so many sectors or errors, whichever comes first. */
  private static final int MAP_EVERY_SECTORS = 16 << 11;

  private static final int MAP_EVERY_ERRORS = 8;

  /** How many sectors that were read are compared when a rescue goes on, and looked at for it. */
  private static final int IDENTITY_SECTORS = 8;

  private static final int IDENTITY_LOOKS = 64;
  private static final byte[] ZEROS = new byte[BLOCK * SECTOR];

  /** With a clock, a block is as large as the medium gives in this time. */
  private static final long BLOCK_NANOS = 32_000_000;

  /**
   * A block that takes so many times longer than usual, and so long, is a slow zone: on past it.
   */
  private static final int SLOW_TIMES = 4;

  private static final long SLOW_NANOS = 100_000_000;
  private static final long SLOW_SKIP = 1024;

  /**
   * What a person may change while a rescue runs.
   *
   * @param retries how often a failed sector is tried again after the passes
   * @param filesFirst table, FATs, folders and used clusters before everything else
   * @param skipFree whether free space is left out for good; only with {@code filesFirst}
   */
  public record Wish(int retries, boolean filesFirst, boolean skipFree) {
    public static final Wish USUAL = new Wish(2, false, false);
  }

  /**
   * How a rescue is done.
   *
   * @param wish asked before each read, so that it may change
   * @param survivePowerLoss whether the image is forced to disk before it is called whole
   * @param clock nanoseconds of the medium's own time; one that stands still where none is known
   * @param stall a read that takes longer is given up and the run pauses; zero waits for ever
   */
  public record Settings(
      Supplier<Wish> wish, boolean survivePowerLoss, LongSupplier clock, Duration stall) {
    public static Settings of(Wish wish, boolean survivePowerLoss) {
      return new Settings(() -> wish, survivePowerLoss, () -> 0, Duration.ZERO);
    }
  }

  /**
   * What a rescue left.
   *
   * @param failed the runs of sectors that did not come back; the image has a marker there
   * @param left sectors that were left out on purpose: free space
   * @param again sectors that the image, when the rescue went on, did not hold any more as they
   *     came: they were read again, and the disk that the image lies on is to be looked at
   */
  public record Report(
      long sectors,
      long read,
      long late,
      List<Range> failed,
      long left,
      long again,
      Digests digests) {
    public long lost() {
      return failed.stream().mapToLong(Range::length).sum();
    }
  }

  private final Medium source;
  private final Path mapFile;
  private final Settings settings;
  private final Progress progress;
  private final RescueMap map;
  private final Medium image;
  private final boolean fresh;
  private long sinceMap;
  private int errorsSinceMap;
  private Digests.Running running;
  private final PatientReader reader;
  private Wish wish;
  private long usualNanos;

  /** Pieces of the image in which something was put since the map was kept. */
  private final BitSet touched = new BitSet();

  /** The sum of the piece that is read from its start on, and where it goes on. */
  private final CRC32 growing = new CRC32();

  private long growsAt = -1;

  /** Sectors that the image did not hold any more as they came, and that were read again. */
  private long again;

  /** Runs that are wanted; empty for everything. */
  private List<long[]> wanted = List.of();

  /** The wish has changed: the passes are planned anew over what is left. */
  private static final class Changed extends RuntimeException {
    private static final long serialVersionUID = 1;

    Changed() {
      super(null, null, false, false);
    }
  }

  /** A read that did not return: the medium was let go, and the work pauses with what it has. */
  private static final class LetGo extends StoppedException {
    private static final long serialVersionUID = 1;

    LetGo(long sector) {
      super(
          "The medium answered nothing at sector "
              + sector
              + " and was let go; all that came is kept. Look whether it still turns, then go on: it"
              + " continues past this place and comes back to it last.");
    }
  }

  private Rescue(
      Medium source, Path imageFile, Path mapFile, Settings settings, Progress progress) {
    this.source = source;
    this.mapFile = mapFile;
    this.settings = settings;
    this.progress = progress;
    this.reader = new PatientReader(source, settings.stall());
    if (source.sectorSize() != SECTOR) {
      throw new ShedException(
          "The medium has sectors of " + source.sectorSize() + " B; 512 B can be rescued.");
    }
    this.fresh = !Files.exists(mapFile);
    if (fresh) {
      this.map = new RescueMap(source.sectors());
      if (Files.exists(imageFile)) {
        throw new ShedException(
            "There is an image of this name without a map; it is not written over. Move it away.");
      }
      // The map first: an image is never there without one, however early the program is killed.
      map.save(mapFile);
    } else {
      this.map = RescueMap.load(mapFile);
    }
    if (map.sectors() != source.sectors()) {
      throw new ShedException(
          "The map is of a medium of "
              + Say.sectors(map.sectors())
              + ", this one has "
              + Say.count(source.sectors())
              + ": it is another medium. Nothing was read.");
    }
    boolean nothingYet = map.counts().get(State.UNREAD) == map.sectors();
    if (!nothingYet && !Files.exists(imageFile)) {
      throw new ShedException(
          "The map is there, but its image "
              + imageFile.getFileName()
              + " is gone. Put the image back beside it, or remove the map to begin anew.");
    }
    FileMedium file =
        nothingYet
            ? FileMedium.begin(imageFile, source.sectors())
            : FileMedium.openWritable(imageFile);
    this.image = file;
    try {
      if (!nothingYet) file.lock();
      if (file.sectors() != source.sectors()) {
        throw new ShedException(
            "The image has "
                + Say.sectors(file.sectors())
                + ", but its map tells of "
                + Say.count(map.sectors())
                + ": it was cut since. Put the whole image back, or remove both to begin anew.");
      }
      sameMedium();
    } catch (RuntimeException e) {
      file.close();
      reader.close();
      throw e;
    }
  }

  /**
   * Sectors that were read already must read the same: another drive may have been put in the place
   * of the first while the rescue stood. Blank sectors tell nothing, and one that no longer reads
   * is no proof of another drive.
   *
   * @throws ShedException where one differs
   */
  private void sameMedium() {
    List<Range> read = map.ranges(State.READ);
    long all = read.stream().mapToLong(Range::length).sum();
    if (all == 0) return;
    int compared = 0;
    byte[] now = new byte[SECTOR];
    for (int k = 0; k < IDENTITY_LOOKS && compared < IDENTITY_SECTORS; k++) {
      long s = nth(read, all * k / IDENTITY_LOOKS);
      byte[] before = image.sector(s);
      if (Arrays.equals(before, 0, SECTOR, ZEROS, 0, SECTOR)) continue;
      try {
        reader.read(s, 1, now);
      } catch (UnreadableException e) {
        continue;
      } catch (PatientReader.Stalled e) {
        throw new LetGo(s);
      }
      if (!Arrays.equals(before, now)) {
        throw new ShedException(
            "This is another medium of the same size: sector "
                + Say.count(s)
                + " reads otherwise than when it was rescued. Nothing was read. Put the first one back"
                + " and go on, or cancel and begin anew with this one.");
      }
      compared++;
    }
  }

  private static long nth(List<Range> ranges, long n) {
    for (Range r : ranges) {
      if (n < r.length()) return r.start() + n;
      n -= r.length();
    }
    throw new IllegalArgumentException("past the end");
  }

  /**
   * Runs or goes on.
   *
   * @throws StoppedException where the listener stops it; map and image stay and the rescue goes on
   *     later
   */
  public static Report run(
      Medium source, Path imageFile, Path mapFile, Settings settings, Progress progress) {
    Rescue r = new Rescue(source, imageFile, mapFile, settings, progress);
    try (Medium image = r.image;
        PatientReader reader = r.reader) {
      return r.passes();
    }
  }

  private Report passes() {
    try {
      if (!fresh) held();
      while (!round()) wanted = List.of();
      mark();
    } finally {
      keepMap();
      if (!allRead()) dropRunning();
    }
    if (settings.survivePowerLoss()) image.flush();
    Digests digests =
        running != null ? running.done() : Digests.of(image, progress, "digesting the image");
    var counts = map.counts();
    return new Report(
        map.sectors(),
        counts.get(State.READ),
        counts.get(State.LATE),
        map.ranges(State.FAILED),
        counts.get(State.UNREAD),
        again,
        digests);
  }

  /** What the map says that came must lie in the image as it came, or it is read again. */
  private void held() {
    byte[] block = new byte[BLOCK * SECTOR];
    long each = map.pieceSectors() * SECTOR;
    long all = map.sums().size() * each;
    long done = 0;
    for (Map.Entry<Integer, Integer> e : map.sums().entrySet()) {
      progress.at("looking whether the image still holds what came", done, all);
      done += each;
      if (sum(e.getKey(), block) == e.getValue()) continue;
      again += map.piece(e.getKey()).length();
      map.again(e.getKey());
    }
  }

  private int sum(int piece, byte[] block) {
    Range p = map.piece(piece);
    CRC32 crc = new CRC32();
    for (long at = p.start(); at < p.end(); at += BLOCK) {
      int n = (int) Math.min(BLOCK, p.end() - at);
      image.read(at, n, block, 0);
      crc.update(block, 0, n * SECTOR);
    }
    return (int) crc.getValue();
  }

  /** The sums of what came since the map was kept, of pieces that are whole now. */
  private void sums() {
    byte[] block = null;
    for (int p = touched.nextSetBit(0); p >= 0; p = touched.nextSetBit(p + 1)) {
      if (map.summed(p) || !map.whole(p)) continue;
      if (block == null) block = new byte[BLOCK * SECTOR];
      map.sum(p, sum(p, block));
    }
    touched.clear();
  }

  /** The sum grows with a piece that is read in order, so that it need not be read back for it. */
  private void grown(long at, int n, byte[] block) {
    long each = map.pieceSectors();
    touched.set((int) (at / each), (int) ((at + n - 1) / each) + 1);
    for (long s = at; s < at + n; ) {
      int piece = (int) (s / each);
      Range p = map.piece(piece);
      long end = Math.min(at + n, p.end());
      if (s == p.start()) growing.reset();
      else if (s != growsAt) return;
      growing.update(block, (int) (s - at) * SECTOR, (int) (end - s) * SECTOR);
      growsAt = end;
      if (end == p.end()) map.sum(piece, (int) growing.getValue());
      s = end;
    }
  }

  private boolean allRead() {
    return map.counts().get(State.READ) == map.sectors();
  }

  // ---- passes -----------------------------------------------------------------------------------

  /** All passes under the wish of the moment; false when it changed meanwhile. */
  private boolean round() {
    wish = settings.wish().get();
    try {
      if (wish.filesFirst()) {
        dropRunning();
        wanted = Wanted.used(new OnDemand());
        if (!wanted.isEmpty()) forward("reading what is in use", 0);
        if (!wish.skipFree()) wanted = List.of();
      } else if (fresh && map.counts().get(State.UNREAD) == map.sectors()) {
        running = new Digests.Running();
      }
      forward("reading forward", map.forwardTo());
      backward(true);
      backward(false);
      singly();
      for (int i = Math.max(1, map.round()); i <= wish.retries(); i++) retry(i);
      return true;
    } catch (Changed e) {
      dropRunning();
      return false;
    }
  }

  /** What is unread and wanted. */
  private List<Range> unread() {
    List<Range> all = map.ranges(State.UNREAD);
    if (wanted.isEmpty()) return all;
    List<Range> out = new ArrayList<>();
    int w = 0;
    for (Range r : all) {
      while (w < wanted.size() && wanted.get(w)[0] + wanted.get(w)[1] <= r.start()) w++;
      for (int i = w; i < wanted.size() && wanted.get(i)[0] < r.end(); i++) {
        long from = Math.max(r.start(), wanted.get(i)[0]);
        long to = Math.min(r.end(), wanted.get(i)[0] + wanted.get(i)[1]);
        if (from < to) out.add(new Range(from, to - from, State.UNREAD));
      }
    }
    return out;
  }

  /**
   * Blocks that take about the same time; after an error, or where it becomes slow, the next read
   * is farther away, twice as far each time.
   */
  private void forward(String phase, long from) {
    byte[] own = new byte[BLOCK * SECTOR];
    for (Range r : unread()) {
      if (r.end() <= from) continue;
      long at = Math.max(from, r.start());
      long skip = FIRST_SKIP;
      long slowSkip = SLOW_SKIP;
      while (at < r.end()) {
        int n = (int) map.beforeHung(at, Math.min(blockNow(), r.end() - at));
        if (n == 0) {
          // Which of them hung is not known: the backward pass comes there in small blocks.
          at++;
          continue;
        }
        byte[] block = running != null ? running.block() : own;
        try {
          long nanos = read(at, n, block);
          put(at, n, block, State.READ);
          if (running != null) running.take(block, n * SECTOR);
          at += n;
          skip = FIRST_SKIP;
          boolean slow = slow(nanos, n);
          if (slow && at + slowSkip < r.end()) {
            dropRunning();
            at += slowSkip;
            slowSkip = Math.min(slowSkip * 2, MOST_SKIP);
          } else if (!slow) {
            if (nanos > 0)
              usualNanos = usualNanos == 0 ? nanos / n : (7 * usualNanos + nanos / n) / 8;
            slowSkip = SLOW_SKIP;
          }
        } catch (UnreadableException e) {
          dropRunning();
          long bad = inside(e.lba(), at, n);
          beforeBad(at, bad, own);
          failed(bad);
          at = bad + 1 + skip;
          skip = Math.min(skip * 2, MOST_SKIP);
        }
        if (wanted.isEmpty()) map.forwardTo(Math.min(at, map.sectors()));
        tell(phase);
      }
    }
  }

  private boolean slow(long nanos, int n) {
    return usualNanos > 0 && nanos > SLOW_NANOS && nanos / n > SLOW_TIMES * usualNanos;
  }

  private long blockNow() {
    if (usualNanos > 0) return Math.max(FIRST_SKIP, Math.min(BLOCK, BLOCK_NANOS / usualNanos));
    // Nothing is known of its speed yet: small where there is a clock to learn it by.
    return settings.clock().getAsLong() == 0 ? BLOCK : FIRST_SKIP;
  }

  /** Reads, keeps the time, and gives up on a read that does not return. */
  private long read(long at, int n, byte[] block) {
    long before = settings.clock().getAsLong();
    try {
      reader.read(at, n, block);
    } catch (PatientReader.Stalled e) {
      if (n <= SMALL_BLOCK) map.set(at, n, State.FAILED);
      else map.hung(at, n);
      dropRunning();
      throw new LetGo(at);
    }
    long nanos = settings.clock().getAsLong() - before;
    if (nanos > 0) map.timed(at, nanos / n);
    return nanos;
  }

  /**
   * What was skipped, from its far end: blocks, and near an error sector by sector (trimming). What
   * is slow has its turn when everything that is quick has come.
   */
  private void backward(boolean leaveSlow) {
    byte[] block = new byte[SMALL_BLOCK * SECTOR];
    List<Range> todo = unread();
    for (int i = todo.size() - 1; i >= 0; i--) {
      Range r = todo.get(i);
      long end = r.end();
      // Past a skip of the first size lies the other edge of the bad place.
      int most = r.length() <= FIRST_SKIP ? 1 : SMALL_BLOCK;
      while (end > r.start()) {
        int n = (int) Math.min(most, end - r.start());
        try {
          long nanos = read(end - n, n, block);
          put(end - n, n, block, State.READ);
          end -= n;
          if (leaveSlow && slow(nanos, n)) break;
        } catch (UnreadableException e) {
          failed(inside(e.lba(), end - n, n));
          // What is left of this range is next to the error: sector by sector reads it.
          break;
        }
        tell("reading backwards");
      }
    }
  }

  /** What lies between two errors (scraping). */
  private void singly() {
    byte[] block = new byte[SECTOR];
    for (Range r : unread()) {
      for (long s = r.start(); s < r.end(); s++) {
        one(s, block, State.READ);
        tell("reading sector by sector");
      }
    }
  }

  /**
   * Each failed sector once more. Every second round goes from the end to the start: a place where
   * reads hang ends the run it is in, and so is come to from both sides.
   */
  private void retry(int round) {
    byte[] block = new byte[SECTOR];
    boolean back = round % 2 == 0;
    long from = map.round() == round ? map.retriedTo() : back ? map.sectors() : 0;
    List<Range> failed = new ArrayList<>(map.ranges(State.FAILED));
    if (back) Collections.reverse(failed);
    for (Range r : failed) {
      long low = back ? r.start() : Math.max(r.start(), from);
      long high = back ? Math.min(r.end(), from) : r.end();
      for (long i = 0; i < high - low; i++) {
        long s = back ? high - 1 - i : low + i;
        try {
          one(s, block, State.LATE);
        } catch (LetGo e) {
          // Going on must not come to it again at once.
          map.retried(round, back ? r.start() : r.end());
          throw e;
        }
        map.retried(round, back ? s : s + 1);
        tell("retry " + round + " of " + wish.retries());
      }
    }
    map.retried(round + 1, back ? 0 : map.sectors());
  }

  private void one(long sector, byte[] block, State state) {
    try {
      read(sector, 1, block);
      put(sector, 1, block, state);
    } catch (UnreadableException e) {
      failed(sector);
    }
  }

  /** The good sectors of a block before its first bad one. */
  private void beforeBad(long at, long bad, byte[] block) {
    int n = (int) (bad - at);
    if (n == 0) return;
    try {
      read(at, n, block);
      put(at, n, block, State.READ);
    } catch (UnreadableException e) {
      // They did not come a second time; they stay unread and have their turn sector by sector.
      failed(inside(e.lba(), at, n));
    }
  }

  /**
   * The image as far as it is read; what is asked of it and is unread is read now. Table, FATs and
   * folders come this way, in the order in which they are needed to know the rest.
   */
  private final class OnDemand implements Medium {
    @Override
    public int sectorSize() {
      return SECTOR;
    }

    @Override
    public long sectors() {
      return map.sectors();
    }

    @Override
    public void read(long lba, int count, byte[] into, int at) {
      bound(lba, count);
      byte[] block = new byte[SMALL_BLOCK * SECTOR];
      for (Range r : map.ranges(State.UNREAD, lba, count)) {
        long s = r.start();
        while (s < r.end()) {
          int n = (int) Math.min(SMALL_BLOCK, r.end() - s);
          try {
            Rescue.this.read(s, n, block);
            put(s, n, block, State.READ);
            s += n;
          } catch (UnreadableException e) {
            long bad = inside(e.lba(), s, n);
            beforeBad(s, bad, block);
            failed(bad);
            s = bad + 1;
          }
          tell("reading table, FATs and folders");
        }
      }
      image.read(lba, count, into, at);
    }

    @Override
    public void write(long lba, int count, byte[] from, int at) {
      throw new ShedException("A rescue writes nothing to its source.");
    }

    @Override
    public String name() {
      return source.name();
    }
  }

  private static long inside(long bad, long at, int n) {
    return bad < at || bad >= at + n ? at : bad;
  }

  // ---- keeping ----------------------------------------------------------------------------------

  private void put(long at, int n, byte[] block, State state) {
    // A fresh image is sparse: zeros are there already and cost no disk. One that was gone on
    // with may hold bytes which its map does not know of yet.
    boolean untouched = fresh && state == State.READ;
    if (!untouched || !Arrays.equals(block, 0, n * SECTOR, ZEROS, 0, n * SECTOR)) {
      image.write(at, n, block, 0);
    }
    map.set(at, n, state);
    grown(at, n, block);
    sinceMap += n;
  }

  private void failed(long sector) {
    map.set(sector, 1, State.FAILED);
    errorsSinceMap++;
  }

  private void tell(String phase) {
    if (!settings.wish().get().equals(wish)) {
      Wish now = settings.wish().get();
      // More or fewer retries need no new plan.
      if (now.filesFirst() != wish.filesFirst() || now.skipFree() != wish.skipFree()) {
        throw new Changed();
      }
      wish = now;
    }
    if (sinceMap >= MAP_EVERY_SECTORS || errorsSinceMap >= MAP_EVERY_ERRORS) keepMap();
    var counts = map.counts();
    long done = map.sectors() - counts.get(State.UNREAD);
    progress.at(phase, done * SECTOR, map.sectors() * SECTOR);
  }

  private void keepMap() {
    // The image's bytes first: after a loss of power the map must not claim what is not there.
    sums();
    if (settings.survivePowerLoss()) image.flush();
    map.save(mapFile, settings.survivePowerLoss());
    sinceMap = 0;
    errorsSinceMap = 0;
  }

  private void dropRunning() {
    if (running == null) return;
    running.close();
    running = null;
  }

  /**
   * Failed sectors carry a marker, so that nobody takes them for data. What lies there came once,
   * of a piece that was read again and did not come whole: it is no longer vouched for, and stays.
   */
  private void mark() {
    for (Range r : map.ranges(State.FAILED)) {
      for (long s = r.start(); s < r.end(); s++) {
        byte[] there = image.sector(s);
        if (Arrays.equals(there, 0, SECTOR, ZEROS, 0, SECTOR)) image.write(s, 1, marker(s), 0);
      }
    }
  }

  /** The 512 bytes that stand for a sector which did not come back. */
  public static byte[] marker(long sector) {
    byte[] line =
        String.format("NOT READ: SECTOR %014d\n", sector).getBytes(StandardCharsets.US_ASCII);
    byte[] b = new byte[SECTOR];
    for (int i = 0; i < SECTOR; i++) b[i] = line[i % line.length];
    return b;
  }
}
