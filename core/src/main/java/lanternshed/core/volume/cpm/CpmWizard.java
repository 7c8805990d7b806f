package lanternshed.core.volume.cpm;

import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import lanternshed.core.medium.Medium;
import lanternshed.core.volume.VolumeException;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/**
 * CP/M writes no mark: sets of parameters are tried, and the folder that each would give is scored
 * by how plausible its entries are, whether their records agree with their blocks, and whether
 * blocks are taken twice (C-2, C-4).
 */
final class CpmWizard {
  /** Below this nothing is claimed. */
  private static final int ENOUGH_PERCENT = 95;

  /** Sets of known media, and of whole cards and drives whose number of blocks is their size's. */
  private static final List<CpmLayout> SETS = read();

  /** Formats of the time go no further from one sector to the next. */
  private static final int MOST_SKEW = 6;

  /** Blocks of 16-bit numbers. */
  private static final int MOST_BLOCKS = 65_536;

  /** Tracks and sides of disks of the time, and how many sectors of 512 one of them has at most. */
  private static final int[][] DISKS = {
    {35, 1, 10}, {35, 2, 10}, {40, 1, 10}, {40, 2, 10},
    {77, 1, 16}, {77, 2, 16}, {80, 1, 21}, {80, 2, 21}
  };

  private static final long MOST_DISK = 2 << 20;
  private static final int LEAST_TRACK = 4096;
  private static final int MOST_RESERVED = 4;
  private static final int MOST_UNNAMED = 256;

  /** Layouts whose files are looked at; a folder that fits more says nothing. */
  private static final int MOST_EQUALS = 24;

  private CpmWizard() {}

  /**
   * How well a set fits.
   *
   * @param sensible entries that are free or make sense
   * @param live entries in use that make sense
   * @param exact how many of them have as many blocks as their records ask for
   * @param twice blocks that are taken twice
   * @param close whether the first file begins right behind the folder
   * @param fills whether the volume ends where the medium does
   */
  record Score(
      CpmLayout set, int sensible, int live, int exact, int twice, boolean close, boolean fills) {
    int percent() {
      return sensible * 100 / set.entries() - Math.min(100, twice * 10);
    }

    private long worth() {
      return percent() * 1_000_000L
          + Math.min(exact, 99_999) * 4L
          + (fills ? 2 : 0)
          + (close ? 1 : 0);
    }
  }

  /**
   * What was found.
   *
   * @param content what the files of the best say
   * @param others that explain the folder as well and read other files, the likelier first
   */
  record Guess(Score best, CpmEvidence content, List<CpmLayout> others) {

    /**
     * Whether something besides the folder speaks for it: texts that only this layout gives whole;
     * or that there is nothing to choose, on a card without tracks whose folder's every entry has
     * as many blocks as its records ask for.
     */
    boolean proved(Medium m) {
      boolean card = m.bytes() > MOST_DISK && best.set().wholeMedium();
      boolean exact = best.exact() == best.live() && best.percent() == 100;
      return others.isEmpty() && (content.supports() || card && exact);
    }
  }

  /**
   * The layout under which the folder makes most sense, when one is good enough. Where several do
   * equally the content of the files decides between them (C-8), and what it leaves undecided is
   * told with it.
   */
  static Optional<Guess> best(Medium m) {
    List<Score> good =
        new ArrayList<>(
            candidates(m).stream().map(p -> score(m, p)).filter(CpmWizard::enough).toList());
    // The folder's worth first; of equals the order of the list, whose known media come first.
    good.sort(Comparator.comparingLong(Score::worth).reversed());
    if (good.isEmpty()) return Optional.empty();
    Score top = good.get(0);
    List<Score> equals = new ArrayList<>();
    for (Score s : good) {
      boolean equal = s.percent() == top.percent() && s.exact() == top.exact();
      boolean told = equals.stream().anyMatch(e -> e.set().readsAs(s.set()));
      if (equal && !told && equals.size() < MOST_EQUALS) equals.add(s);
    }
    Map<Score, CpmEvidence> content = new LinkedHashMap<>();
    // A drive that fails is asked for no more than it must: of a card with one answer, no content.
    boolean ask = equals.size() > 1 || m.bytes() <= MOST_DISK;
    for (Score s : equals) content.put(s, ask ? CpmEvidence.of(m, s.set()) : CpmEvidence.NONE);
    Score best = top;
    for (Score s : equals) if (better(content.get(s), content.get(best))) best = s;
    List<CpmLayout> others = new ArrayList<>();
    for (Score s : equals) {
      boolean excluded = content.get(best).supports() && content.get(s).disagree() > 0;
      if (s != best && !excluded) others.add(s.set());
    }
    return Optional.of(new Guess(best, content.get(best), others));
  }

  private static boolean better(CpmEvidence a, CpmEvidence b) {
    if (a.disagree() != b.disagree()) return a.disagree() < b.disagree();
    return a.agree() > b.agree();
  }

  static List<CpmLayout> sets() {
    return SETS;
  }

  /**
   * Most entries of a first sector that may be nonsense: a folder is damaged, other data are all.
   */
  private static final int MOST_NONSENSE = 4;

