package lanternshed.core.work;

import java.nio.file.Path;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Predicate;
import lanternshed.core.boot.BootPath;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.catalogue.Opener;
import lanternshed.core.family.Families;
import lanternshed.core.family.Family;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Copy;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.Settling;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.plan.PlanRequest.Strategy;
import lanternshed.core.survey.Volumes;
import lanternshed.core.table.TableMaker;
import lanternshed.core.volume.BootFacts;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Grower;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Sink;
import lanternshed.core.volume.Volume;

/**
 * Makes an image from a recipe (W-1), whatever table and filesystems it names. The target must be
 * all zero; the caller shows it to nobody before its {@link Proof}.
 */
public final class ImageBuilder {
  /** The archive mark: not kept elsewhere yet. */
  private static final int ARCHIVE = 0x20;

  private static final long MOST_EARLY = 1 << 20;
  private final Recipe recipe;
  private final Optional<Medium> source;
  private final Stock stock;
  private final Medium target;
  private final Progress progress;
  private final Family family;
  private final Map<String, HostFolder> folders = new HashMap<>();

  /** Whether only what a start needs is laid down. */
  private boolean trial;

  private ImageBuilder(
      Recipe recipe, Optional<Medium> source, Stock stock, Medium target, Progress progress) {
    this.recipe = recipe;
    this.source = source;
    this.stock = stock;
    this.target = target;
    this.progress = progress;
    this.family = Families.named(recipe.family());
  }

  /**
   * Looks at a recipe before its target is made.
   *
   * @param sha256 digest of the source; "" where none was given
   * @throws ShedException with the first thing that makes no sense, or where the source is another
   */
  public static void examine(Recipe recipe, String sha256) {
    RecipeCheck.of(recipe);
    if (!sha256.isEmpty()) RecipeCheck.source(recipe, sha256);
    recipe.volumes().stream()
        .filter(p -> !p.folder().isEmpty())
        .forEach(p -> HostFolder.read(Path.of(p.folder())));
    if (recipe.strategy() == Strategy.REBUILD || recipe.strategy() == Strategy.CARRY) {
      // A size or a unit that cannot be is said before anything is made.
      for (Recipe.Part p : recipe.volumes()) Catalogue.maker(p.kind()).layout(wish(recipe, p));
    }
    recipe.volumes().stream().filter(p -> !p.files().isEmpty()).forEach(p -> fits(recipe, p));
  }

  /** Names and room of files that are named one by one, exactly. */
  private static void fits(Recipe recipe, Recipe.Part p) {
    Maker maker = Catalogue.maker(p.kind());
    Maker.Fit fit = maker.fit(maker.layout(wish(recipe, p)), named(p, Stock.EMPTY, f -> true));
    if (fit.fits()) return;
    throw new ShedException(
        "The files of "
            + p.label()
            + " need "
            + Say.plural(fit.needed(), Catalogue.unit(p.kind()), Catalogue.unit(p.kind()) + "s")
            + " and "
            + Say.count(fit.rootNeeded())
            + " entries; there are "
            + Say.count(fit.there())
            + " and "
            + Say.count(fit.rootEntries())
            + ": leave some out, or make the volume larger.");
  }

  /**
   * Builds; {@code target} has the recipe's sectors and is all zero.
   *
   * @param source the image that the content comes from; empty where the recipe needs none
   * @param stock where files come from that the recipe names by digest
   * @return what makes safe all that was written, while the proof is made; closed before the image
   *     is kept
   */
  public static Settling build(
      Recipe recipe, Optional<Medium> source, Stock stock, Medium target, Progress progress) {
    new ImageBuilder(recipe, source, stock, target, progress).build();
    return Settling.of(target);
  }

  /**
   * Lays down what a start meets: the table, and the volume that starts with the files of its root.
   * A volume that would grow is laid out anew, with the same code and the same files first.
   *
   * @param target as long as the recipe says and all zero
   */
  static void trial(Recipe recipe, Optional<Medium> source, Stock stock, Medium target) {
    ImageBuilder b = new ImageBuilder(recipe, source, stock, target, Progress.NONE);
    b.trial = true;
    b.build();
  }

  /** What may be asked for before a loader runs lies in the root, and is no large file. */
  private static boolean early(String path, long bytes) {
    return path.indexOf('/') < 0 && bytes <= MOST_EARLY;
  }

  private void build() {
    check();
    if (recipe.strategy() == Strategy.CLONE) {
      Copy.range(
          from(),
          0,
          recipe.sectors(),
          target,
          0,
          (n, all) -> progress.at("copying sectors", n, all));
      return;
    }
    for (Recipe.Part p : recipe.volumes()) if (!trial || p.active()) volume(p);
    tables()
        .write(
            target,
            recipe.geometry(),
            tableCode(),
            HexFormat.fromHexDigitsToLong(recipe.signature()),
            recipe.volumes().stream().map(ImageBuilder::slot).toList());
  }

  private void check() {
    RecipeCheck.of(recipe);
    recipe.volumes().stream().filter(p -> !p.folder().isEmpty()).forEach(this::folder);
    if (target.sectors() != recipe.sectors()) {
      throw new ShedException(
          "The recipe makes "
              + Say.sectors(recipe.sectors())
              + ", the target has "
              + Say.count(target.sectors())
              + ".");
    }
  }

  private TableMaker tables() {
    return Catalogue.table(recipe.table()).maker().orElseThrow();
  }

