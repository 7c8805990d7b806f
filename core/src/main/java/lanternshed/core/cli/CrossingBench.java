package lanternshed.core.cli;

import java.io.PrintWriter;
import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import lanternshed.core.catalogue.BlankDisk;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Sha256;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.names.NameRule;
import lanternshed.core.names.Shelving;
import lanternshed.core.names.TextChange;
import lanternshed.core.survey.Volumes;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Volume;
import lanternshed.core.work.Crossing;
import lanternshed.core.work.Crossing.Choices;
import lanternshed.core.work.Crossing.Coming;
import lanternshed.core.work.Crossing.Crossed;
import lanternshed.core.work.Edit;
import lanternshed.core.work.Hold;
import lanternshed.core.work.Progress;
import lanternshed.core.work.SameThere;
import lanternshed.core.work.Stock;

/**
 * A crossing of 5 000 files: how long until every name and the fit are known, onto a volume that
 * takes all, onto one that takes half, over disks; and the copy against a plain build of the same
 * that is read back.
 */
final class CrossingBench {
  private static final int FILES = 5000;
  private static final int ROUNDS = 5;
  private static final long SECTORS = 400_000;
  private static final byte[] CONTENT = new byte[8192];

  private static final Stock STOCK = sha -> Optional.of(Stock.held(CONTENT));

  private CrossingBench() {}

  static void print(PrintWriter out) {
    Random r = new Random(1);
    List<Coming> files = new ArrayList<>();
    String sha256 = Sha256.of(CONTENT);
    for (int i = 0; i < FILES; i++) {
      String path = "Folder " + r.nextInt(60) + "/Pattern of the mill, " + i + ".pat";
      files.add(new Coming(path, CONTENT.length, 0x1C61_5000, sha256, Optional.empty(), ""));
    }
    MemoryMedium whole = volume(SECTORS);
    MemoryMedium half = volume(SECTORS / 10);
    BlankDisk disk = BlankDisk.of("1.44M");
    line(
        out,
        "onto a volume",
        () -> Crossing.onto(Edit.hold(whole, 0, List.of()), files, choices(Shelving.AS_IT_IS)));
    line(
        out,
        "sorted by ranges",
        () -> Crossing.onto(Edit.hold(whole, 0, List.of()), files, choices(Shelving.RANGES)));
    line(
        out,
        "half of them stay",
        () -> Crossing.onto(Edit.hold(half, 0, List.of()), files, choices(Shelving.AS_IT_IS)));
    line(
        out,
        "over two volumes, some stay",
        () -> {
          List<Hold> both = List.of(Edit.hold(half, 0, List.of()), Edit.hold(half, 0, List.of()));
          return Crossing.onto(both, files, choices(Shelving.AS_IT_IS), SameThere.NONE);
        });
    line(
        out,
        "over disks of 1.44 MB",
        () -> Crossing.over(Crossing.empty(disk), files, choices(Shelving.AS_IT_IS)));
    rate(out, whole, files);
  }

  private static void line(PrintWriter out, String what, java.util.function.Supplier<Crossed> s) {
    double[] ms = new double[ROUNDS];
    Crossed c = s.get();
    for (int i = 0; i < ROUNDS; i++) {
      long t = System.nanoTime();
      c = s.get();
      ms[i] = (System.nanoTime() - t) / 1e6;
    }
    Arrays.sort(ms);
    out.printf(
        "%-44s %6.0f ms  (%d of %d go, %d volumes)%n",
        "crossing of 5 000 files, " + what,
        ms[ROUNDS / 2],
        c.rows().stream().filter(x -> x.disk() >= 0).count(),
        FILES,
        c.fits().size());
  }

  /** The same files carried, and laid down by the maker with one look at each. */
  private static void rate(PrintWriter out, MemoryMedium whole, List<Coming> files) {
    Crossed c = Crossing.onto(Edit.hold(whole, 0, List.of()), files, choices(Shelving.AS_IT_IS));
    List<Edit.Change> changes = Crossing.changes(c.on(0), TextChange.NONE, STOCK);
    double[] ratio = new double[ROUNDS];
    for (int i = 0; i < ROUNDS; i++) {
      long t = System.nanoTime();
      Edit.make(whole, 0, changes, new MemoryMedium(SECTORS), Progress.NONE);
      long ours = System.nanoTime() - t;
      t = System.nanoTime();
      built(c);
      ratio[i] = (double) ours / (System.nanoTime() - t);
    }
    Arrays.sort(ratio);
    out.printf(
        "%-44s %6.2f times a build whose files are digested once%n",
        "carrying 5 000 files", ratio[ROUNDS / 2]);
  }

  private static void built(Crossed c) {
    FileSet set = new FileSet();
    for (Crossing.Row row : c.on(0)) {
      String folder = row.to().substring(0, row.to().indexOf('/'));
      if (!set.has(folder)) set.folder(folder, 0, 0);
      set.file(row.to(), row.bytes(), 0, 0, s -> s.take(CONTENT, 0, CONTENT.length));
    }
    Maker maker = Catalogue.maker("FAT16");
    MemoryMedium m = new MemoryMedium(SECTORS);
    maker.write(layout(SECTORS), set, m, new byte[0], (p, n) -> {});
    Volume v = Volumes.at(m, 0).volume();
    for (Node n : v.all()) {
      if (n.folder()) continue;
      MessageDigest digest = Sha256.fresh();
      v.read(n, digest::update);
      digest.digest();
    }
  }

  private static Maker.Layout layout(long sectors) {
    Geometry g = new Geometry(1024, 16, 63);
    return Catalogue.maker("FAT16")
        .layout(new Maker.Wish(Optional.of("FAT16"), sectors, 0, 0, 512, g, "BENCH", 1, false, 0));
  }

  private static MemoryMedium volume(long sectors) {
    MemoryMedium m = new MemoryMedium(sectors);
    Maker maker = Catalogue.maker("FAT16");
    maker.write(layout(sectors), new FileSet(), m, new byte[0], (p, n) -> {});
    return m;
  }

  private static Choices choices(Shelving shelving) {
    return new Choices(NameRule.of("8.3"), shelving, 200, false, Map.of(), Set.of());
  }
}