  private static List<CpmLayout> candidates(Medium m) {
    List<CpmLayout> out = new ArrayList<>();
    for (CpmLayout p : SETS) {
      boolean fits = p.offset() + (long) p.entries() * CpmLayout.ENTRY <= m.bytes();
      int looked = p.skewed() ? p.sectorBytes() : 512;
      if (!fits || !mayBegin(m, p.offset() / 512, looked)) continue;
      out.add(p);
      if (p.perTrack() == 0 || p.skewed()) continue;
      for (int skew = 2; skew <= MOST_SKEW; skew++) out.add(p.skewed(skew));
    }
    if (m.bytes() <= MOST_DISK) unnamed(m, out);
    if (!mayBegin(m, 0, 512)) return out;
    for (int block = 1024; block <= 16_384; block *= 2) {
      long blocks = Math.min(MOST_BLOCKS, m.bytes() / block);
      if (block == 1024 && blocks > 256) continue;
      for (int entries = 64; entries <= CpmMaker.MOST_ENTRIES; entries *= 2) {
        CpmLayout p = new CpmLayout("the whole medium", 0, block, entries, (int) blocks);
        if (p.folderBlocks() <= 16 && p.folderBlocks() < blocks) out.add(p);
      }
    }
    return out;
  }

  /**
   * Disks that no set names: some whole tracks before the folder, of a number of tracks that the
   * length of the medium allows. How much of it is believed, {@link #enough} says.
   */
  private static void unnamed(Medium m, List<CpmLayout> out) {
    for (int[] d : DISKS) {
      long track = m.bytes() / (d[0] * d[1]);
      if (track * d[0] * d[1] != m.bytes() || track % 512 != 0 || track < LEAST_TRACK) continue;
      int sectors = (int) (track / 512);
      if (sectors > d[2]) continue;
      for (int reserved = 1; reserved <= MOST_RESERVED; reserved++) {
        long offset = reserved * track;
        if (!mayBegin(m, offset / 512, 512)) continue;
        String name =
            d[0] + " × " + d[1] + " × " + sectors + " × 512, " + reserved + CpmLayout.GUESSED;
        for (int block = 1024; block <= 4096; block *= 2) {
          int blocks = (int) ((m.bytes() - offset) / block);
          if (block == 1024 && blocks > 256) continue;
          for (int entries = 64; entries <= MOST_UNNAMED; entries *= 2) {
            CpmLayout p = new CpmLayout(name, offset, block, entries, blocks, 512, sectors, 0, 0);
            if (p.folderBlocks() > 16 || entries * CpmLayout.ENTRY % block != 0) continue;
            out.add(p);
            for (int skew = 2; skew <= MOST_SKEW; skew++) out.add(p.skewed(skew));
          }
        }
      }
    }
  }

  /** Of a disk that no set names everything must agree, and more than one file: it was guessed. */
  private static boolean enough(Score s) {
    if (s.live() == 0 || s.percent() < ENOUGH_PERCENT) return false;
    return !s.set().guessed()
        || s.live() > 2 && s.exact() == s.live() && s.percent() == 100 && s.close();
  }

  /**
   * One sector is read before a folder is: a drive that fails is asked for no more than it must.
   */
  private static boolean mayBegin(Medium m, long lba, int looked) {
    if (lba >= m.sectors()) return false;
    byte[] b = m.sector(lba);
    int nonsense = 0;
    for (int at = 0; at < looked; at += CpmLayout.ENTRY) {
      boolean free = (b[at] & 0xFF) == CpmEntry.FREE;
      if (!free && !CpmEntry.plausible(b, at)) nonsense++;
    }
    return nonsense <= MOST_NONSENSE;
  }

  static Score score(Medium m, CpmLayout p) {
    byte[] b;
    try {
      b = CpmVolume.folder(m, p);
    } catch (VolumeException e) {
      return new Score(p, 0, 0, 0, 0, false, false);
    }
    int sensible = 0;
    int live = 0;
    int exact = 0;
    int twice = 0;
    BitSet taken = new BitSet();
    for (int slot = 0; slot < p.entries(); slot++) {
      int at = slot * CpmLayout.ENTRY;
      if ((b[at] & 0xFF) == CpmEntry.FREE) {
        sensible++;
        continue;
      }
      if (!CpmEntry.plausible(b, at)) continue;
      CpmEntry e = CpmEntry.of(b, at, slot, p.wide());
      if (!inside(e, p) || e.lastBlock() >= wanted(e, p)) continue;
      if (e.lastBlock() == wanted(e, p) - 1) exact++;
      for (int block : e.blocks()) {
        if (block == 0) continue;
        if (taken.get(block)) twice++;
        taken.set(block);
      }
      sensible++;
      live++;
    }
    long left = m.bytes() - p.offset() - (long) p.blocks() * p.block();
    boolean close = taken.nextSetBit(0) == p.folderBlocks();
    return new Score(p, sensible, live, exact, twice, close, left >= 0 && left < p.block());
  }

  /** Blocks within the volume and behind the folder. */
  private static boolean inside(CpmEntry e, CpmLayout p) {
    for (int block : e.blocks()) {
      if (block != 0 && (block < p.folderBlocks() || block >= p.blocks())) return false;
    }
    return true;
  }

  /** How many blocks the records of an entry ask for. */
  private static long wanted(CpmEntry e, CpmLayout p) {
    long records = (long) e.extent() % p.extents() * CpmEntry.MOST_RECORDS + e.records();
    return (records * CpmLayout.RECORD + p.block() - 1) / p.block();
  }

  private static List<CpmLayout> read() {
    try (InputStream in = CpmWizard.class.getResourceAsStream("/volumes/cpm.json")) {
      return JsonMapper.shared().readValue(in, new TypeReference<List<CpmLayout>>() {});
    } catch (IOException e) {
      throw new IllegalStateException("The parameter sets of CP/M do not read", e);
    }
  }
}
