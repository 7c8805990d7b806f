package lanternshed.core.work;

import java.nio.ByteBuffer;
import java.security.GeneralSecurityException;
import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HexFormat;
import java.util.List;
import java.util.Optional;
import java.util.SplittableRandom;
import java.util.TreeSet;
import javax.crypto.Cipher;
import javax.crypto.spec.IvParameterSpec;
import javax.crypto.spec.SecretKeySpec;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sha256;
import lanternshed.core.measure.Sum;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MediumException;
import lanternshed.core.medium.UnreadableException;
import lanternshed.core.medium.UnwritableException;

/**
 * Z-3: overwrites a medium that is done with, and reads it back. Sectors that cannot be overwritten
 * are passed, counted and named: what is in them may still be there. Nothing is said of what was
 * not read back.
 *
 * <p>Deleting and formatting leave the content where it was; this does not. What a medium keeps out
 * of reach (worn blocks of a card, sectors that a drive has put aside) no writing comes to.
 */
public final class Wipe {
  private static final int BLOCK = 2048;

  /** Blocks of a megabyte after which the place is kept. */
  private static final int SAFE_EVERY = 128;

  /**
   * Had one sector in {@value #SHARE} kept its content, as many as these, taken by chance, would
   * have met one in 999 cases of 1 000: ln 0.001 ÷ ln (1 − 1/1 000).
   */
  private static final int SAMPLE = 6905;

  private static final int SHARE = 1000;
  private static final int TRIES = 3;
  private static final int PIECE = 4096;

  private final Medium medium;
  private final Order order;
  private final Spans unwritten;
  private final byte[] key;
  private long lastGood = -1;

  public Wipe(Medium medium, Order order) {
    this.medium = medium;
    this.order = order;
    this.unwritten = new Spans(order.unwritten());
    this.key = HexFormat.of().parseHex(order.key());
  }

  /** With what it is overwritten; the last pass is what stays and is read back. */
  public enum School {
    /** Zeros once: enough for a drive of today, and what a card packs away fastest. */
    ZEROS("zeros, once", false),
    /** What looks like chance, once, and is known sector by sector. */
    NOISE("noise, once", true),
    /** Noise, then zeros: the medium is empty to whoever finds it. */
    NOISE_ZEROS("noise, then zeros", true, false);

    private final String words;
    private final List<Boolean> noise;

    School(String words, Boolean... noise) {
      this.words = words;
      this.noise = List.of(noise);
    }

    public String words() {
      return words;
    }

    public int passes() {
      return noise.size();
    }

    private boolean noise(int pass) {
      return noise.get(pass);
    }
  }

  /**
   * How it is wished, and what is known of it so far.
   *
   * @param whole every sector is read back; else a sample
   * @param key 16 bytes in hexadecimal from which the noise and the sample follow
   * @param unwritten sectors that could not be overwritten so far
   */
  public record Order(School school, boolean whole, String key, List<Span> unwritten) {
    public Order {
      unwritten = unwritten == null ? List.of() : List.copyOf(unwritten);
    }

    public static Order of(School school, boolean whole, byte[] key) {
      return new Order(school, whole, HexFormat.of().formatHex(key), List.of());
    }

    /** The same, with what could not be overwritten by now. */
    Order with(List<Span> now) {
      return new Order(school, whole, key, now);
    }
  }

  /** Hears now and then before which place all is written whatever happens, and what was passed. */
  @FunctionalInterface
  public interface Safe {
    /**
     * @param place sectors, counted on from pass to pass
     */
    void at(long place, Order so);
  }