  private static TableMaker.Slot slot(Recipe.Part p) {
    return new TableMaker.Slot(
        p.start(), p.length(), p.type(), p.active(), p.logical(), p.tableSector());
  }

  private Medium from() {
    return source.orElseThrow(
        () -> new ShedException("The recipe needs its source image; none was given."));
  }

  /** What stands beside the entries of the table, with the drivers that somebody brought. */
  private byte[] tableCode() {
    byte[] code = keptCode();
    // How a start goes is tried before anything is fetched.
    if (trial) return code;
    for (Recipe.DriverFrom d : recipe.drivers()) {
      code = tables().drivers().orElseThrow().with(code, d.type(), d.name(), stock.driver(d));
    }
    return code;
  }

  private byte[] keptCode() {
    byte[] own = family.boot().map(BootPath::tableCode).orElse(new byte[0]);
    if (recipe.bootCode() == Recipe.BootCodeFrom.OWN || source.isEmpty()) return own;
    // What another scheme keeps in those sectors is none of this one's.
    boolean same =
        Opener.open(from())
            .table()
            .filter(t -> t.scheme().name().equals(recipe.table()))
            .isPresent();
    byte[] code = same ? tables().kept(from()) : new byte[0];
    return code.length == 0 ? own : code;
  }

  // ---- volumes ----------------------------------------------------------------------------------

  private void volume(Recipe.Part p) {
    Medium slice = new SliceMedium(target, p.start(), p.length());
    Optional<Volume> old =
        p.from() >= 0 ? Optional.of(Volumes.find(from(), p.from()).volume()) : Optional.empty();
    byte[] code = bootCode(p, old);
    if (recipe.strategy() == Strategy.GROW && old.isPresent() && !trial) {
      grower(old.get())
          .grow(
              old.get(),
              slice,
              p.length(),
              recipe.geometry(),
              p.start(),
              code,
              (n, all) -> progress.at("growing " + p.label(), n * 512, all * 512));
      return;
    }
    FileSet set = files(p, old);
    long all = set.items().stream().mapToLong(FileSet.Item::bytes).sum();
    long[] wrote = {0};
    Maker maker = Catalogue.maker(p.kind());
    maker.write(
        maker.layout(wish(recipe, p)),
        set,
        slice,
        code,
        (path, bytes) -> {
          wrote[0] += bytes;
          progress.at("writing the files of " + p.label(), wrote[0], all);
        });
  }

  private FileSet files(Recipe.Part p, Optional<Volume> old) {
    if (old.isPresent()) {
      return FilesOf.volume(
          Decided.volume(old.get(), "its files are not laid down anew"),
          p.longNames(),
          n -> !trial || early(n.path(), n.folder() ? 0 : n.bytes()));
    }
    if (!p.folder().isEmpty()) return folder(p).files();
    return named(p, stock, f -> !trial || early(f.path(), f.bytes()));
  }

  private static FileSet named(Recipe.Part p, Stock stock, Predicate<Recipe.FileFrom> wanted) {
    FileSet out = new FileSet();
    for (Recipe.FileFrom f : p.files()) {
      if (!wanted.test(f)) continue;
      String[] names = f.path().split("/");
      String parent = "";
      for (String n : List.of(names).subList(0, names.length - 1)) {
        parent = parent.isEmpty() ? n : parent + "/" + n;
        if (!out.has(parent)) out.folder(parent, 0, f.stamp());
      }
      out.file(f.path(), f.bytes(), ARCHIVE, f.stamp(), new FromStock(stock, f));
    }
    return out;
  }

  /** A file that a recipe names by its digest. */
  private record FromStock(Stock stock, Recipe.FileFrom f) implements FileSet.Source {
    @Override
    public void copyTo(Sink sink) {
      stock.content(f).copyTo(sink);
    }

    @Override
    public Optional<FileMedium> file() {
      return stock.content(f).file();
    }
  }

  /** A folder of this computer, looked at once. */
  private HostFolder folder(Recipe.Part p) {
    return folders.computeIfAbsent(p.folder(), f -> HostFolder.read(Path.of(f)));
  }

  static Maker.Wish wish(Recipe recipe, Recipe.Part p) {
    return new Maker.Wish(
            Optional.of(p.kind()),
            p.length(),
            p.start(),
            p.clusterBytes(),
            p.rootEntries(),
            recipe.geometry(),
            p.label(),
            HexFormat.fromHexDigitsToLong(p.serial()),
            p.longNames(),
            Stamp.NONE)
        .of(p.sectorBytes(), Families.named(recipe.family()).always16());
  }

  private static Grower grower(Volume v) {
    return Catalogue.filesystem(v.kind())
        .grower()
        .orElseThrow(
            () ->
                new ShedException(
                    "Volumes of " + v.kind() + " are not grown; rebuild or clone them."));
  }

  private byte[] bootCode(Recipe.Part p, Optional<Volume> old) {
    boolean kept = recipe.bootCode() == Recipe.BootCodeFrom.SOURCE;
    Optional<BootFacts> facts = kept ? old.flatMap(Volume::bootFacts) : Optional.empty();
    if (facts.isPresent()) {
      if (!facts.get().code() || old.get().kind().equals(p.kind())) return facts.get().bootCode();
      throw new ShedException(
          "The old boot code is "
              + old.get().kind()
              + "'s and the new volume is "
              + p.kind()
              + "; it would read the wrong places. Choose the program's own.");
    }
    return family
        .boot()
        .map(b -> b.volumeCode(p.kind(), p.contract(), p.systemFile()))
        .orElse(new byte[0]);
  }
}
