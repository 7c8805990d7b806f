package lanternshed.core.volume.cpm;

import java.io.IOException;
import java.io.InputStream;
import java.util.BitSet;
import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Sum;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.volume.Filesystem;
import lanternshed.core.volume.Hint;
import lanternshed.core.volume.Recognised;
import lanternshed.core.volume.Search;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/**
 * CP/M 2.2 has no mark of its own: parameter sets are tried and the folder that each would give is
 * scored by how plausible its entries are and whether blocks are taken twice (C-2, C-4).
 */
public final class Cpm implements Filesystem {
  private static final List<Parameters> SETS = read();
  private static final int ENTRY = 32;

  /** Below this share of sensible entries nothing is claimed. */
  private static final int ENOUGH_PERCENT = 95;

  /**
   * One parameter set.
   *
   * @param offset bytes before the folder: the reserved tracks
   * @param entries of the folder
   */
  record Parameters(String name, long offset, int block, int entries, int blocks) {}

  private record Score(Parameters set, int sensible, int live, int twice) {
    int percent() {
      return sensible * 100 / set.entries() - Math.min(100, twice * 10);
    }
  }

  private static final int TABLE_TYPE = 0x52;

  @Override
  public String key() {
    return "cpm";
  }

  @Override
  public List<String> kinds() {
    return List.of("CP/M");
  }

  @Override
  public boolean speaksForItself() {
    return false;
  }

  @Override
  public Optional<Search> search() {
    return Optional.of(Cpm::see);
  }

  /** The best parameter set, when one is good enough; looked for only where it may be. */
  @Override
  public Optional<Recognised> recognise(Medium m, Hint hint) {
    if (!hint.whole() && hint.type() != TABLE_TYPE) return Optional.empty();
    Score best = null;
    for (Parameters p : SETS) {
      if (p.offset() + (long) p.entries() * ENTRY > m.bytes()) continue;
      Score s = score(m, p);
      if (s.live() == 0 || s.percent() < ENOUGH_PERCENT) continue;
      if (best == null
          || s.percent() > best.percent()
          || s.percent() == best.percent() && s.live() > best.live()) best = s;
    }
    return Optional.ofNullable(best).map(Cpm::known);
  }

  private static Recognised known(Score best) {
    return new Recognised(
        "CP/M 2.2",
        "",
        0,
        Sum.of("C-4", "CP/M by its folder")
            .note("parameter set", best.set().name())
            .line("", "entries of the folder", best.set().entries())
            .line("", "that make sense", best.sensible())
            .line("", "of them in use", best.live())
            .line("−", "blocks taken twice, 10 each", best.twice())
            .line("=", "score of 100", best.percent())
            .because(
                "CP/M writes no mark; the parameter set under which the folder makes most sense is"
                    + " taken. Ten sets are tried.")
            .done(),
        Optional.empty());
  }

  /** Whether sixteen entries of a folder may stand here, some of them in use; cheap. */
  private static boolean mayBeFolder(byte[] b, int at) {
    int live = 0;
    for (int i = at; i < at + 512; i += ENTRY) {
      int user = b[i] & 0xFF;
      if (user == 0xE5) continue;
      if (user > 15 || (b[i + 12] & 0xFF) > 31 || (b[i + 15] & 0xFF) > 128) return false;
      if (!name(b, i)) return false;
      live++;
    }
    return live > 1;
  }

  /** The volume whose folder begins at a sector, by the set that fits it best. */
  private static List<Search.Found> see(Medium m, long lba, byte[] b, int at) {
    if (!mayBeFolder(b, at)) return List.of();
    Search.Found best = null;
    int most = 0;
    for (Parameters p : SETS) {
      long start = lba - p.offset() / 512;
      if (start < 0 || p.offset() % 512 != 0) continue;
      long all = (p.offset() + (long) p.blocks() * p.block()) / 512;
      long length = Math.min(all, m.sectors() - start);
      Medium slice = new SliceMedium(m, start, length);
      if (p.offset() + (long) p.entries() * ENTRY > slice.bytes()) continue;
      Score s = score(slice, p);
      int worth = s.percent() * 10_000 + s.live();
      if (s.live() < 2 || s.percent() < ENOUGH_PERCENT || worth <= most) continue;
      most = worth;
      String evidence = "the folder at " + lba;
      best = new Search.Found(start, length, "CP/M 2.2", "", evidence, new byte[0]);
    }
    return best == null ? List.of() : List.of(best);
  }

  private static Score score(Medium m, Parameters p) {
    int sectors = (p.entries() * ENTRY + 511) / 512 + 1;
    long first = p.offset() / 512;
    byte[] b = m.sectors(first, (int) Math.min(sectors, m.sectors() - first));
    int from = (int) (p.offset() % 512);
    int sensible = 0;
    int live = 0;
    int twice = 0;
    BitSet taken = new BitSet(p.blocks());
    for (int i = 0; i < p.entries() && from + (i + 1) * ENTRY <= b.length; i++) {
      int at = from + i * ENTRY;
      int user = b[at] & 0xFF;
      if (user == 0xE5) {
        sensible++;
        continue;
      }
      if (user > 15 || !name(b, at)) continue;
      int extent = b[at + 12] & 0xFF;
      int records = b[at + 15] & 0xFF;
      if (extent > 31 || records > 128) continue;
      boolean inside = true;
      boolean wide = p.blocks() > 256;
      for (int k = 16; k < 32; k += wide ? 2 : 1) {
        int block = wide ? b[at + k] & 0xFF | (b[at + k + 1] & 0xFF) << 8 : b[at + k] & 0xFF;
        if (block == 0) continue;
        inside &= block < p.blocks();
        if (taken.get(block)) twice++;
        taken.set(block);
      }
      if (!inside) continue;
      sensible++;
      live++;
    }
    return new Score(p, sensible, live, twice);
  }

  private static boolean name(byte[] b, int at) {
    if ((b[at + 1] & 0x7F) <= 0x20) return false;
    for (int i = 1; i < 12; i++) {
      int c = b[at + i] & 0x7F;
      if (c < 0x20 || c > 0x5F || "<>.,;:=?*[]".indexOf(c) >= 0) return false;
    }
    return true;
  }

  private static List<Parameters> read() {
    try (InputStream in = Cpm.class.getResourceAsStream("/volumes/cpm.json")) {
      return JsonMapper.shared().readValue(in, new TypeReference<List<Parameters>>() {});
    } catch (IOException e) {
      throw new IllegalStateException("The parameter sets of CP/M do not read", e);
    }
  }
}