  /**
   * How it ended.
   *
   * @param looked sectors that were read back
   * @param unwritten could not be overwritten
   * @param unread did not read back
   * @param otherwise read back as something else than what was written
   * @param held sectors that read back as they were written
   * @param left sectors of which it is not shown that they are overwritten, among those looked at
   * @param sha256 of the whole medium as it read back; "" for a sample, or where one did not read
   */
  public record Report(
      School school,
      long sectors,
      long looked,
      boolean whole,
      List<Span> unwritten,
      List<Span> unread,
      List<Span> otherwise,
      long held,
      long left,
      String sha256,
      String sentence) {

    /** Whether all that was looked at is overwritten. */
    public boolean wiped() {
      return left == 0 && looked > 0;
    }

    public Sum because() {
      Sum.Builder sum =
          Sum.of("Z-3", "What was overwritten")
              .sectors("", "the medium has", sectors)
              .sectors("", "read back", looked)
              .sectors("−", "of them with something else, or not readable", looked - held)
              .sectors("=", "hold what was written", held)
              .sectors("", "could not be overwritten", Spans.sectors(unwritten));
      if (!whole) {
        sum.line("", "one in this many with old content is met in 999 of 1 000 cases", SHARE);
      }
      return sum.because(sentence).done();
    }
  }

  /** How many sectors a read-back of this kind looks at. */
  public static long looks(long sectors, boolean whole) {
    return whole ? sectors : Math.min(sectors, SAMPLE);
  }

  // ---- overwriting
  // --------------------------------------------------------------------------------

  /**
   * Overwrites from a place on that an earlier run kept; zero at first.
   *
   * @throws MediumException where the medium itself is gone
   */
  public void overwrite(long place, Safe safe, Progress progress) {
    long sectors = medium.sectors();
    for (int pass = (int) (place / sectors); pass < order.school().passes(); pass++) {
      long from = Math.max(0, place - pass * sectors);
      // What a pass overwrites needs nothing of the one before.
      if (from == 0) unwritten.clear();
      try (ReadAhead fill = new ReadAhead(new Fill(pass), BLOCK)) {
        pass(pass, from, fill, safe, progress);
      }
    }
  }

  private void pass(int pass, long from, ReadAhead fill, Safe safe, Progress progress) {
    long sectors = medium.sectors();
    long blocks = 0;
    for (long lba = from; lba < sectors; lba += BLOCK) {
      int n = (int) Math.min(BLOCK, sectors - lba);
      write(pass, lba, n, fill.at(lba, n, sectors), 0);
      long place = pass * sectors + lba + n;
      if (++blocks % SAFE_EVERY == 0 || lba + n == sectors) {
        medium.flush();
        safe.at(place, order.with(unwritten.list()));
      }
      progress.at(
          "overwriting, pass " + (pass + 1) + " of " + order.school().passes(),
          place * medium.sectorSize(),
          total());
    }
  }

  private long total() {
    long read = looks(medium.sectors(), order.whole());
    return (medium.sectors() * order.school().passes() + read) * medium.sectorSize();
  }

  /**
   * A block that fails is halved until what fails in it is known to the sector. What is no fault of
   * a sector, as a full disk below a stand-in or a medium that was changed, ends the work.
   */
  private void write(int pass, long lba, int n, byte[] from, int at) {
    try {
      medium.write(lba, n, from, at);
      lastGood = lba + n - 1;
    } catch (UnwritableException e) {
      if (n == 1) {
        there(pass, lba, e);
        unwritten.add(lba, 1);
        return;
      }
      int half = n / 2;
      write(pass, lba, half, from, at);
      write(pass, lba + half, n - half, from, at + half * medium.sectorSize());
    }
  }

  /**
   * A medium that was pulled refuses every sector; it is not to be called unwritable. Whether one
   * that worked before, or the last or the middle one, can still be written tells both apart.
   */
  private void there(int pass, long failed, MediumException e) {
    long[] others = {lastGood, medium.sectors() - 1, medium.sectors() / 2};
    for (long other : others) {
      if (other < 0 || other == failed) continue;
      try {
        medium.read(other, 1, new byte[medium.sectorSize()], 0);
        medium.write(other, 1, fill(pass, other, 1), 0);
        return;
      } catch (MediumException again) {
        // The next one may tell.
      }
    }
    throw e;
  }

