package lanternshed.core.work;

import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeSet;
import java.util.function.LongConsumer;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MediumException;

/**
 * W-6: how many sectors a card really keeps. Each sector that is written says its own number; where
 * another number stands when it is read back, the card wraps, and by how much follows from both.
 * Everything that was on the card is gone afterwards.
 */
public final class TrueSize {
  private static final int BLOCK = 2048;

  /** Blocks of a megabyte after which what was written is made safe. */
  private static final int SAFE_EVERY = 8;

  /** The run at the start of a quick look is never shorter, 1 MiB. */
  private static final int LEAST_RUN = 2048;

  private TrueSize() {}

  /** How a card treats what lies past its end. */
  public enum Kind {
    TRUE,
    /** It lands at the start again. */
    WRAPS,
    /** It is not there when it is asked for. */
    LOSES,
    /** Sectors here and there do not keep what was written. */
    BAD
  }

  /**
   * What was found.
   *
   * @param claimed sectors that the card answers
   * @param sectors that it keeps apart, from the first on
   * @param looked at so many of them
   */
  public record Report(Kind kind, long claimed, long sectors, long looked, String sentence) {
    /** The same as a sum. */
    public Sum because() {
      return Sum.of("W-6", "True size of the card")
          .sectors("", "as it answers", claimed)
          .sectors("−", "kept apart", sectors)
          .sectors("=", "not there", claimed - sectors)
          .line("", "sectors written and read back", looked)
          .because(sentence)
          .done();
    }
  }

  /**
   * Looks quickly: a run at the start, then one sector in each stride of that length to the end.
   * Whatever size the card wraps at, some sector past it lands in the run; and the place from which
   * on nothing is kept is closed in between two strides.
   *
   * @param seed tells what this test wrote from what an earlier one did
   */
  public static Report quick(Medium card, long seed, Progress progress) {
    long claimed = card.sectors();
    long run = Math.min(claimed, Math.max(LEAST_RUN, (long) Math.ceil(Math.sqrt(claimed))));
    List<Long> strides = new ArrayList<>(strides(claimed, run));
    long steps = 2L * (run + strides.size());
    write(card, seed, 0, run, s -> {}, (p, d, t) -> progress.at("writing", d, steps * 512));
    long done = run;
    for (long s : strides) {
      card.write(s, 1, sectors(seed, s, 1), 0);
      progress.at("writing", ++done * 512, steps * 512);
    }
    card.flush();
    Found found = new Found(seed);
    for (long s = 0; s < run; s += BLOCK) {
      int n = (int) Math.min(BLOCK, run - s);
      found.read(card, s, n);
      progress.at("reading back", (done += n) * 512, steps * 512);
    }
    for (long s : strides) {
      found.read(card, s, 1);
      progress.at("reading back", ++done * 512, steps * 512);
    }
    if (found.loses()) found.firstBad = closed(card, seed, found.lastGood, found.firstBad);
    return found.report(claimed, false);
  }

  /** One in each stride, those before and at each power of two, and the last. */
  private static TreeSet<Long> strides(long claimed, long run) {
    TreeSet<Long> out = new TreeSet<>();
    for (long s = run; s < claimed; s += run) out.add(s);
    for (long p = 1; p < claimed; p *= 2) {
      out.add(p - 1);
      out.add(p);
    }
    out.add(claimed - 1);
    out.headSet(run).clear();
    return out;
  }

  /** The first sector that is not kept, between one that is and one that is not. */
  private static long closed(Medium card, long seed, long good, long bad) {
    while (bad - good > 1) {
      long middle = (good + bad) >>> 1;
      card.write(middle, 1, sectors(seed, middle, 1), 0);
      card.flush();
      Found one = new Found(seed);
      one.read(card, middle, 1);
      if (one.bad == 0) good = middle;
      else bad = middle;
    }
    return bad;
  }

  /**
   * Writes every sector from {@code from} on; the first half of a full look.
   *
   * @param safe hears the sector before which all is written whatever happens, now and then
   */
  public static void fill(Medium card, long seed, long from, LongConsumer safe, Progress progress) {
    write(
        card,
        seed,
        from,
        card.sectors(),
        safe,
        (p, d, t) -> progress.at(p, d, card.sectors() * 1024));
  }

  /** Whether this look wrote what lies on a card before {@code from}. */
  public static boolean begun(Medium card, long seed, long from) {
    return Begun.on(card, from, s -> sectors(seed, s, 1));
  }

