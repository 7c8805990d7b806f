package lanternshed.core.work;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import lanternshed.core.boot.BootChain;
import lanternshed.core.boot.BootCode;
import lanternshed.core.boot.Start;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.plan.PlanRequest.Strategy;
import lanternshed.core.survey.Volumes;
import lanternshed.core.table.TableEntry;
import lanternshed.core.table.mbr.Mbr;
import lanternshed.core.table.mbr.MbrWriter;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Volume;
import lanternshed.core.volume.fat.FatGrow;
import lanternshed.core.volume.fat.FatMaker;
import lanternshed.core.volume.fat.FatVolume;

/**
 * Makes an image from a recipe and proves it (W-1, W-2). The target must be all zero; the caller
 * shows it to nobody before the proof.
 */
public final class ImageBuilder {
  private static final int COPY = 2048;

  /** Read only, hidden, system, archive: what a person or a system set. */
  private static final int MARKS = 0x27;

  /**
   * The four proofs.
   *
   * @param table faults of the table
   * @param volumes faults of the filesystems
   * @param files how many files were compared with their source
   * @param sectors how many sectors were compared with their source; all of them for a clone
   * @param differing those that differ, by path
   * @param empty whether nothing was to be compared: no volume has a source
   * @param boot the chain of links
   * @param start the answer that follows from them
   */
  public record Proof(
      List<Finding> table,
      List<Finding> volumes,
      long files,
      long sectors,
      List<String> differing,
      boolean empty,
      BootChain boot,
      Start start) {

    /** Whether something was compared with what was promised. */
    public boolean compared() {
      return empty || files > 0 || sectors > 0;
    }

    /**
     * A clone is proved by its sectors (W-8); a rebuilt volume that is to start by its links too.
     */
    public boolean proved() {
      return table.isEmpty()
          && volumes.isEmpty()
          && differing.isEmpty()
          && compared()
          && (sectors > 0 || start.kind() != Start.Kind.BREAKS);
    }
  }

  private final Recipe recipe;
  private final Optional<Medium> source;
  private final Medium target;
  private final Progress progress;
  private final Map<String, HostFolder> folders = new HashMap<>();
  private long done;
  private long total;

  private ImageBuilder(Recipe recipe, Optional<Medium> source, Medium target, Progress progress) {
    this.recipe = recipe;
    this.source = source;
    this.target = target;
    this.progress = progress;
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
  }

  /**
   * Builds; {@code target} has the recipe's sectors and is all zero.
   *
   * @param source the image that the content comes from; empty where the recipe needs none
   */
  public static void build(
      Recipe recipe, Optional<Medium> source, Medium target, Progress progress) {
    new ImageBuilder(recipe, source, target, progress).build();
  }

