package lanternshed.core.work;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
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
  private static final int MAP_EVERY_SECTORS = 8 << 11;

  private static final int MAP_EVERY_ERRORS = 8;
  private static final byte[] ZEROS = new byte[BLOCK * SECTOR];

  /**
   * How a rescue is done.
   *
   * @param retries how often a failed sector is tried again after the passes
   * @param survivePowerLoss whether the image is forced to disk before it is called whole
   */
  public record Settings(int retries, boolean survivePowerLoss) {
    public static Settings usual() {
      return new Settings(2, true);
    }
  }

  /**
   * What a rescue left.
   *
   * @param failed the runs of sectors that did not come back; the image has a marker there
   */
  public record Report(long sectors, long read, long late, List<Range> failed, Digests digests) {
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

  private Rescue(
      Medium source, Path imageFile, Path mapFile, Settings settings, Progress progress) {
    this.source = source;
    this.mapFile = mapFile;
    this.settings = settings;
    this.progress = progress;
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
    boolean nothingYet = map.counts().get(State.UNREAD) == map.sectors();
    this.image =
        nothingYet && !Files.exists(imageFile)
            ? FileMedium.create(imageFile, source.sectors())
            : FileMedium.openWritable(imageFile);
    if (map.sectors() != source.sectors() || image.sectors() != source.sectors()) {
      image.close();
      throw new ShedException(
          "The map is of a medium of "
              + map.sectors()
              + " sectors, this one has "
              + source.sectors()
              + ": it is another medium. Nothing was read.");
    }
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
    try (Medium image = r.image) {
      return r.passes();
    }
  }

  private Report passes() {
    try {
      forward();
      backward();
      singly();
      for (int i = Math.max(1, map.round()); i <= settings.retries(); i++) retry(i);
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
        digests);
  }

  private boolean allRead() {
    return map.counts().get(State.READ) == map.sectors();
  }

  // ---- passes -----------------------------------------------------------------------------------

  /** Large blocks; after an error the next read is farther away, twice as far each time. */
  private void forward() {
    if (fresh) running = new Digests.Running();
    byte[] own = new byte[BLOCK * SECTOR];
    for (Range r : map.ranges(State.UNREAD)) {
      long at = r.start();
      long skip = FIRST_SKIP;
      while (at < r.end()) {
        int n = (int) Math.min(BLOCK, r.end() - at);
        byte[] block = running != null ? running.block() : own;
        try {
          source.read(at, n, block, 0);
          put(at, n, block, State.READ);
          if (running != null) running.take(block, n * SECTOR);
          at += n;
          skip = FIRST_SKIP;
        } catch (UnreadableException e) {
          dropRunning();
          long bad = inside(e.lba(), at, n);
          beforeBad(at, bad, own);
          failed(bad);
          at = bad + 1 + skip;
          skip = Math.min(skip * 2, MOST_SKIP);
        }
        tell("reading forward");
      }
    }
  }

  /** What was skipped, from its far end, in small blocks. */
  private void backward() {
    byte[] block = new byte[SMALL_BLOCK * SECTOR];
    List<Range> todo = map.ranges(State.UNREAD);
    for (int i = todo.size() - 1; i >= 0; i--) {
      Range r = todo.get(i);
      long end = r.end();
      while (end > r.start()) {
        int n = (int) Math.min(SMALL_BLOCK, end - r.start());
        try {
          source.read(end - n, n, block, 0);
          put(end - n, n, block, State.READ);
          end -= n;
        } catch (UnreadableException e) {
          failed(inside(e.lba(), end - n, n));
          // What is left of this range is next to the error: sector by sector reads it.
          break;
        }
        tell("reading backwards");
      }
    }
  }

  private void singly() {
    byte[] block = new byte[SECTOR];
    for (Range r : map.ranges(State.UNREAD)) {
      for (long s = r.start(); s < r.end(); s++) {
        one(s, block, State.READ);
        tell("reading sector by sector");
      }
    }
  }

  private void retry(int round) {
    byte[] block = new byte[SECTOR];
    long from = map.round() == round ? map.retriedTo() : 0;
    for (Range r : map.ranges(State.FAILED)) {
      for (long s = Math.max(r.start(), from); s < r.end(); s++) {
        one(s, block, State.LATE);
        map.retried(round, s + 1);
        tell("retry " + round + " of " + settings.retries());
      }
    }
    map.retried(round + 1, 0);
  }

  private void one(long sector, byte[] block, State state) {
    try {
      source.read(sector, 1, block, 0);
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
      source.read(at, n, block, 0);
      put(at, n, block, State.READ);
    } catch (UnreadableException e) {
      // They did not come a second time; they stay unread and have their turn sector by sector.
      failed(inside(e.lba(), at, n));
    }
  }

  private static long inside(long bad, long at, int n) {
    return bad < at || bad >= at + n ? at : bad;
  }

  // ---- keeping ----------------------------------------------------------------------------------

  private void put(long at, int n, byte[] block, State state) {
    // A fresh image is sparse: zeros are there already and cost no disk. One that was gone on
    // with
    // may hold bytes which its map does not know of yet.
    boolean untouched = fresh && state == State.READ;
    if (!untouched || !Arrays.equals(block, 0, n * SECTOR, ZEROS, 0, n * SECTOR)) {
      image.write(at, n, block, 0);
    }
    map.set(at, n, state);
    sinceMap += n;
  }

  private void failed(long sector) {
    map.set(sector, 1, State.FAILED);
    errorsSinceMap++;
  }

  private void tell(String phase) {
    if (sinceMap >= MAP_EVERY_SECTORS || errorsSinceMap >= MAP_EVERY_ERRORS) keepMap();
    var counts = map.counts();
    long done = map.sectors() - counts.get(State.UNREAD);
    progress.at(phase, done * SECTOR, map.sectors() * SECTOR);
  }

  private void keepMap() {
    map.save(mapFile);
    sinceMap = 0;
    errorsSinceMap = 0;
  }

  private void dropRunning() {
    if (running == null) return;
    running.close();
    running = null;
  }

  /** Failed sectors carry a marker, so that nobody takes them for data. */
  private void mark() {
    for (Range r : map.ranges(State.FAILED)) {
      for (long s = r.start(); s < r.end(); s++) image.write(s, 1, marker(s), 0);
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