  /** Reads every sector; the second half. */
  public static Report readAll(Medium card, long seed, Progress progress) {
    Found found = new Found(seed);
    long claimed = card.sectors();
    for (long s = 0; s < claimed; s += BLOCK) {
      int n = (int) Math.min(BLOCK, claimed - s);
      found.read(card, s, n);
      progress.at("reading back", (claimed + s + n) * 512, claimed * 1024);
    }
    return found.report(claimed, true);
  }

  private static void write(
      Medium card, long seed, long from, long to, LongConsumer safe, Progress progress) {
    for (long s = from; s < to; s += BLOCK) {
      int n = (int) Math.min(BLOCK, to - s);
      card.write(s, n, sectors(seed, s, n), 0);
      if ((s - from) / BLOCK % SAFE_EVERY == SAFE_EVERY - 1) {
        card.flush();
        safe.accept(s + n);
      }
      progress.at("writing", (s + n) * 512, to * 512);
    }
    card.flush();
    safe.accept(to);
  }

  // ---- what stands in a sector ------------------------------------------------------------------

  private static byte[] sectors(long seed, long from, int count) {
    ByteBuffer b = ByteBuffer.allocate(count * 512).order(ByteOrder.LITTLE_ENDIAN);
    for (long s = from; s < from + count; s++) put(b, seed, s);
    return b.array();
  }

  /** Its number, the seed, and numbers that follow from both, which no card packs away. */
  private static void put(ByteBuffer b, long seed, long sector) {
    b.putLong(sector).putLong(seed);
    long x = seed ^ sector * 0x9E37_79B9_7F4A_7C15L;
    for (int i = 2; i < 64; i++) {
      x = (x ^ x >>> 27) * 0x94D0_49BB_1331_11EBL + i;
      b.putLong(x);
    }
  }

  /** What was read so far. */
  private static final class Found {
    private final long seed;
    private long looked;
    private long bad;
    private long firstBad = -1;
    private long lastGood = -1;

    /** Greatest that divides every distance between a sector and the one whose number it holds. */
    private long distance;

    Found(long seed) {
      this.seed = seed;
    }

    void read(Medium card, long from, int count) {
      byte[] b = new byte[count * 512];
      try {
        card.read(from, count, b, 0);
      } catch (MediumException e) {
        if (count == 1) {
          looked++;
          bad(from);
          return;
        }
        // One that does not read must not hide its neighbours.
        for (int i = 0; i < count; i++) read(card, from + i, 1);
        return;
      }
      ByteBuffer at = ByteBuffer.wrap(b).order(ByteOrder.LITTLE_ENDIAN);
      ByteBuffer meant = ByteBuffer.wrap(sectors(seed, from, count));
      for (int i = 0; i < count; i++) {
        looked++;
        ByteBuffer is = at.slice(i * 512, 512).order(ByteOrder.LITTLE_ENDIAN);
        if (is.equals(meant.slice(i * 512, 512))) {
          lastGood = from + i;
          continue;
        }
        bad(from + i);
        boolean ours = is.getLong(8) == seed && is.getLong(0) >= 0;
        if (ours && is.equals(ByteBuffer.wrap(sectors(seed, is.getLong(0), 1)))) {
          distance = divisor(distance, Math.abs(is.getLong(0) - from - i));
        }
      }
    }

    private void bad(long sector) {
      bad++;
      if (firstBad < 0) firstBad = sector;
    }

    /** From one sector on nothing is kept. */
    boolean loses() {
      return bad > 0 && distance == 0 && lastGood < firstBad;
    }

    Report report(long claimed, boolean all) {
      if (distance > 0) {
        return new Report(
            Kind.WRAPS,
            claimed,
            distance,
            looked,
            "It has "
                + Say.sectors(distance)
                + ", not "
                + Say.count(claimed)
                + ": what is written past them lands at its start and destroys what is there.");
      }
      if (loses()) {
        return new Report(
            Kind.LOSES,
            claimed,
            firstBad,
            looked,
            "It keeps "
                + Say.sectors(firstBad)
                + " of the "
                + Say.count(claimed)
                + " that it claims; what is written past them is lost.");
      }
      if (bad > 0) {
        return new Report(
            Kind.BAD,
            claimed,
            firstBad,
            looked,
            Say.plural(bad, "sector does", "sectors do")
                + " not keep what was written, the first is "
                + Say.count(firstBad)
                + ". Do not use this card.");
      }
      return new Report(
          Kind.TRUE,
          claimed,
          claimed,
          looked,
          all
              ? "Every one of its " + Say.sectors(claimed) + " keeps what was written."
              : "It does not wrap, and all "
                  + Say.sectors(looked)
                  + " that were looked at keep what was written, the last one too.");
    }

    private static long divisor(long a, long b) {
      return b == 0 ? a : divisor(b, a % b);
    }
  }
}