  private void build() {
    check();
    if (recipe.strategy() == Strategy.CLONE) {
      copy(from(), 0, 0, recipe.sectors(), "copying sectors");
      target.flush();
      return;
    }
    for (Recipe.Part p : recipe.volumes()) total += p.length() * 512;
    for (Recipe.Part p : recipe.volumes()) volume(p);
    MbrWriter.write(
        target,
        recipe.geometry(),
        tableCode(),
        HexFormat.fromHexDigitsToLong(recipe.signature()),
        recipe.volumes().stream().map(ImageBuilder::slot).toList());
    target.flush();
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

  private static MbrWriter.Slot slot(Recipe.Part p) {
    return new MbrWriter.Slot(
        p.start(), p.length(), p.type(), p.active(), p.logical(), p.tableSector());
  }

  private Medium from() {
    return source.orElseThrow(
        () -> new ShedException("The recipe needs its source image; none was given."));
  }

  private byte[] tableCode() {
    if (recipe.bootCode() == Recipe.BootCodeFrom.OWN) return BootCode.table();
    byte[] code = java.util.Arrays.copyOf(from().sector(0), 440);
    // A floppy or a data disk has none to keep.
    boolean none = Volumes.all(from()).stream().anyMatch(o -> o.number() == 0);
    return none || Bytes.allZero(code, 0, code.length) ? BootCode.table() : code;
  }

  // ---- volumes ----------------------------------------------------------------------------------

  private void volume(Recipe.Part p) {
    Medium slice = new SliceMedium(target, p.start(), p.length());
    Optional<Volume> old = p.from() >= 0 ? Optional.of(oldVolume(p.from())) : Optional.empty();
    byte[] code = bootCode(p, old);
    if (recipe.strategy() == Strategy.GROW && old.isPresent()) {
      FatGrow.grow(
          fat(old.get()),
          slice,
          p.length(),
          recipe.geometry(),
          p.start(),
          code,
          (n, all) -> tell("growing " + p.label(), n * 512));
      done += p.length() * 512;
      return;
    }
    FileSet files =
        old.map(v -> FilesOf.volume(v, p.longNames()))
            .orElseGet(() -> p.folder().isEmpty() ? new FileSet() : folder(p).files());
    long[] wrote = {0};
    Maker maker = new FatMaker();
    maker.write(
        maker.layout(wish(p)),
        files,
        slice,
        code,
        (path, bytes) -> {
          wrote[0] += bytes;
          tell("writing the files of " + p.label(), wrote[0]);
        });
    done += p.length() * 512;
    tell("writing " + p.label(), 0);
  }

  /** A folder of this computer, looked at once. */
  private HostFolder folder(Recipe.Part p) {
    return folders.computeIfAbsent(p.folder(), f -> HostFolder.read(Path.of(f)));
  }

  private void tell(String phase, long inVolume) {
    progress.at(phase, Math.min(total, done + inVolume), total);
  }

  private Maker.Wish wish(Recipe.Part p) {
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
        HostFolder.NO_TIME);
  }

  private static FatVolume fat(Volume v) {
    if (v instanceof FatVolume f) return f;
    throw new ShedException("Volumes of " + v.kind() + " are not grown; rebuild or clone them.");
  }

  private byte[] bootCode(Recipe.Part p, Optional<Volume> old) {
    boolean kept = recipe.bootCode() == Recipe.BootCodeFrom.SOURCE;
    if (kept && old.isPresent() && old.get() instanceof FatVolume f) {
      byte[] code = f.bootCode();
      if (Bytes.allZero(code, 0, code.length)) return new byte[0];
      if (f.kind().equals(p.kind())) return code;
      throw new ShedException(
          "The old boot code is "
              + f.kind()
              + "'s and the new volume is "
              + p.kind()
              + "; it would read the wrong places. Choose the program's own.");
    }
    if (p.systemFile().isEmpty() || p.kind().equals("FAT32")) return new byte[0];
    return BootCode.volume(p.systemFile());
  }

  private Volume oldVolume(int number) {
    return Volumes.find(from(), number).volume();
  }

  private void copy(Medium from, long at, long to, long count, String phase) {
    byte[] b = new byte[COPY * 512];
    byte[] zeros = new byte[COPY * 512];
    for (long i = 0; i < count; i += COPY) {
      int n = (int) Math.min(COPY, count - i);
      from.read(at + i, n, b, 0);
      if (!java.util.Arrays.equals(b, 0, n * 512, zeros, 0, n * 512)) target.write(to + i, n, b, 0);
      progress.at(phase, (i + n) * 512, count * 512);
    }
  }

  // ---- proof ------------------------------------------------------------------------------------

  /**
   * Checks table and filesystems, compares every file with its source, and walks the boot chain.
   */
  public static Proof prove(
      Recipe recipe, Optional<Medium> source, Medium image, long reach, Progress progress) {
    return new ImageBuilder(recipe, source, image, progress).prove(reach);
  }

