package lanternshed.core.cli;

import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintWriter;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.Mending;
import lanternshed.core.medium.Settling;
import lanternshed.core.survey.Inside;
import lanternshed.core.survey.Survey;
import lanternshed.core.survey.Surveyor;
import lanternshed.core.survey.Volumes;
import lanternshed.core.table.TableEntry;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Volume;
import lanternshed.core.volume.VolumeException;
import lanternshed.core.work.Comparison;
import lanternshed.core.work.Digests;
import lanternshed.core.work.FileComparison;
import lanternshed.core.work.FilesOut;
import lanternshed.core.work.ImageBuilder;
import lanternshed.core.work.LostVolumes;
import lanternshed.core.work.Progress;
import lanternshed.core.work.Proof;
import lanternshed.core.work.Recipe;
import lanternshed.core.work.Rescue;
import lanternshed.core.work.RescueMap;
import lanternshed.core.work.Stock;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** What can be done with an image file. Originals are opened for reading only. */
@Command(
    name = "image",
    description = "Inspect, list, get, check, change, build, start, rescue and compare images.",
    subcommands = BootCommand.class)
final class ImageCommand extends EditCommands implements Runnable {

  @Override
  public void run() {
    spec.commandLine().usage(Output.of(spec));
  }

  // ---- inspect ----------------------------------------------------------------------------------

  record Inspected(
      long sectors,
      String scheme,
      List<Entry> entries,
      List<VolumeRow> volumes,
      List<Survey.GeometrySource> geometry,
      List<Output.Said> findings) {}

  record Entry(
      int number,
      long start,
      long length,
      String type,
      String typeName,
      boolean active,
      boolean container,
      String firstChs,
      String lastChs) {}

  record VolumeRow(
      int number,
      long start,
      long length,
      String kind,
      String label,
      boolean readable,
      long files,
      long folders,
      long bytes,
      long clusterBytes,
      long freeBytes,
      List<String> systemFiles) {}

  @Command(description = "Table, volumes, geometry and findings of an image.")
  int inspect(
      @Parameters(paramLabel = "IMAGE") Path file,
      @Option(names = "--in", description = IN) List<String> in,
      @Option(names = "--layout", description = LAYOUT) String layout,
      @Option(names = "--json") boolean json) {
    PrintWriter out = Output.of(spec);
    try (FileMedium m = ImageFile.open(file)) {
      Survey s = survey(m, in, layout);
      if (json) Output.json(out, inspected(s));
      else print(out, s);
      return exit(s);
    }
  }

  private static Survey survey(FileMedium m, List<String> in, String layout) {
    Medium inside = inside(m, in);
    Survey s = Surveyor.survey(told(inside, layout));
    return inside == m ? s.withTail(m.tailBytes()) : s;
  }

  private static int exit(Survey s) {
    if (s.volumes().isEmpty()) return Shed.UNUSABLE;
    boolean wrong = s.allFindings().stream().anyMatch(f -> f.weight() != Finding.Weight.NOTE);
    return wrong ? Shed.FINDINGS : Shed.CLEAN;
  }

  private static Inspected inspected(Survey s) {
    List<Entry> entries =
        s.table().stream()
            .flatMap(t -> t.entries().stream())
            .map(
                e ->
                    new Entry(
                        e.number(),
                        e.start(),
                        e.length(),
                        String.format("%02X", e.type()),
                        e.typeName(),
                        e.active(),
                        e.container(),
                        e.first().toString(),
                        e.last().toString()))
            .toList();
    List<VolumeRow> volumes =
        s.volumes().stream()
            .map(
                v ->
                    new VolumeRow(
                        v.number(),
                        v.start(),
                        v.length(),
                        v.kind(),
                        v.label(),
                        v.readable(),
                        v.files(),
                        v.folders(),
                        v.bytes(),
                        v.use().clusterBytes(),
                        v.use().freeBytes(),
                        v.systemFiles()))
            .toList();
    return new Inspected(
        s.sectors(),
        s.table().isPresent() ? s.table().get().scheme() : "none",
        entries,
        volumes,
        s.geometry(),
        Output.Said.of(s.allFindings()));
  }