  /**
   * Whether this wiping wrote what lies on a medium before a place; sectors that could not be
   * written say nothing.
   */
  public boolean begun(long place) {
    if (place <= 0) return false;
    long sectors = medium.sectors();
    int pass = (int) ((place - 1) / sectors);
    // Where a pass had just ended, the next one may have come a little way.
    boolean next = place % sectors == 0 && pass + 1 < order.school().passes();
    return Begun.on(
        medium,
        (place - 1) % sectors + 1,
        s -> fill(pass, s, 1),
        s -> unwritten.has(s) || next && Arrays.equals(fill(pass + 1, s, 1), medium.sector(s)));
  }

  // ---- reading back
  // -------------------------------------------------------------------------------

  /** What was found so far. */
  private final class Found {
    final Spans unread = new Spans();
    final Spans otherwise = new Spans();
    final MessageDigest digest = order.whole() ? Sha256.fresh() : null;
    long looked;

    /** Counted one by one: spans may name more than failed. */
    long held;

    long different;
    private long heldUnwritten;

    /** Sectors that may hold what was there: of those looked at, and those known besides. */
    long left() {
      return looked - held + heldUnwritten + Math.max(0, unwritten.sectors() - metUnwritten);
    }

    private long metUnwritten;

    void block(long lba, byte[] is) {
      int size = medium.sectorSize();
      byte[] meant = fill(order.school().passes() - 1, lba, is.length / size);
      if (digest != null) digest.update(is);
      looked += is.length / size;
      boolean same = Arrays.equals(is, meant);
      for (int i = 0; i < is.length / size; i++) {
        boolean other =
            !same && !Arrays.equals(is, i * size, (i + 1) * size, meant, i * size, (i + 1) * size);
        boolean known = unwritten.has(lba + i);
        if (other) otherwise.add(lba + i, 1);
        if (other) different++;
        else held++;
        if (known) metUnwritten++;
        // It reads as written though it took nothing: what it holds for good is not known.
        if (known && !other) heldUnwritten++;
      }
    }

    void none(long lba) {
      looked++;
      unread.add(lba, 1);
      if (unwritten.has(lba)) metUnwritten++;
    }
  }

  /**
   * Reads back what was overwritten.
   *
   * @throws MediumException where the medium itself is gone
   */
  public Report look(Progress progress) {
    Found found = new Found();
    if (order.whole()) whole(found, progress);
    else sample(found, progress);
    String sha256 =
        order.whole() && found.unread.list().isEmpty()
            ? HexFormat.of().formatHex(found.digest.digest())
            : "";
    return new Report(
        order.school(),
        medium.sectors(),
        found.looked,
        order.whole(),
        unwritten.list(),
        found.unread.list(),
        found.otherwise.list(),
        found.held,
        found.left(),
        sha256,
        sentence(found));
  }

  private void whole(Found found, Progress progress) {
    long sectors = medium.sectors();
    try (ReadAhead ahead = new ReadAhead(medium, BLOCK)) {
      for (long lba = 0; lba < sectors; lba += BLOCK) {
        int n = (int) Math.min(BLOCK, sectors - lba);
        try {
          byte[] b = ahead.at(lba, n, sectors);
          found.block(lba, n == BLOCK ? b : Arrays.copyOf(b, n * medium.sectorSize()));
          lastGood = lba;
        } catch (UnreadableException e) {
          singly(found, lba, n);
        }
        told(found, progress);
      }
    }
  }

  private void sample(Found found, Progress progress) {
    for (long lba : chosen()) {
      singly(found, lba, 1);
      told(found, progress);
    }
  }

  private void told(Found found, Progress progress) {
    long written = medium.sectors() * order.school().passes();
    progress.at("reading back", (written + found.looked) * medium.sectorSize(), total());
  }

  private void singly(Found found, long lba, int n) {
    for (long s = lba; s < lba + n; s++) {
      Optional<byte[]> b = patiently(s);
      if (b.isPresent()) found.block(s, b.get());
      else found.none(s);
    }
  }

