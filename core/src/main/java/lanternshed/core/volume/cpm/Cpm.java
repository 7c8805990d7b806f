package lanternshed.core.volume.cpm;

import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import lanternshed.core.measure.Sum;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.names.NameRule;
import lanternshed.core.volume.Filesystem;
import lanternshed.core.volume.Hint;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Recognised;
import lanternshed.core.volume.Search;
import lanternshed.core.volume.Volume;
import lanternshed.core.volume.VolumeException;

/**
 * CP/M 2.2: no mark of its own, recognised by its folder under many sets of parameters; read,
 * checked and made.
 */
public final class Cpm implements Filesystem {
  private static final int TABLE_TYPE = 0x52;
  private static final int ENOUGH_PERCENT = 95;

  @Override
  public String key() {
    return "cpm";
  }

  @Override
  public List<String> kinds() {
    return List.of(CpmLayout.KIND);
  }

  @Override
  public String unit() {
    return "block";
  }

  @Override
  public List<NameRule> names() {
    return List.of(NameRule.of("user-areas"));
  }

  @Override
  public boolean speaksForItself() {
    return false;
  }

  @Override
  public Optional<Maker> maker() {
    return Optional.of(new CpmMaker());
  }

  @Override
  public Optional<Search> search() {
    return Optional.of(Cpm::see);
  }

  /** As it was laid out, where that is known; else by the best set, looked for where it may be. */
  @Override
  public Optional<Recognised> recognise(Medium m, Hint hint) {
    Optional<CpmLayout> known =
        hint.laidOut().filter(CpmLayout.class::isInstance).map(CpmLayout.class::cast);
    if (known.isPresent()) {
      Sum sum = known.get().because();
      return Optional.of(recognised(m, known.get(), sum, false, List.of()));
    }
    if (!hint.whole() && hint.type() != TABLE_TYPE || m.sectorSize() != 512) {
      return Optional.empty();
    }
    return CpmWizard.best(m)
        .map(g -> recognised(m, g.best().set(), sum(m, g), true, guesses(m, g)));
  }

  private List<String> guesses(Medium m, CpmWizard.Guess g) {
    if (g.proved(m)) return List.of();
    return Stream.concat(Stream.of(g.best().set()), g.others().stream())
        .map(l -> key() + ":" + l.figures(m))
        .toList();
  }

  @Override
  public Maker.Layout layout(Medium medium, String figures) {
    return CpmLayout.of(medium, figures);
  }

  private static Recognised recognised(
      Medium m, CpmLayout l, Sum sum, boolean inferred, List<String> guesses) {
    Optional<Volume> volume;
    try {
      Optional<Sum> how = inferred ? Optional.of(sum) : Optional.empty();
      volume = Optional.of(new CpmVolume(m, l, how, guesses));
    } catch (VolumeException e) {
      volume = Optional.empty();
    }
    return new Recognised(CpmLayout.KIND, "", 0, sum, volume);
  }

  private static Sum sum(Medium m, CpmWizard.Guess guess) {
    CpmWizard.Score best = guess.best();
    Sum.Builder sum = Sum.of("C-8", "CP/M by its folder");
    sum.note("parameter set", best.set().name())
        .note("as figures", best.set().figures(m))
        .line("", "bytes of a block", best.set().block())
        .line("", "entries of the folder", best.set().entries())
        .line("", "that make sense", best.sensible())
        .line("", "of them in use", best.live())
        .line("−", "blocks taken twice, 10 each", best.twice())
        .line("=", "score of 100", best.percent())
        .line("", "texts that end where their file does", guess.content().agree())
        .line("", "texts that are torn", guess.content().disagree());
    for (CpmLayout o : guess.others()) sum.note("fits as well", o.figures(m));
    return sum.because(
            "CP/M writes no mark; of the sets that are known, and of blocks of 1 to 16 KiB over the"
                + " whole medium, the one under which the folder makes most sense is taken. Where"
                + " several do, texts that come whole under one of them decide.")
        .done();
  }

  /** Whether sixteen entries of a folder may stand here, some of them in use; cheap. */
  private static boolean mayBeFolder(byte[] b, int at) {
    int live = 0;
    for (int i = at; i < at + 512; i += CpmLayout.ENTRY) {
      if ((b[i] & 0xFF) == CpmEntry.FREE) continue;
      if (!CpmEntry.plausible(b, i)) return false;
      live++;
    }
    return live > 1;
  }

  /** The volume whose folder begins at a sector, by the set that fits it best. */
  private static List<Search.Found> see(Medium m, long lba, byte[] b, int at) {
    if (!mayBeFolder(b, at)) return List.of();
    Search.Found best = null;
    int most = 0;
    for (CpmLayout p : CpmWizard.sets()) {
      long start = lba - p.offset() / 512;
      if (start < 0 || p.offset() % 512 != 0) continue;
      long length = Math.min(p.sectorCount(), m.sectors() - start);
      CpmWizard.Score s = CpmWizard.score(new SliceMedium(m, start, length), p);
      int worth = s.percent() * 10_000 + s.live();
      if (s.live() < 2 || s.percent() < ENOUGH_PERCENT || worth <= most) continue;
      most = worth;
      String evidence = "the folder at " + lba;
      best = new Search.Found(start, length, CpmLayout.KIND, "", evidence, new byte[0]);
    }
    return best == null ? List.of() : List.of(best);
  }
}