  private static void print(PrintWriter out, Survey s) {
    out.println(Say.sectors(s.sectors()) + ", " + Say.mib(s.sectors() * 512));
    s.table()
        .ifPresent(
            t -> {
              out.println("Table: " + t.scheme());
              for (TableEntry e : t.entries()) {
                out.printf(
                    "  %d%s %12s + %-12s %02X %s%n",
                    e.number(),
                    e.active() ? "*" : " ",
                    Say.count(e.start()),
                    Say.count(e.length()),
                    e.type(),
                    e.typeName());
              }
            });
    for (Survey.Found v : s.volumes()) {
      String name = (v.kind() + " " + v.label()).strip();
      if (!v.readable()) {
        out.printf("Volume %d: %s, not read%n", v.number(), name);
        continue;
      }
      out.printf(
          "Volume %d: %s, %s, %s in files, %s free, clusters of %s%n",
          v.number(),
          name,
          Say.plural(v.files(), "file", "files"),
          Say.size(v.bytes()),
          Say.size(v.use().freeBytes()),
          Say.size(v.use().clusterBytes()));
    }
    for (Survey.GeometrySource g : s.geometry()) {
      out.printf(
          "Geometry: %d heads, %d sectors by %s (%s)%n",
          g.heads(), g.sectors(), g.source(), g.evidence());
    }
    Output.findings(out, s.allFindings());
  }

  // ---- files ------------------------------------------------------------------------------------

  record Listed(int volume, String kind, String label, List<Row> files) {}

  record Row(String path, boolean folder, long bytes, String attributes, String time) {}

  @Command(description = "All files and folders of one volume.")
  int list(
      @Parameters(paramLabel = "IMAGE") Path file,
      @Option(names = "--volume", defaultValue = "0") int number,
      @Option(names = "--in", description = IN) List<String> in,
      @Option(names = "--layout", description = LAYOUT) String layout,
      @Option(names = "--json") boolean json) {
    PrintWriter out = Output.of(spec);
    try (FileMedium m = ImageFile.open(file)) {
      Volumes.Opened v = Volumes.find(told(inside(m, in), layout), number);
      List<Row> rows = v.volume().all().stream().map(ImageCommand::row).toList();
      if (json)
        Output.json(out, new Listed(v.number(), v.volume().kind(), v.volume().label(), rows));
      else {
        for (Row r : rows) {
          out.printf(
              "%14s  %s  %-5s %s%n",
              r.folder() ? "folder" : Say.count(r.bytes()), r.time(), r.attributes(), r.path());
        }
      }
      return guessed(v.volume()) ? Shed.FINDINGS : Shed.CLEAN;
    }
  }

  private static final DateTimeFormatter WHEN = DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm:ss");

  private static Row row(Node n) {
    // A system without times has none; day 0 is no day.
    String stamp = n.time().map(WHEN::format).orElse(" ".repeat(19));
    StringBuilder a = new StringBuilder();
    if ((n.attributes() & 1) != 0) a.append('r');
    if ((n.attributes() & 2) != 0) a.append('h');
    if ((n.attributes() & 4) != 0) a.append('s');
    if ((n.attributes() & 32) != 0) a.append('a');
    return new Row(n.path(), n.folder(), n.bytes(), a.toString(), stamp);
  }

  private static final int MOST_HITS = 1000;

  @Command(description = "Files with some letters in their path, in an image and the images on it.")
  int where(
      @Parameters(paramLabel = "IMAGE") Path file,
      @Parameters(paramLabel = "LETTERS") String letters,
      @Option(names = "--in", description = IN) List<String> in,
      @Option(names = "--json") boolean json) {
    PrintWriter out = Output.of(spec);
    try (FileMedium m = ImageFile.open(file)) {
      Inside.Hits found = Inside.find(inside(m, in), letters, MOST_HITS);
      if (json) Output.json(out, found);
      else {
        for (Inside.Hit h : found.hits()) {
          List<String> steps = new ArrayList<>(h.way());
          steps.add(h.path());
          out.printf("%14s  %s%n", Say.count(h.bytes()), String.join(" > ", steps));
        }
        if (!found.whole()) out.println("There may be more; say more letters.");
      }
      return found.hits().isEmpty() ? Shed.FINDINGS : Shed.CLEAN;
    }
  }

  record Got(long files, long bytes, List<String> notWhole) {}

