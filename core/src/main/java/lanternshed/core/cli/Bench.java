package lanternshed.core.cli;

import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.concurrent.Callable;
import java.util.stream.Stream;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.plan.PlanRequest.Strategy;
import lanternshed.core.table.mbr.Mbr;
import lanternshed.core.volume.fat.FatVolume;
import lanternshed.core.work.ImageBuilder;
import lanternshed.core.work.Progress;
import lanternshed.core.work.Recipe;
import lanternshed.core.work.Rescue;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

/**
 * Measures this program against general tools, alternating in the same run: the ratio is ours
 * divided by theirs, median of five, in one warmed process, with the cold command's time beside it.
 */
@Command(name = "bench", description = "Prints ratios of time against general tools.")
final class Bench implements Callable<Integer> {
  private static final int ROUNDS = 5;
  @Spec private CommandSpec spec;

  @Option(names = "--folder", required = true, description = "where to work; about 7 GB free")
  private Path folder;

  @Option(names = "--cold", description = "command that runs this program in a fresh process")
  private String cold = "";

  @Option(names = "--sparse-gib", defaultValue = "64", description = "size of the sparse image")
  private int sparseGib;

  @Option(names = "--only", split = ",", description = "rescue, build, small, heap")
  private List<String> only = List.of("rescue", "build", "small", "heap");

  private PrintWriter out;

  private interface Timed {
    void run() throws IOException;
  }

  @Override
  public Integer call() throws IOException {
    out = Output.of(spec);
    Files.createDirectories(folder);
    out.printf("%-44s %9s %9s %7s %9s%n", "what", "ours s", "theirs s", "ratio", "cold s");
    if (only.contains("rescue")) rescue();
    if (only.contains("build")) build("3 000 files, 900 MB, 30 folders", 300_000, true);
    if (only.contains("small")) build("3 000 files of 4 KiB, 30 folders", 4096, false);
    if (only.contains("heap")) heap();
    return Shed.CLEAN;
  }

  private void rescue() throws IOException {
    Path source = folder.resolve("clean.img");
    fill(source, 1L << 30);
    Path image = folder.resolve("rescued.img");
    Path map = folder.resolve("rescued.img.map");
    Path copy = folder.resolve("copy.img");
    Timed ours =
        () -> {
          try (FileMedium m = FileMedium.open(source)) {
            // As cp does, the image is left in the page cache; the map survives a killed process.
            Rescue.run(
                m,
                image,
                map,
                Rescue.Settings.of(new Rescue.Wish(0, false, false), false),
                Progress.NONE);
          }
        };
    Timed theirs =
        () -> {
          shell("cp " + source + " " + copy);
          shell("openssl dgst -sha256 " + copy);
        };
    row(
        "rescue 1 GiB against cp + openssl sha256",
        ours,
        theirs,
        "image rescue " + source + " " + image + " --retries 0",
        image,
        map,
        copy);
    remove(source);
  }

  private void build(String name, int size, boolean checkToo) throws IOException {
    Path files = folder.resolve("files");
    Random random = new Random(7);
    byte[] b = new byte[size];
    for (int d = 0; d < 30; d++) {
      Path sub = folder.resolve("files").resolve(String.format("DIR%02d", d));
      Files.createDirectories(sub);
      for (int f = 0; f < 100; f++) {
        random.nextBytes(b);
        Files.write(sub.resolve(String.format("FILE%03d.BIN", f)), b);
      }
    }
    long sectors = 2_097_152L / 2 * 2;
    Geometry g = new Geometry(1024, 64, 63);
    long start = 63;
    long length = sectors - start - sectors % g.perCylinder();
    Recipe recipe =
        new Recipe(
            Recipe.FORM,
            Strategy.REBUILD,
            start + length,
            g,
            "00000001",
            Recipe.BootCodeFrom.OWN,
            "",
            List.of(
                new Recipe.Part(
                    start,
                    length,
                    0,
                    false,
                    true,
                    6,
                    "FAT16",
                    16_384,
                    512,
                    "BENCH",
                    "00000002",
                    -1,
                    files.toString(),
                    "")));
    Path recipeFile = folder.resolve("recipe.json");
    Files.writeString(recipeFile, recipe.toJson());
    Path image = folder.resolve("built.img");
    Path theirsImage = folder.resolve("theirs.img");
    Timed ours =
        () -> {
          try (FileMedium m = FileMedium.create(image, recipe.sectors())) {
            ImageBuilder.build(recipe, Optional.empty(), m, Progress.NONE);
            ImageBuilder.Proof p =
                ImageBuilder.prove(recipe, Optional.empty(), m, recipe.sectors(), Progress.NONE);
            if (!p.proved() || p.files() != 3000) throw new ShedException("not proved");
          }
        };
    Timed theirs =
        () -> {
          shell("mkfs.fat -F 16 -s 32 -C " + theirsImage + " " + length / 2);
          shell("mcopy -s -i " + theirsImage + " " + files + "/* ::/");
        };
    row(
        "build " + name + " against mkfs.fat + mcopy",
        ours,
        theirs,
        "image build " + recipeFile + " " + image,
        image,
        theirsImage);
    if (checkToo) {
      ours.run();
      theirs.run();
      Timed check =
          () -> {
            try (Medium m = FileMedium.open(image)) {
              var e = new Mbr().read(m).orElseThrow().volumes().get(0);
              var v = FatVolume.open(new SliceMedium(m, e.start(), e.length()));
              if (!v.check().isEmpty()) throw new ShedException("findings");
            }
          };
      row(
          "check of that volume against fsck.fat -n",
          check,
          () -> shell("fsck.fat -n " + theirsImage),
          "image check " + image);
      remove(image, theirsImage);
    }
    try (Stream<Path> all = Files.walk(files)) {
      all.sorted(Comparator.reverseOrder()).forEach(Bench::remove);
    }
  }

