package lanternshed.core.work;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import lanternshed.core.boot.Around;
import lanternshed.core.boot.BootChain;
import lanternshed.core.boot.Rehearsal;
import lanternshed.core.boot.Start;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.cpu.Level;
import lanternshed.core.family.Families;
import lanternshed.core.family.Family;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Sha256;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.plan.PlanRequest.Strategy;
import lanternshed.core.survey.Volumes;
import lanternshed.core.survey.Whereabouts;
import lanternshed.core.table.TableEntry;
import lanternshed.core.table.TableMaker;
import lanternshed.core.table.TableScheme;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Volume;

/**
 * What a built image was held against (W-2, W-9): its table, its volumes, every file's source, and
 * the way it starts.
 *
 * @param table faults of the table
 * @param volumes faults of the filesystems
 * @param files how many files were compared with their source
 * @param sectors how many sectors were compared with their source; all of them for a clone
 * @param differing those that differ, by path
 * @param empty whether nothing was to be compared: no volume has a source
 * @param boot the chain of links; without links where the machine starts nothing from it
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

  /** Read only, hidden, system, archive: what a person or a system set. */
  private static final int MARKS = 0x27;

  /** Whether something was compared with what was promised. */
  public boolean compared() {
    return empty || files > 0 || sectors > 0;
  }

  /** A clone is proved by its sectors (W-8); a rebuilt volume that is to start by its links too. */
  public boolean proved() {
    return table.isEmpty()
        && volumes.isEmpty()
        && differing.isEmpty()
        && compared()
        && (sectors > 0 || start.kind() != Start.Kind.BREAKS);
  }

  /**
   * Holds an image against its recipe.
   *
   * @param source the image that the content came from; empty where the recipe needs none
   * @param around what its start meets on the machine; its geometry is the recipe's
   */
  public static Proof of(
      Recipe recipe, Optional<Medium> source, Medium image, Around around, Progress progress) {
    return new Proving(recipe, source, image, progress).prove(around);
  }

  /** The same on a machine of which only the reach is known. */
  public static Proof of(
      Recipe recipe, Optional<Medium> source, Medium image, long reach, Progress progress) {
    Around around = new Around(recipe.geometry(), reach, true, Level.I80386);
    return of(recipe, source, image, around, progress);
  }

  private static final class Proving {
    private final Recipe recipe;
    private final Optional<Medium> source;
    private final Medium image;
    private final Progress progress;
    private final TableScheme scheme;
    private final Family family;
    private final List<String> differing = new ArrayList<>();
    private long compared;

    Proving(Recipe recipe, Optional<Medium> source, Medium image, Progress progress) {
      this.recipe = recipe;
      this.source = source;
      this.image = image;
      this.progress = progress;
      this.scheme = Catalogue.table(recipe.table());
      this.family = Families.named(recipe.family());
    }

    Proof prove(Around around) {
      boolean starts =
          recipe.volumes().stream().anyMatch(p -> p.active() && !p.systemFile().isEmpty());
      // A disk without a table that nothing starts from has no link that could break.
      BootChain boot =
          family
              .boot()
              .filter(b -> starts || !scheme.alone())
              .map(b -> b.walk(image, recipe.geometry(), around.reach()))
              .orElse(BootChain.NONE);
      if (recipe.strategy() == Strategy.CLONE) return cloned(boot);
      List<Finding> faults = new ArrayList<>();
      long files = 0;
      for (Recipe.Part p : recipe.volumes()) files += volume(p, faults);
      boolean empty =
          recipe.volumes().stream()
              .allMatch(p -> p.from() < 0 && p.folder().isEmpty() && p.files().isEmpty());
      Start start =
          family.boot().isEmpty()
              ? Start.elsewhere(family.startsFrom())
              : Start.of(boot, starts, starts && boot.holds() ? run(around) : Optional.empty());
      return new Proof(tableFaults(), faults, files, 0, differing, empty, boot, start);
    }

    /** What its code does under the geometry that it was laid out for. */
    private Optional<Rehearsal> run(Around around) {
      Around here =
          new Around(recipe.geometry(), around.reach(), around.extended(), around.level());
      Whereabouts places = Whereabouts.of(image);
      return family.boot().flatMap(b -> b.rehearse(image, here, places::at));
    }

    private Proof cloned(BootChain boot) {
      Comparison c = Comparison.of(from(), image, 0, progress, "comparing sectors");
      if (c.differing() > 0) differing.add("sector " + c.first());
      boolean meant =
          scheme
              .read(image)
              .filter(r -> r.entries().stream().anyMatch(TableEntry::active))
              .isPresent();
      return new Proof(
          List.of(), List.of(), 0, c.compared(), differing, false, boot, Start.of(boot, meant));
    }

    private List<Finding> tableFaults() {
      if (scheme.alone()) return List.of();
      List<Finding> out = new ArrayList<>();
      scheme
          .read(image)
          .ifPresentOrElse(
              r -> {
                r.findings().stream()
                    .filter(f -> f.weight() != Finding.Weight.NOTE)
                    .forEach(out::add);
                drivers(out);
                out.addAll(scheme.under(r, recipe.geometry()));
              },
              () ->
                  out.add(
                      Finding.stops(
                          "P-5", "sector 0", "There is no table.", "Build the image again.")));
      return out;
    }

    /** Each driver as the machine will load it, against the file that was brought. */
    private void drivers(List<Finding> out) {
      if (recipe.drivers().isEmpty()) return;
      TableMaker maker = scheme.maker().orElseThrow();
      byte[] kept = maker.kept(image);
      for (Recipe.DriverFrom d : recipe.drivers()) {
        boolean same =
            maker
                .drivers()
                .flatMap(m -> m.file(kept, d.type()))
                .filter(b -> b.length >= d.bytes())
                .map(b -> Sha256.of(Arrays.copyOf(b, (int) d.bytes())))
                .filter(d.sha256()::equals)
                .isPresent();
        if (same) continue;
        String what = "The table does not hold " + d.name() + " as it was brought.";
        out.add(Finding.stops("P-13", "driver for " + d.type(), what, "Build the image again."));
      }
    }

    /** How many files of a volume were compared. */
    private long volume(Recipe.Part p, List<Finding> faults) {
      Optional<Volume> there = Laid.volume(recipe, p, image);
      if (there.isEmpty()) {
        String what = "There is no " + p.kind() + " volume where the recipe says.";
        faults.add(Finding.stops("F-5", p.label(), what, "Build the image again."));
        return 0;
      }
      Volume v = there.get();
      // A grown volume keeps the faults of the old one; the plan has told them.
      if (recipe.strategy() != Strategy.GROW || p.from() < 0) faults.addAll(v.check());
      if (p.from() >= 0) return fromVolume(p, Volumes.find(from(), p.from()).volume(), v);
      if (!p.folder().isEmpty()) return fromFolder(HostFolder.read(Path.of(p.folder())), v);
      return fromFiles(p, v);
    }

    private Medium from() {
      return source.orElseThrow(
          () -> new ShedException("The recipe needs its source image; none was given."));
    }

    /** Every file of a folder of this computer against what lies on the volume. */
    private long fromFolder(HostFolder folder, Volume now) {
      Map<String, Node> there = byPath(now);
      long files = 0;
      for (HostFolder.Item i : folder.items()) {
        Node n = there.remove(i.onDisk());
        boolean same =
            n != null && n.folder() == i.folder() && (n.stamp() == i.stamp() || !now.keepsTimes());
        if (same && !i.folder()) same = n.bytes() == i.bytes() && i.holds(now, n);
        if (!same) differing.add(i.onDisk());
        if (!i.folder()) files++;
      }
      there.keySet().forEach(p -> differing.add(p + ", which the folder has not"));
      return files;
    }

    /** Every file against its digest; what lies there beyond them must be their folders. */
    private long fromFiles(Recipe.Part p, Volume now) {
      Map<String, Node> there = byPath(now);
      long total = p.files().stream().mapToLong(Recipe.FileFrom::bytes).sum();
      boolean inOnePiece = recipe.strategy() == Strategy.CARRY;
      for (Recipe.FileFrom f : p.files()) {
        Node n = there.remove(f.path());
        boolean same = n != null && !n.folder() && n.bytes() == f.bytes();
        if (!same || now.keepsTimes() && n.stamp() != f.stamp()) {
          differing.add(f.path());
          continue;
        }
        var digest = Sha256.fresh();
        now.read(
            n,
            (b, at, length) -> {
              digest.update(b, at, length);
              compared += length;
              progress.at("comparing the files", compared, Math.max(total, compared));
            });
        if (!Digests.hex(digest.digest()).equals(f.sha256())) differing.add(f.path());
        else if (inOnePiece && now.sectorsOf(n).size() > 1) {
          differing.add(f.path() + ", which lies in pieces");
        }
      }
      there.values().stream()
          .filter(n -> !n.folder())
          .forEach(n -> differing.add(n.path() + ", which the recipe has not"));
      return p.files().size();
    }

    private static Map<String, Node> byPath(Volume v) {
      Map<String, Node> out = new HashMap<>();
      for (Node n : v.all()) out.put(n.path(), n);
      return out;
    }

    /** As they stand on disk; by their paths where one of the two puts them where it likes. */
    private static List<Node> inOrder(Volume v, Volume other) {
      if (v.ordered() && other.ordered()) return v.all();
      return v.all().stream().sorted(Comparator.comparing(Node::path)).toList();
    }

    /**
     * Every file and folder in the image against its source, in the same order: name on disk, long
     * name where that was promised, length, time, marks and content.
     */
    private long fromVolume(Recipe.Part p, Volume old, Volume now) {
      List<Node> before = inOrder(old, now);
      List<Node> after = inOrder(now, old);
      if (before.size() != after.size()) {
        differing.add(before.size() + " entries in the source, " + after.size() + " in the image");
        return 0;
      }
      // A name of another filesystem has no 8.3 name of its own to keep.
      boolean names = Catalogue.filesystem(now.kind()).kinds().contains(old.kind());
      long bytes = before.stream().mapToLong(Node::bytes).sum();
      long files = 0;
      for (int i = 0; i < before.size(); i++) {
        Node a = before.get(i);
        Node b = after.get(i);
        boolean entry =
            (!names || a.name().equals(b.name()))
                && (!p.longNames() || a.path().equals(b.path()))
                && a.folder() == b.folder()
                && a.bytes() == b.bytes()
                && (a.stamp() == b.stamp() || !now.keepsTimes())
                && (a.attributes() & MARKS) == (b.attributes() & MARKS)
                && (!names || Arrays.equals(old.own(a), now.own(b)));
        if (!entry || !a.folder() && !FileComparison.sameContent(old, a, now, b)) {
          differing.add(a.path());
        }
        if (!a.folder()) files++;
        compared += a.bytes();
        progress.at("comparing the files", compared, Math.max(bytes, compared));
      }
      return files;
    }
  }
}