  @Command(
      description =
          "Copies a file, or a folder with a list of digests, out of an image. Without a volume, /"
              + " gives every volume, each in a folder of its own.")
  int get(
      @Parameters(paramLabel = "IMAGE") Path file,
      @Parameters(paramLabel = "PATH", description = "/ for everything") String path,
      @Parameters(paramLabel = "OUT") Path to,
      @Option(names = "--volume", defaultValue = "0") int number,
      @Option(names = "--in", description = IN) List<String> in,
      @Option(names = "--layout", description = LAYOUT) String layout,
      @Option(names = "--json") boolean json) {
    String under = path.replaceAll("^/+|/+$", "");
    try (FileMedium outer = ImageFile.open(file)) {
      List<Volumes.Opened> volumes = meant(told(inside(outer, in), layout), under, number);
      Got got = got(volumes, under, to);
      if (json) Output.json(Output.of(spec), got);
      else {
        Output.of(spec)
            .println(Say.plural(got.files(), "file", "files") + ", " + Say.bytes(got.bytes()));
        got.notWhole().forEach(n -> Output.of(spec).println("not whole: " + n));
      }
      boolean guess = volumes.stream().filter(o -> guessed(o.volume())).count() > 0;
      return got.notWhole().isEmpty() && !guess ? Shed.CLEAN : Shed.FINDINGS;
    } catch (IOException e) {
      throw new ShedException("What was asked for cannot be written: " + e.getMessage() + ".", e);
    }
  }

  private static final String IN =
      "a file inside that is an image itself, 1/DRIVE1.IMG; again for one inside that";

  /** Goes down into images in images. */
  private static Medium inside(Medium outer, List<String> in) {
    return Inside.open(Catalogue.drive(outer).orElse(outer), in == null ? List.of() : in);
  }

  /** Those that are meant: all of them where everything is asked for, else one. */
  private static List<Volumes.Opened> meant(Medium m, String under, int number) {
    if (!under.isEmpty() || number != 0) return List.of(Volumes.find(m, number));
    List<Volumes.Opened> all = Volumes.all(m);
    return all.size() > 1 ? all : List.of(Volumes.find(m, number));
  }

  private static Got got(List<Volumes.Opened> volumes, String under, Path to) throws IOException {
    if (volumes.size() == 1) return got(volumes.get(0).volume(), under, to);
    long files = 0;
    long bytes = 0;
    List<String> notWhole = new ArrayList<>();
    for (Volumes.Opened o : volumes) {
      Got one = folder(o.volume(), "", to.resolve("volume-" + o.number()));
      files += one.files();
      bytes += one.bytes();
      one.notWhole().forEach(n -> notWhole.add("volume " + o.number() + ": " + n));
    }
    return new Got(files, bytes, notWhole);
  }

  private static Got got(Volume v, String under, Path to) throws IOException {
    Optional<Node> one =
        v.all().stream().filter(n -> !n.folder() && n.path().equalsIgnoreCase(under)).findFirst();
    return one.isPresent() ? single(v, one.get(), to) : folder(v, under, to);
  }

  private static Got folder(Volume v, String under, Path to) throws IOException {
    if (!under.isEmpty() && v.all().stream().noneMatch(FilesOut.under(under))) {
      throw new ShedException("There is no file or folder of that path in the image.");
    }
    FilesOut.Report r = FilesOut.copy(v, FilesOut.under(under), FilesOut.into(to), Map.of());
    return new Got(r.files(), r.bytes(), r.notWhole());
  }

  /** Written aside: under its name stands only what came, as far as the volume has it. */
  private static Got single(Volume v, Node node, Path to) throws IOException {
    if (Files.exists(to)) {
      throw new ShedException("The file " + to + " exists already and is not replaced.");
    }
    Path aside = FilesOut.aside(to);
    List<String> missing = new ArrayList<>();
    try {
      try (OutputStream o = Files.newOutputStream(aside)) {
        v.read(
            node,
            (b, at, n) -> {
              try {
                o.write(b, at, n);
              } catch (IOException e) {
                throw new UncheckedIOException(e);
              }
            });
      } catch (VolumeException e) {
        missing.add(e.getMessage());
      }
      Files.setLastModifiedTime(aside, FileTime.fromMillis(FilesOut.millis(node)));
      Files.move(aside, to);
      return new Got(1, Files.size(to), missing);
    } catch (UncheckedIOException e) {
      throw e.getCause();
    } finally {
      Files.deleteIfExists(aside);
    }
  }

  // ---- check ------------------------------------------------------------------------------------

  record Checked(boolean clean, List<Output.Said> findings) {}