  /** A sector of an old drive may come at the second or third try. */
  private Optional<byte[]> patiently(long sector) {
    for (int tries = 1; ; tries++) {
      try {
        byte[] b = medium.sector(sector);
        lastGood = sector;
        return Optional.of(b);
      } catch (UnreadableException e) {
        if (tries < TRIES) continue;
        stillReads(sector, e);
        return Optional.empty();
      }
    }
  }

  private void stillReads(long failed, MediumException e) {
    for (long other : new long[] {lastGood, medium.sectors() - 1, medium.sectors() / 2}) {
      if (other < 0 || other == failed) continue;
      try {
        medium.sector(other);
        return;
      } catch (MediumException again) {
        // The next one may tell.
      }
    }
    throw e;
  }

  private TreeSet<Long> chosen() {
    long sectors = medium.sectors();
    TreeSet<Long> out = new TreeSet<>();
    long many = looks(sectors, false);
    SplittableRandom random = new SplittableRandom(ByteBuffer.wrap(key).getLong());
    if (many == sectors) {
      for (long s = 0; s < sectors; s++) out.add(s);
      return out;
    }
    while (out.size() < many) out.add(random.nextLong(sectors));
    return out;
  }

  // ---- what is written
  // ----------------------------------------------------------------------------

  private byte[] fill(int pass, long lba, int n) {
    return new Fill(pass).sectors(lba, n);
  }

  /**
   * What a pass leaves, as a medium that is only read: zeros, or the key stream of a block cipher
   * in counter mode, of which any sector is known without the others.
   */
  private final class Fill implements Medium {
    private final boolean noise;

    Fill(int pass) {
      noise = order.school().noise(pass);
    }

    @Override
    public void read(long lba, int count, byte[] into, int at) {
      int bytes = count * sectorSize();
      Arrays.fill(into, at, at + bytes, (byte) 0);
      if (!noise) return;
      try {
        Cipher c = Cipher.getInstance("AES/CTR/NoPadding");
        byte[] counter = ByteBuffer.allocate(16).putLong(8, lba * sectorSize() / 16).array();
        c.init(Cipher.ENCRYPT_MODE, new SecretKeySpec(key, "AES"), new IvParameterSpec(counter));
        // In pieces, in place: what is called often is compiled soon, eight times as fast.
        for (int i = 0; i < bytes; i += PIECE) {
          c.update(into, at + i, Math.min(PIECE, bytes - i), into, at + i);
        }
      } catch (GeneralSecurityException e) {
        throw new IllegalStateException("every Java has this cipher", e);
      }
    }

    @Override
    public void write(long lba, int count, byte[] from, int at) {
      throw new MediumException("A pattern is not written.");
    }

    @Override
    public int sectorSize() {
      return medium.sectorSize();
    }

    @Override
    public long sectors() {
      return medium.sectors();
    }

    @Override
    public String name() {
      return "a pattern";
    }
  }

  // ---- sentences
  // ----------------------------------------------------------------------------------

  private String sentence(Found f) {
    List<String> out = new ArrayList<>();
    out.add("Overwritten with " + order.school().words() + ".");
    long left = f.left();
    String how =
        order.whole()
            ? "read back whole: "
            : "a sample of " + Say.sectors(f.looked) + " read back: ";
    if (left == 0) {
      out.add(capital(how) + "all " + Say.sectors(f.looked) + " hold what was written.");
    } else {
      out.add(
          capital(how)
              + Say.sectors(left)
              + " may still hold what was there. Where that matters, destroy the medium.");
    }
    if (f.different > f.looked / 4 && order.school() == School.NOISE) {
      out.add("It holds less than it says: what is written past its end lands at its start.");
    }
    return String.join(" ", out);
  }

  private static String capital(String s) {
    return Character.toUpperCase(s.charAt(0)) + s.substring(1);
  }
}
