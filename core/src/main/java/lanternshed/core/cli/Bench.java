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
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.machine.Card;
import lanternshed.core.machine.Profiles;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Sha256;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.Settling;
import lanternshed.core.node.AskedNodes;
import lanternshed.core.node.NodeNow;
import lanternshed.core.node.Nodes;
import lanternshed.core.node.OwnNodes;
import lanternshed.core.node.ReaderProcess;
import lanternshed.core.plan.Plan;
import lanternshed.core.plan.PlanRequest;
import lanternshed.core.plan.PlanRequest.Strategy;
import lanternshed.core.plan.Planner;
import lanternshed.core.survey.Survey;
import lanternshed.core.survey.Surveyor;
import lanternshed.core.survey.Volumes;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Sink;
import lanternshed.core.volume.Volume;
import lanternshed.core.work.CardWriter;
import lanternshed.core.work.Digests;
import lanternshed.core.work.ImageBuilder;
import lanternshed.core.work.Progress;
import lanternshed.core.work.Proof;
import lanternshed.core.work.Recipe;
import lanternshed.core.work.Rescue;
import lanternshed.core.work.Stock;
import lanternshed.core.work.Wipe;
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
  /** Where mkfs.fat puts the first FAT of a FAT32 volume. */
  private static final int FAT_START = 32;

  private static final Survey NOTHING =
      new Survey(0, Optional.empty(), List.of(), List.of(), List.of());

  private static final int ROUNDS = 5;
  private static final double WARM_SECONDS = 4;
  @Spec private CommandSpec spec;

  @Option(names = "--folder", required = true, description = "where to work; about 7 GB free")
  private Path folder;

  @Option(names = "--cold", description = "command that runs this program in a fresh process")
  private String cold = "";

  @Option(names = "--sparse-gib", defaultValue = "64", description = "size of the sparse image")
  private int sparseGib;

  @Option(
      names = "--only",
      split = ",",
      description =
          "rescue, sparse, build, small, fat32, build32, carrier, mend, start, survey, fault,"
              + " plan, chain, crossing, formats, processor, heap")
  private List<String> only =
      List.of(
          "rescue",
          "sparse",
          "build",
          "small",
          "fat32",
          "build32",
          "carrier",
          "card",
          "wipe",
          "mend",
          "start",
          "survey",
          "fault",
          "plan",
          "chain",
          "crossing",
          "formats",
          "processor",
          "heap");

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
    if (only.contains("sparse")) sparse();
    if (only.contains("fat32")) fat32();
    if (only.contains("build32")) build32();
    if (only.contains("carrier")) carrier();
    if (only.contains("card")) card();
    if (only.contains("wipe")) wipe();
    if (only.contains("mend")) mend();
    if (only.contains("start")) start();
    if (only.contains("survey")) survey();
    if (only.contains("build")) build("3 000 files, 900 MB, 30 folders", 300_000, true);
    if (only.contains("small")) build("3 000 files of 4 KiB, 30 folders", 4096, false);
    for (QuickBench row : QuickBench.values()) {
      if (!only.contains(row.key())) continue;
      row.measure(QuickBench.Effort.FULL).forEach(f -> out.println(f.text()));
      out.flush();
    }
    if (only.contains("crossing")) CrossingBench.print(out);
    if (only.contains("formats")) FormatBench.print(out);
    if (only.contains("heap")) heap();
    return Shed.CLEAN;
  }

  /** A carrier with one drive of 4 GiB, laid down and forced; its proof in a line of its own. */
  private void carrier() throws IOException {
    Path drive = folder.resolve("drive.img");
    fill(drive, 4L << 30);
    String sha256;
    try (FileMedium m = FileMedium.open(drive)) {
      sha256 = Digests.of(m, Progress.NONE, "").sha256();
    }
    Card card = new Card("card", 0, 10_000_000);
    Plan plan =
        Planner.plan(
            Profiles.get("scsi-sampler"),
            new PlanRequest(
                "scsi-sampler",
                "",
                "carrier-exfat",
                card,
                List.of(),
                Strategy.CARRY,
                PlanRequest.School.FLASH,
                List.of(),
                false,
                List.of(new PlanRequest.Carried("drive", sha256, 4L << 30, 0))),
            NOTHING);
    Recipe recipe = Recipe.of(plan, NOTHING, "", List.of());
    FolderStock stock = new FolderStock(drive);
    Path image = folder.resolve("carrier.img");
    Path copy = folder.resolve("copy.img");
    row(
        "build a carrier with 4 GiB against cp + sync",
        () -> {
          try (FileMedium m = FileMedium.create(image, recipe.sectors())) {
            ImageBuilder.build(recipe, Optional.empty(), stock, m, Progress.NONE).close();
          }
        },
        () -> shell("cp " + drive + " " + copy + " && sync " + copy),
        "",
        image,
        copy);
    try (FileMedium m = FileMedium.create(image, recipe.sectors())) {
      ImageBuilder.build(recipe, Optional.empty(), stock, m, Progress.NONE).close();
    }
    row(
        "prove that carrier against openssl dgst -sha256",
        () -> {
          try (FileMedium m = FileMedium.open(image)) {
            Proof p = Proof.of(recipe, Optional.empty(), m, recipe.sectors(), Progress.NONE);
            if (!p.proved()) throw new ShedException("not proved");
          }
        },
        () -> shell("openssl dgst -sha256 " + drive),
        "");
    remove(image, drive);
  }

  /**
   * A file overwritten twice, with noise and with zeros (Z-3), without a read-back on either side.
   */
  private void wipe() throws IOException {
    Path ours = folder.resolve("ours.img");
    Path theirs = folder.resolve("theirs.img");
    fill(ours, 1L << 30);
    fill(theirs, 1L << 30);
    byte[] key = new byte[16];
    row(
        "wipe 1 GiB with noise, then zeros against shred -n1 -z",
        () -> {
          try (FileMedium to = FileMedium.openWritable(ours)) {
            new Wipe(to, Wipe.Order.of(Wipe.School.NOISE_ZEROS, false, key))
                .overwrite(0, (place, so) -> {}, Progress.NONE);
          }
        },
        () -> shell("shred -n1 -z " + theirs),
        "");
    remove(ours, theirs);
  }

  /** An image on a block device past the cache, and read back from it; needs a loop device. */
  private void card() throws IOException {
    Path image = folder.resolve("image.img");
    Path under = folder.resolve("card.img");
    Path said = folder.resolve("loop.txt");
    fill(image, 1L << 30);
    fill(under, 1L << 30);
    shell("losetup -f --show " + under + " > " + said);
    String node = Files.readString(said).strip();
    if (node.isEmpty()) {
      out.println("card: not measured, this computer gives no loop device");
      remove(image, under, said);
      return;
    }
    Nodes own = new OwnNodes(List.of(node + ":write"), System::nanoTime);
    Path socket = folder.resolve("reader.sock");
    try (ReaderProcess reader = new ReaderProcess(own, socket, System.getProperty("user.name"))) {
      new Thread(reader::run).start();
      onCard("", image, own, node, "");
      // A card that is told to be safe has to be so on both sides.
      onCard(" (made safe by both)", image, own, node, "conv=fsync");
      onCard(" through the reader process", image, new AskedNodes(socket), node, "");
    } finally {
      shell("losetup -d " + node);
      remove(image, under, said);
    }
  }

  private void onCard(String how, Path image, Nodes nodes, String node, String end)
      throws IOException {
    row(
        "write 1 GiB to a card" + how + ", read it back against dd direct + cmp",
        () -> {
          NodeNow now = nodes.now(node);
          try (FileMedium from = FileMedium.open(image);
              Medium to = nodes.openWritable(node, now.identity(), now.insertion())) {
            CardWriter.write(from, to, 0, safe -> {}, Progress.NONE);
            if (!CardWriter.readBack(from, to, Progress.NONE).identical()) {
              throw new ShedException("not identical");
            }
          }
        },
        () ->
            shell(
                ("dd if=%1$s of=%2$s oflag=direct bs=4M %3$s status=none"
                        + " && dd if=%2$s iflag=direct bs=4M status=none | cmp - %1$s")
                    .formatted(image, node, end)),
        "");
  }

  /** The planner's answer for every family that is laid out, and a folder of 10 000 entries. */
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

  private static void rescued(Path source, Path image, Path map) {
    try (FileMedium m = FileMedium.open(source)) {
      Rescue.run(
          m,
          image,
          map,
          Rescue.Settings.of(new Rescue.Wish(0, false, false), false),
          Progress.NONE);
    }
  }

  private void sparse() throws IOException {
    Path source = folder.resolve("sparse4.img");
    Path image = folder.resolve("sparse4-rescued.img");
    Path map = folder.resolve("sparse4-rescued.img.map");
    Path copy = folder.resolve("sparse4-copy.img");
    FileMedium.create(source, 4L << 21).close();
    try (FileMedium m = FileMedium.openWritable(source)) {
      byte[] b = new byte[1 << 20];
      for (int i = 0; i < 64; i++) {
        new Random(i).nextBytes(b);
        m.write(i * 131_072L, 2048, b, 0);
      }
    }
    row(
        "rescue sparse 4 GiB against cp --sparse=always + sha256sum",
        () -> rescued(source, image, map),
        () -> {
          shell("cp --sparse=always " + source + " " + copy);
          shell("sha256sum " + copy);
        },
        "image rescue " + source + " " + image + " --retries 0",
        image,
        map,
        copy);
    remove(source);
  }

  /** 20 000 files with long names, made and written from a folder. */
  private void build32() throws IOException {
    Path files = folder.resolve("build32-files");
    Path image = folder.resolve("build32.img");
    Path theirs = folder.resolve("build32-theirs.img");
    manyFiles(files);
    Maker.Wish wish =
        new Maker.Wish(
            Optional.of("FAT32"),
            1_048_576,
            0,
            4096,
            0,
            new Geometry(1024, 16, 63),
            "BENCH",
            1,
            true,
            0x0021_0000);
    Maker maker = Catalogue.maker("FAT16");
    row(
        "FAT32 with 20 000 long names against mkfs.fat + mcopy",
        () -> {
          try (FileMedium m = FileMedium.create(image, wish.sectors())) {
            maker.write(maker.layout(wish), longNamed(files), m, new byte[0], (p, n) -> {});
          }
        },
        () -> {
          shell("mkfs.fat -F 32 -s 8 -C " + theirs + " 524288");
          shell("mcopy -s -i " + theirs + " " + files + "/* ::/");
        },
        "help",
        image,
        theirs);
    clear(files);
  }

  private static FileSet longNamed(Path root) throws IOException {
    FileSet out = new FileSet();
    try (Stream<Path> all = Files.walk(root)) {
      for (Path p : (Iterable<Path>) all.filter(x -> !x.equals(root)).sorted()::iterator) {
        String path = root.relativize(p).toString();
        if (Files.isDirectory(p)) out.folder(path, 0, 0);
        else out.file(path, Files.size(p), 0x20, 0, s -> give(p, s));
      }
    }
    return out;
  }

  private static void give(Path p, Sink sink) {
    try {
      byte[] b = Files.readAllBytes(p);
      sink.take(b, 0, b.length);
    } catch (IOException e) {
      throw new ShedException(p + " does not read.", e);
    }
  }

  /**
   * A volume of 2 GiB with 20 000 files, whose first FAT lost a sector and three folders a mark.
   */
  private void mend() throws IOException {
    Path image = folder.resolve("mend.img");
    Path theirs = folder.resolve("mend-theirs.img");
    Path files = folder.resolve("mend-files");
    manyFiles(files);
    shell("mkfs.fat -F 32 -s 8 -C " + image + " 2097152");
    shell("mcopy -s -i " + image + " " + files + "/* ::/");
    try (FileMedium m = FileMedium.openWritable(image)) {
      Volume v = Volumes.find(m, 0).volume();
      m.write(FAT_START + 3, 1, new byte[512], 0);
      int spoiled = 0;
      for (var n : v.all()) {
        if (!n.folder() || spoiled++ >= 3) continue;
        byte[] b = m.sector(v.sectorsOf(n).get(0)[0]);
        b[0] = 'X';
        m.write(v.sectorsOf(n).get(0)[0], 1, b, 0);
      }
    }
    row(
        "plan the mending of 2 GiB with 20 000 files against fsck.fat -n",
        () -> {
          try (FileMedium m = FileMedium.open(image)) {
            if (Volumes.find(m, 0).volume().mending().orElseThrow().changes().isEmpty()) {
              throw new ShedException("nothing to mend");
            }
          }
        },
        () -> shell("fsck.fat -n " + image),
        "image mend " + image + " --dry-run",
        theirs);
    remove(image);
    clear(files);
  }

  /** A call of the command line from its start to its end, against the bare virtual machine. */
  private void start() throws IOException {
    if (cold.isEmpty()) return;
    Path image = folder.resolve("start.img");
    shell("mkfs.fat -C " + image + " 1440");
    row(
        "one call of the command line against java -version",
        () -> shell(cold + " image inspect " + image),
        () -> shell("java -version"),
        "image inspect " + image);
    remove(image);
  }

  private static void clear(Path tree) throws IOException {
    try (Stream<Path> all = Files.walk(tree)) {
      all.sorted(Comparator.reverseOrder()).forEach(Bench::remove);
    }
  }

  private static void manyFiles(Path files) throws IOException {
    Random random = new Random(32);
    byte[] b = new byte[3000];
    for (int d = 0; d < 40; d++) {
      Path sub = files.resolve("Folder number " + d);
      Files.createDirectories(sub);
      for (int i = 0; i < 500; i++) {
        random.nextBytes(b);
        Files.write(sub.resolve("A longer name of file " + i + ".dat"), b);
      }
    }
  }

  private void fat32() throws IOException {
    Path image = folder.resolve("fat32.img");
    Path files = folder.resolve("fat32-files");
    Path out32 = folder.resolve("fat32-out");
    manyFiles(files);
    shell(
        "mkfs.fat -F 32 -s 8 -C "
            + image
            + " 524288 && mcopy -s -i "
            + image
            + " "
            + files
            + "/* ::/");
    row(
        "list and digest 20 000 files on FAT32 against mcopy + sha256sum",
        () -> {
          try (FileMedium m = FileMedium.open(image)) {
            Volume v = Volumes.find(m, 0).volume();
            int n = 0;
            for (var node : v.all()) {
              if (node.folder()) continue;
              java.security.MessageDigest d = Sha256.fresh();
              v.read(node, d::update);
              d.digest();
              n++;
            }
            if (n != 20_000) throw new ShedException("not all files were found: " + n);
          }
        },
        () -> {
          shell(
              "rm -rf "
                  + out32
                  + " && mkdir "
                  + out32
                  + " && mcopy -s -n -i "
                  + image
                  + " '::*' "
                  + out32);
          shell("find " + out32 + " -type f -print0 | xargs -0 sha256sum");
        },
        "image list " + image);
    remove(image);
    shell("rm -rf " + files + " " + out32);
  }

  private void survey() throws IOException {
    Path image = folder.resolve("survey.img");
    FileMedium.create(image, 64L << 21).close();
    shell("printf 'start=2048, size=100000000, type=c\\n' | sfdisk -q " + image);
    shell("mkfs.fat -F 32 -s 64 --offset 2048 " + image + " 50000000");
    double[] t = new double[ROUNDS];
    for (int i = 0; i < ROUNDS; i++) {
      t[i] =
          time(
              () -> {
                try (FileMedium m = FileMedium.open(image)) {
                  Surveyor.survey(m);
                }
              });
    }
    Arrays.sort(t);
    out.printf("survey of a 64 GiB image with a FAT32 volume of 47.7 GiB: %.3f s%n", t[ROUNDS / 2]);
    out.flush();
    remove(image);
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
            "pc",
            "MBR",
            Strategy.REBUILD,
            start + length,
            g,
            "00000001",
            Recipe.BootCodeFrom.OWN,
            "",
            List.of(),
            List.of(
                new Recipe.Part(
                    start,
                    length,
                    0,
                    false,
                    true,
                    "06",
                    "FAT16",
                    16_384,
                    512,
                    "BENCH",
                    "00000002",
                    -1,
                    files.toString(),
                    List.of(),
                    "",
                    "",
                    false,
                    0)));
    Path recipeFile = folder.resolve("recipe.json");
    Files.writeString(recipeFile, recipe.toJson());
    Path image = folder.resolve("built.img");
    Path theirsImage = folder.resolve("theirs.img");
    Timed ours =
        () -> {
          try (FileMedium m = FileMedium.create(image, recipe.sectors())) {
            try (Settling safe =
                ImageBuilder.build(recipe, Optional.empty(), Stock.EMPTY, m, Progress.NONE)) {
              Proof p = Proof.of(recipe, Optional.empty(), m, recipe.sectors(), Progress.NONE);
              if (!p.proved() || p.files() != 3000) throw new ShedException("not proved");
            }
          }
        };
    Timed theirs =
        () -> {
          shell("mkfs.fat -F 16 -s 32 -C " + theirsImage + " " + length / 2);
          shell("mcopy -s -i " + theirsImage + " " + files + "/* ::/");
        };
    Timed safe =
        () -> {
          theirs.run();
          shell("sync " + theirsImage);
        };
    row(
        "build " + name + " against mkfs.fat + mcopy",
        ours,
        theirs,
        "image build " + recipeFile + " " + image,
        image,
        theirsImage);
    row("the same against mkfs.fat + mcopy + sync", ours, safe, "", image, theirsImage);
    if (checkToo) {
      ours.run();
      theirs.run();
      Timed check =
          () -> {
            try (Medium m = FileMedium.open(image)) {
              Volume v = Volumes.find(m, 1).volume();
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
    // What takes milliseconds runs more often before the compiler has settled.
    for (double spent = 0; spent < WARM_SECONDS; ) spent += time(ours, clean);
    for (int i = 0; i < ROUNDS; i++) {
      a[i] = time(ours, clean);
      b[i] = time(theirs, clean);
    }
    double c =
        cold.isEmpty() || coldCommand.isEmpty()
            ? Double.NaN
            : time(() -> shell(cold + " " + coldCommand), clean);
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