  @Command(description = "Checks table and volumes; changes nothing.")
  int check(
      @Parameters(paramLabel = "IMAGE") Path file,
      @Option(names = "--in", description = IN) List<String> in,
      @Option(names = "--layout", description = LAYOUT) String layout,
      @Option(names = "--json") boolean json) {
    PrintWriter out = Output.of(spec);
    try (FileMedium m = ImageFile.open(file)) {
      Survey s = survey(m, in, layout);
      int exit = exit(s);
      if (json) Output.json(out, new Checked(exit == 0, Output.Said.of(s.allFindings())));
      else {
        Output.findings(out, s.allFindings());
        if (exit == 0) out.println("Clean.");
      }
      return exit;
    }
  }

  // ---- build ------------------------------------------------------------------------------------

  record Built(
      long sectors, boolean proved, long files, List<String> differing, List<LinkRow> boot) {}

  record LinkRow(String rule, String name, String verdict, String evidence) {}

  @Command(description = "Builds an image from a recipe and proves it.")
  int build(
      @Parameters(paramLabel = "RECIPE") Path recipeFile,
      @Parameters(paramLabel = "OUT") Path to,
      @Option(names = "--source", description = "the image that the content comes from") Path from,
      @Option(names = "--layout", description = LAYOUT) String layout,
      @Option(names = "--files", description = "a folder with the files that it names by digest")
          Path files,
      @Option(names = "--json") boolean json) {
    Recipe recipe = Recipe.parse(text(recipeFile));
    Path half = to.resolveSibling(to.getFileName() + ".half");
    if (Files.exists(to)) throw new ShedException("The file " + to + " exists already.");
    ImageBuilder.examine(recipe, recipe.sourceSha256().isEmpty() ? "" : sha256(from));
    delete(half);
    try (FileMedium source = from == null ? null : ImageFile.open(from);
        FileMedium target = FileMedium.create(half, recipe.sectors())) {
      Optional<Medium> s = Optional.ofNullable(source).map(m -> told(m, layout));
      Stock stock = files == null ? Stock.EMPTY : new FolderStock(files);
      Proof p = proved(recipe, s, stock, target);
      Files.move(half, to);
      List<LinkRow> links =
          p.boot().links().stream()
              .map(l -> new LinkRow(l.rule(), l.name(), l.verdict().name(), l.evidence()))
              .toList();
      PrintWriter out = Output.of(spec);
      if (json) {
        Output.json(out, new Built(recipe.sectors(), p.proved(), p.files(), p.differing(), links));
      } else {
        Output.findings(out, p.table());
        Output.findings(out, p.volumes());
        for (LinkRow l : links) {
          out.printf("%-4s %-8s %s: %s%n", l.rule(), l.verdict(), l.name(), l.evidence());
        }
        out.println(
            (p.proved() ? "Proved: " : "Not proved: ") + Say.sectors(recipe.sectors()) + ".");
      }
      return p.proved() ? Shed.CLEAN : Shed.FINDINGS;
    } catch (IOException e) {
      throw new ShedException("The image cannot be kept: " + e.getMessage() + ".", e);
    } finally {
      delete(half);
    }
  }

  private static Proof proved(Recipe recipe, Optional<Medium> source, Stock stock, Medium to) {
    try (Settling safe = ImageBuilder.build(recipe, source, stock, to, Progress.NONE)) {
      return Proof.of(recipe, source, to, recipe.sectors(), Progress.NONE);
    }
  }

  /** Digest of a source; "" for none, whose lack the builder tells. */
  private static String sha256(Path from) {
    if (from == null) return "";
    try (FileMedium m = ImageFile.open(from)) {
      return Digests.of(m, Progress.NONE, "reading the source").sha256();
    }
  }

  private static String text(Path file) {
    try {
      if (Files.size(file) > 4 << 20) throw new ShedException(file + " is too long for a recipe.");
      return Files.readString(file);
    } catch (IOException e) {
      throw new ShedException("The recipe " + file + " does not read: " + e.getMessage() + ".", e);
    }
  }

  private static void delete(Path p) {
    try {
      Files.deleteIfExists(p);
    } catch (IOException e) {
      throw new ShedException("The file " + p + " cannot be removed: " + e.getMessage() + ".", e);
    }
  }

  // ---- rescue and compare -----------------------------------------------------------------------