  private Proof prove(long reach) {
    BootChain boot = BootChain.walk(target, recipe.geometry(), reach);
    List<String> differing = new ArrayList<>();
    if (recipe.strategy() == Strategy.CLONE) {
      Comparison c = Comparison.of(from(), target, 0, progress, "comparing sectors");
      if (c.differing() > 0) differing.add("sector " + c.first());
      boolean meant =
          new Mbr()
              .read(target)
              .filter(r -> r.entries().stream().anyMatch(TableEntry::active))
              .isPresent();
      return new Proof(
          List.of(), List.of(), 0, c.compared(), differing, false, boot, Start.of(boot, meant));
    }
    List<Finding> table = new ArrayList<>();
    new Mbr()
        .read(target)
        .ifPresentOrElse(
            r -> {
              table.addAll(r.findings());
              table.addAll(Mbr.disagreements(r, recipe.geometry()));
            },
            () ->
                table.add(
                    Finding.stops(
                        "P-5", "sector 0", "There is no table.", "Build the image again.")));
    List<Finding> volumes = new ArrayList<>();
    long files = 0;
    long[] compared = {0};
    for (Recipe.Part p : recipe.volumes()) {
      FatVolume v = FatVolume.open(new SliceMedium(target, p.start(), p.length()));
      // A grown volume keeps the faults of the old one; the plan has told them.
      if (recipe.strategy() == Strategy.REBUILD || p.from() < 0) volumes.addAll(v.check());
      if (p.from() >= 0) files += compare(p, oldVolume(p.from()), v, differing, compared);
      else if (!p.folder().isEmpty()) files += compare(folder(p), v, differing);
    }
    boolean starts =
        recipe.volumes().stream().anyMatch(p -> p.active() && !p.systemFile().isEmpty());
    boolean empty = recipe.volumes().stream().allMatch(p -> p.from() < 0 && p.folder().isEmpty());
    return new Proof(table, volumes, files, 0, differing, empty, boot, Start.of(boot, starts));
  }

  /** W-9: every file of a folder of this computer against what lies on the volume. */
  private static long compare(HostFolder folder, FatVolume now, List<String> differing) {
    Map<String, Node> there = new HashMap<>();
    for (Node n : now.all()) there.put(n.path(), n);
    long files = 0;
    for (HostFolder.Item i : folder.items()) {
      Node n = there.remove(i.onDisk());
      boolean same = n != null && n.folder() == i.folder() && n.stamp() == i.stamp();
      if (same && !i.folder()) same = n.bytes() == i.bytes() && i.holds(now, n);
      if (!same) differing.add(i.onDisk());
      if (!i.folder()) files++;
    }
    there.keySet().forEach(p -> differing.add(p + ", which the folder has not"));
    return files;
  }

  /**
   * W-9: every file and folder in the image against its source, in the same order: name on disk,
   * long name where that was promised, length, time, marks and content.
   */
  private long compare(
      Recipe.Part p, Volume old, FatVolume now, List<String> differing, long[] compared) {
    List<Node> before = old.all();
    List<Node> after = now.all();
    if (before.size() != after.size()) {
      differing.add(before.size() + " entries in the source, " + after.size() + " in the image");
      return 0;
    }
    long bytes = before.stream().mapToLong(Node::bytes).sum();
    long files = 0;
    for (int i = 0; i < before.size(); i++) {
      Node a = before.get(i);
      Node b = after.get(i);
      if (!sameEntry(p, old, a, b) || !a.folder() && !FileComparison.sameContent(old, a, now, b))
        differing.add(a.path());
      if (!a.folder()) files++;
      compared[0] += a.bytes();
      progress.at("comparing the files", compared[0], Math.max(bytes, compared[0]));
    }
    return files;
  }

  private static boolean sameEntry(Recipe.Part p, Volume old, Node a, Node b) {
    // A name of another filesystem has no 8.3 name of its own to keep.
    boolean names = old instanceof FatVolume ? a.name().equals(b.name()) : true;
    boolean longNames = !p.longNames() || a.path().equals(b.path());
    return names
        && longNames
        && a.folder() == b.folder()
        && a.bytes() == b.bytes()
        && a.stamp() == b.stamp()
        && (a.attributes() & MARKS) == (b.attributes() & MARKS);
  }
}
