package lanternshed.core.cli;

import java.io.IOException;
import java.io.InputStream;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDateTime;
import java.time.format.DateTimeParseException;
import java.util.List;
import java.util.Optional;
import lanternshed.core.catalogue.LaidOutMedium;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.survey.Volumes;
import lanternshed.core.volume.Sink;
import lanternshed.core.volume.Volume;
import lanternshed.core.work.Edit;
import lanternshed.core.work.Edit.Change;
import lanternshed.core.work.Marks;
import lanternshed.core.work.Progress;
import lanternshed.core.work.Stamp;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** Changes to the files of an image, each on a copy. Inherited methods are commands if public. */
abstract class EditCommands {
  @Spec protected CommandSpec spec;

  static final String LAYOUT =
      "how the whole medium lies where nothing on it says so: cpm:offset=4096,block=2048,entries=64,"
          + "sector=512,track=9,skew=3";

  private static final String COPY = "the changed copy; the image itself stays as it is";

  @Command(description = "Puts a file on a volume, or in place of one, on a copy of its image.")
  public int put(
      @Parameters(paramLabel = "IMAGE") Path image,
      @Parameters(paramLabel = "FILE") Path file,
      @Parameters(paramLabel = "PATH", description = "where it goes on the volume") String path,
      @Option(names = "--to", required = true, description = COPY) Path to,
      @Option(names = "--volume", defaultValue = "0") int number,
      @Option(names = "--layout", description = LAYOUT) String layout)
      throws IOException {
    int stamp = Stamp.of(Files.getLastModifiedTime(file).toInstant());
    return edit(
        image,
        layout,
        to,
        number,
        new Change.Put(path, Files.size(file), stamp, s -> copy(file, s)));
  }

  @Command(description = "Makes a folder on a copy of an image.")
  public int mkdir(
      @Parameters(paramLabel = "IMAGE") Path image,
      @Parameters(paramLabel = "PATH") String path,
      @Option(names = "--to", required = true, description = COPY) Path to,
      @Option(names = "--volume", defaultValue = "0") int number,
      @Option(names = "--layout", description = LAYOUT) String layout) {
    return edit(image, layout, to, number, new Change.MakeFolder(path, Stamp.NONE));
  }

  @Command(description = "Removes a file, or a folder with all in it, on a copy of an image.")
  public int rm(
      @Parameters(paramLabel = "IMAGE") Path image,
      @Parameters(paramLabel = "PATH") String path,
      @Option(names = "--to", required = true, description = COPY) Path to,
      @Option(names = "--volume", defaultValue = "0") int number,
      @Option(names = "--layout", description = LAYOUT) String layout) {
    return edit(image, layout, to, number, new Change.Remove(path));
  }

  @Command(description = "Gives a file or folder another name or place on a copy of an image.")
  public int mv(
      @Parameters(paramLabel = "IMAGE") Path image,
      @Parameters(paramLabel = "FROM") String from,
      @Parameters(paramLabel = "PATH") String path,
      @Option(names = "--to", required = true, description = COPY) Path to,
      @Option(names = "--volume", defaultValue = "0") int number,
      @Option(names = "--layout", description = LAYOUT) String layout) {
    return edit(image, layout, to, number, new Change.Move(from, path));
  }

  @Command(description = "Sets marks and time of a file or folder on a copy of an image.")
  public int set(
      @Parameters(paramLabel = "IMAGE") Path image,
      @Parameters(paramLabel = "PATH") String path,
      @Option(names = "--to", required = true, description = COPY) Path to,
      @Option(names = "--volume", defaultValue = "0") int number,
      @Option(names = "--layout", description = LAYOUT) String layout,
      @Option(names = "--marks", description = "those of rhsa that it gets; '' for none")
          String marks,
      @Option(names = "--time", description = "1994-03-01T10:20:00") String time) {
    Optional<Integer> stamp = Optional.ofNullable(time).map(EditCommands::stamp);
    Optional<Integer> bits = Optional.ofNullable(marks).map(Marks::of);
    return edit(image, layout, to, number, new Change.Set(path, bits, stamp));
  }

  /** The medium as somebody says that it lies; as it is where nobody says it. */
  static Medium told(Medium m, String layout) {
    return layout == null ? m : new LaidOutMedium(m, layout);
  }

  private int edit(Path image, String layout, Path to, int number, Change change) {
    try (FileMedium file = ImageFile.open(image);
        Medium from = told(file, layout)) {
      Volumes.Opened found = Volumes.find(from, number);
      guessed(found.volume());
      int volume = found.number();
      int[] entries = new int[1];
      HalfFile.like(
          file,
          to,
          copy -> entries[0] = Edit.make(from, volume, List.of(change), copy, Progress.NONE));
      Output.of(spec).println("Changed and checked: " + entries[0] + " files and folders.");
      return Shed.CLEAN;
    }
  }

  /** Says on the side, where work goes on or is refused, that a volume rests on a guess. */
  final boolean guessed(Volume v) {
    if (v.guesses().isEmpty()) return false;
    PrintWriter err = spec.commandLine().getErr();
    err.println("How this volume lies is a guess, and its files are unproved. These fit equally:");
    for (String layout : v.guesses()) err.println("  --layout " + layout);
    return true;
  }

  private static void copy(Path file, Sink sink) {
    byte[] b = new byte[1 << 20];
    try (InputStream in = Files.newInputStream(file)) {
      for (int n = in.read(b); n > 0; n = in.read(b)) sink.take(b, 0, n);
    } catch (IOException e) {
      throw new ShedException(file + " does not read: " + e.getMessage() + ".", e);
    }
  }

  private static int stamp(String time) {
    try {
      return Stamp.of(LocalDateTime.parse(time));
    } catch (DateTimeParseException e) {
      throw new ShedException("\"" + time + "\" is no time; it reads like 1994-03-01T10:20:00.", e);
    }
  }
}