  record Rescued(
      long sectors,
      long read,
      long late,
      long lost,
      List<RescueMap.Range> failed,
      int tailBytes,
      String sha256,
      String crc32,
      List<String> chunks) {}

  @Command(description = "Images a medium; goes on where the map beside the image says.")
  int rescue(
      @Parameters(paramLabel = "SOURCE") Path from,
      @Parameters(paramLabel = "IMAGE") Path to,
      @Option(names = "--retries", defaultValue = "2") int retries,
      @Option(names = "--files-first", description = "table, FATs, folders, used clusters first")
          boolean filesFirst,
      @Option(names = "--skip-free", description = "with --files-first: never read free space")
          boolean skipFree,
      @Option(names = "--json") boolean json) {
    if (retries < 0) throw new ShedException("--retries is 0 or more, not " + retries + ".");
    Rescue.Settings settings =
        new Rescue.Settings(
            () -> new Rescue.Wish(retries, filesFirst, skipFree),
            true,
            System::nanoTime,
            Duration.ofSeconds(60));
    try (FileMedium source = FileMedium.open(from)) {
      if (source.sectors() == 0) {
        throw new ShedException(
            from + " has " + Say.bytes(source.length()) + ", not one sector; nothing was made.");
      }
      Path map = to.resolveSibling(to.getFileName() + ".map");
      Rescue.Report r = Rescue.run(source, to, map, settings, Progress.NONE);
      int tail = source.tailBytes();
      if (json) {
        Output.json(
            Output.of(spec),
            new Rescued(
                r.sectors(),
                r.read(),
                r.late(),
                r.lost(),
                r.failed(),
                tail,
                r.digests().sha256(),
                String.format("%08x", r.digests().crc32()),
                r.digests().chunks()));
      } else {
        Output.of(spec)
            .println(
                Say.sectors(r.read() + r.late())
                    + " read, "
                    + Say.count(r.lost())
                    + " lost, SHA-256 "
                    + r.digests().sha256());
        if (r.again() > 0) {
          Output.of(spec)
              .println(
                  Say.sectors(r.again())
                      + " did not lie in the image any more as they came and were read again: look at"
                      + " the disk that it lies on.");
        }
        if (tail > 0) {
          Output.of(spec)
              .println(
                  "The last "
                      + Say.bytes(tail)
                      + " of "
                      + from
                      + " are no whole sector and are not in the image: it was cut, or is no raw image.");
        }
      }
      return r.lost() == 0 && tail == 0 ? Shed.CLEAN : Shed.FINDINGS;
    }
  }

  record Compared(
      boolean identical,
      long compared,
      long differing,
      long first,
      long longer,
      List<long[]> ranges,
      List<FileComparison> volumes) {}

  @Command(description = "Compares two images sector by sector and file by file.")
  int compare(
      @Parameters(paramLabel = "A") Path a,
      @Parameters(paramLabel = "B") Path b,
      @Option(names = "--json") boolean json) {
    try (FileMedium x = ImageFile.open(a);
        FileMedium y = ImageFile.open(b)) {
      Comparison c = Comparison.of(x, y, 0, Progress.NONE, "comparing");
      if (json) {
        Output.json(
            Output.of(spec),
            new Compared(
                c.identical(),
                c.compared(),
                c.differing(),
                c.first(),
                c.longer(),
                c.ranges(),
                c.identical() ? List.of() : files(x, y)));
      } else if (c.identical()) {
        Output.of(spec).println("Identical, " + Say.sectors(c.compared()) + ".");
      } else {
        Output.of(spec)
            .println(
                Say.sectors(c.differing())
                    + (c.differing() == 1 ? " differs" : " differ")
                    + (c.first() < 0 ? "" : ", the first is " + Say.count(c.first()))
                    + (c.longer() == 0
                        ? "."
                        : "; the "
                            + (c.longer() > 0 ? "first" : "second")
                            + " is longer by "
                            + Say.sectors(Math.abs(c.longer()))
                            + "."));
        for (FileComparison f : files(x, y)) {
          Output.of(spec)
              .printf(
                  "Files: %d the same, %d differ, %d only in the first, %d only in the second.%n",
                  f.same(), f.differing().size(), f.onlyFirst().size(), f.onlySecond().size());
        }
      }
      return c.identical() ? Shed.CLEAN : Shed.FINDINGS;
    }
  }