  private void heap() throws IOException {
    for (int gib : new int[] {1, sparseGib}) {
      Path source = folder.resolve("sparse.img");
      Path image = folder.resolve("sparse-rescued.img");
      Path map = folder.resolve("sparse-rescued.img.map");
      FileMedium.create(source, gib * (1L << 21)).close();
      System.gc();
      long[] most = {0};
      long t = System.nanoTime();
      try (FileMedium m = FileMedium.open(source)) {
        Rescue.run(
            m,
            image,
            map,
            Rescue.Settings.of(new Rescue.Wish(0, false, false), false),
            (phase, done, total) -> {
              Runtime r = Runtime.getRuntime();
              most[0] = Math.max(most[0], r.totalMemory() - r.freeMemory());
            });
      }
      out.printf(
          "heap of a rescue of a sparse image of %2d GiB: %d MB at most, in %.1f s%n",
          gib, most[0] >> 20, (System.nanoTime() - t) / 1e9);
      remove(source, image, map);
    }
  }

  // ---- measuring --------------------------------------------------------------------------------

  private void row(String name, Timed ours, Timed theirs, String coldCommand, Path... clean)
      throws IOException {
    double[] a = new double[ROUNDS];
    double[] b = new double[ROUNDS];
    time(ours, clean);
    for (int i = 0; i < ROUNDS; i++) {
      a[i] = time(ours, clean);
      b[i] = time(theirs, clean);
    }
    double c = cold.isEmpty() ? Double.NaN : time(() -> shell(cold + " " + coldCommand), clean);
    Arrays.sort(a);
    Arrays.sort(b);
    double x = a[ROUNDS / 2];
    double y = b[ROUNDS / 2];
    out.printf("%-44s %9.3f %9.3f %7.2f %9.2f%n", name, x, y, x / y, c);
    out.flush();
  }

  private static double time(Timed what, Path... clean) throws IOException {
    remove(clean);
    // What an earlier round left to be written back must not slow this one.
    shell("sync");
    long t = System.nanoTime();
    what.run();
    double seconds = (System.nanoTime() - t) / 1e9;
    remove(clean);
    return seconds;
  }

  private static void shell(String command) throws IOException {
    Process p =
        new ProcessBuilder("sh", "-c", command)
            .redirectErrorStream(true)
            .redirectOutput(ProcessBuilder.Redirect.DISCARD)
            .start();
    try {
      int exit = p.waitFor();
      if (exit > 1) throw new ShedException(command + " ended with " + exit + ".");
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }

  private static void fill(Path file, long bytes) throws IOException {
    Random random = new Random(42);
    byte[] b = new byte[1 << 20];
    try (var o = Files.newOutputStream(file)) {
      for (long n = 0; n < bytes; n += b.length) {
        random.nextBytes(b);
        o.write(b);
      }
    }
  }

  private static void remove(Path... files) {
    for (Path p : files) {
      try {
        Files.deleteIfExists(p);
      } catch (IOException e) {
        throw new ShedException("cannot remove " + p, e);
      }
    }
  }
}
