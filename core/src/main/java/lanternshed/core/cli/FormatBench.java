package lanternshed.core.cli;

import java.io.PrintWriter;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.catalogue.Opener;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Sha256;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Hint;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Recognised;
import lanternshed.core.volume.Volume;

/** Filesystems side by side: 5 000 files made, listed and digested, each against FAT16. */
final class FormatBench {
  private static final long SECTORS = 1_048_576;
  private static final int FILES = 5_000;
  private static final int MEAN = 20_000;
  private static final int ROUNDS = 7;
  private static final List<String> KINDS = List.of("FAT16", "FFS", "OFS", "CP/M 2.2");

  private FormatBench() {}

  static void print(PrintWriter out) {
    Map<String, List<Double>> made = new HashMap<>();
    Map<String, List<Double>> read = new HashMap<>();
    // In turn, so that none of them pays for what the first of them warms.
    for (int i = 0; i < ROUNDS; i++) {
      for (String kind : KINDS) {
        MemoryMedium m = new MemoryMedium(SECTORS);
        Maker maker = Catalogue.maker(kind);
        Maker.Layout layout = maker.layout(wish(kind));
        long t = System.nanoTime();
        maker.write(layout, files(), m, new byte[0], (p, n) -> {});
        note(made, kind, t);
        t = System.nanoTime();
        digest(m, layout);
        note(read, kind, t);
      }
    }
    for (String kind : KINDS.subList(1, KINDS.size())) {
      row(out, "make 5 000 files on " + kind + " against FAT16", made, kind);
      row(out, "list and digest 5 000 files on " + kind + " against FAT16", read, kind);
    }
  }

  private static void note(Map<String, List<Double>> times, String kind, long since) {
    double took = (System.nanoTime() - since) / 1e9;
    times.computeIfAbsent(kind, k -> new ArrayList<>()).add(took);
  }

  private static void row(
      PrintWriter out, String what, Map<String, List<Double>> times, String kind) {
    double a = middle(times.get(kind));
    double b = middle(times.get(KINDS.get(0)));
    out.printf("%-58s %7.3f %9.3f %7.2f%n", what, a, b, a / b);
  }

  private static double middle(List<Double> times) {
    Collections.sort(times);
    return times.get(times.size() / 2);
  }

  private static Maker.Wish wish(String kind) {
    return new Maker.Wish(
        Optional.of(kind),
        SECTORS,
        0,
        0,
        512,
        new Geometry(1024, 16, 63),
        "BENCH",
        1,
        false,
        0x0021_0000);
  }

  private static FileSet files() {
    FileSet out = new FileSet();
    String[] folders = new String[10];
    for (int i = 0; i < folders.length; i++) {
      folders[i] = "USER" + (i + 1);
      out.folder(folders[i], 0, 0x0021_0000);
    }
    byte[] piece = new byte[2 * MEAN];
    for (int i = 0; i < FILES; i++) {
      int bytes = i * 7919 % (2 * MEAN);
      int number = i;
      out.file(
          String.format("%s/F%05d.DAT", folders[i % folders.length], i),
          bytes,
          0x20,
          0x0021_0000,
          s -> {
            ByteBuffer.wrap(piece).putInt(0, number);
            s.take(piece, 0, bytes);
          });
    }
    return out;
  }

  private static void digest(MemoryMedium m, Maker.Layout layout) {
    Volume v =
        Opener.recognise(m, new Hint(true, "", 0, true, Optional.of(layout)))
            .flatMap(Recognised::volume)
            .orElseThrow(() -> new ShedException("What was made does not open."));
    int files = 0;
    for (Node n : v.all()) {
      if (n.folder()) continue;
      var sha = Sha256.fresh();
      v.read(n, sha::update);
      sha.digest();
      files++;
    }
    if (files != FILES) throw new ShedException(files + " of 5 000 files were found.");
  }
}