  /** Each pair of volumes that both have. */
  private static List<FileComparison> files(Medium a, Medium b) {
    List<Volumes.Opened> x = Volumes.all(a);
    List<Volumes.Opened> y = Volumes.all(b);
    List<FileComparison> out = new ArrayList<>();
    for (int i = 0; i < Math.min(x.size(), y.size()); i++) {
      out.add(
          FileComparison.of(
              x.get(i).volume(), y.get(i).volume(), FileComparison.Known.NOTHING, Progress.NONE));
    }
    return out;
  }

  // ---- mend and find
  // ------------------------------------------------------------------------------

  record Mended(int volume, List<String> changes, List<Output.Said> remaining) {}

  @Command(
      description =
          "Mends a copy of a volume, every change listed. Exit 0: mended or nothing to do; 1:"
              + " something stays.")
  int mend(
      @Parameters(paramLabel = "IMAGE") Path file,
      @Parameters(paramLabel = "OUT", arity = "0..1", description = "The mended copy.") Path to,
      @Option(names = "--volume", defaultValue = "0") int number,
      @Option(names = "--dry-run", description = "List the changes and write nothing.") boolean dry,
      @Option(names = "--json") boolean json)
      throws IOException {
    if (!dry && to == null) {
      throw new ShedException("Say where the mended copy goes, or --dry-run for the list alone.");
    }
    PrintWriter out = Output.of(spec);
    List<String> changes = new ArrayList<>();
    List<Finding> stays;
    Volumes.Opened o;
    try (FileMedium from = ImageFile.open(file)) {
      o = Volumes.find(from, number);
      Mending plan = mending(o.volume());
      plan.changes().forEach(c -> changes.add(c.what()));
      stays = dry ? List.of() : mended(file, to, o.start(), plan);
      // What was found and has no change in the list stays, whether or not a copy was asked for.
      if (dry && changes.isEmpty()) stays = faults(o.volume());
    }
    if (json) Output.json(out, new Mended(o.number(), changes, Output.Said.of(stays)));
    else {
      if (changes.isEmpty()) {
        out.println(
            stays.isEmpty()
                ? "Nothing has to be mended."
                : "Nothing of what is wrong here is mended by this program; it stays as it is.");
      }
      changes.forEach(out::println);
      Output.findings(out, stays);
    }
    return stays.isEmpty() ? Shed.CLEAN : Shed.FINDINGS;
  }

  private static List<Finding> faults(Volume v) {
    return v.check().stream().filter(f -> f.weight() != Finding.Weight.NOTE).toList();
  }

  private static Mending mending(Volume v) {
    return v.mending()
        .orElseThrow(() -> new ShedException("Volumes of " + v.kind() + " are not mended here."));
  }

  /** Writes the copy and gives what is wrong with it still; a copy that breaks off is no copy. */
  private static List<Finding> mended(Path file, Path to, long start, Mending plan)
      throws IOException {
    if (Files.exists(to)) {
      throw new ShedException("The file " + to + " exists already and is not replaced.");
    }
    Path aside = FilesOut.aside(to);
    Files.copy(file, aside);
    List<Finding> stays;
    try (FileMedium copy = FileMedium.openWritable(aside)) {
      Medium slice = Volumes.slice(copy, start, copy.sectors() - start);
      plan.apply(slice);
      copy.flush();
      stays = faults(Volumes.recognise(slice).orElseThrow());
    }
    Files.move(aside, to);
    return stays;
  }

  @Command(description = "Looks for volumes that no table names.")
  int find(@Parameters(paramLabel = "IMAGE") Path file, @Option(names = "--json") boolean json) {
    PrintWriter out = Output.of(spec);
    try (FileMedium m = ImageFile.open(file)) {
      List<LostVolumes.Found> found = LostVolumes.find(m, Progress.NONE);
      if (json) Output.json(out, found);
      else {
        for (LostVolumes.Found f : found) {
          out.printf(
              "%12s + %-12s %s %s: %s, by %s%n",
              Say.count(f.start()),
              Say.count(f.length()),
              f.kind(),
              f.label(),
              f.listed()
                  ? f.whole() + " of " + f.files() + " files whole"
                  : "files not listed here",
              f.evidence());
        }
        if (found.isEmpty()) out.println("No volume was found.");
      }
      return found.isEmpty() ? Shed.FINDINGS : Shed.CLEAN;
    }
  }
}
