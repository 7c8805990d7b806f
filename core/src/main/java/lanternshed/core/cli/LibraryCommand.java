package lanternshed.core.cli;

import java.nio.file.Path;
import java.util.List;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Copy;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.table.DiskRow;
import lanternshed.core.work.Progress;
import lanternshed.core.work.RowEdit;
import lanternshed.core.work.RowEdit.Change;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** Libraries of small disks (F-16): each change goes on a copy. */
@Command(
    name = "library",
    description = "Lists and changes a file that holds a row of small disks.",
    mixinStandardHelpOptions = true)
final class LibraryCommand {
  @Spec private CommandSpec spec;

  private static final String COPY = "the changed copy; the library itself stays as it is";

  @Command(description = "Lists the disks of a library.")
  int list(@Parameters(paramLabel = "LIBRARY") Path library) {
    try (FileMedium m = ImageFile.open(library)) {
      DiskRow row = RowEdit.row(m);
      for (int i = 0; i < row.count(m); i++) {
        DiskRow.Slot s = row.slot(m, i);
        if (!s.state().disk()) continue;
        String locked = s.state() == DiskRow.State.LOCKED ? "locked" : "";
        Output.of(spec).printf("%3d  %-12s  %s%n", i, s.title(), locked);
      }
      return Shed.CLEAN;
    }
  }

  @Command(name = "new", description = "Makes a library whose places hold no disk yet.")
  int begin(
      @Parameters(paramLabel = "PLACES") int places,
      @Option(names = "--to", required = true, description = "the new library") Path to) {
    DiskRow row = Catalogue.newRow();
    if (places < 1 || places > row.most()) {
      throw new ShedException("A library has 1 to " + row.most() + " places, not " + places + ".");
    }
    try (FileMedium m = FileMedium.create(to, row.sectors(places))) {
      RowEdit.blank(row, m);
      m.flush();
    }
    return Shed.CLEAN;
  }

  @Command(description = "Copies one disk out of a library.")
  int extract(
      @Parameters(paramLabel = "LIBRARY") Path library,
      @Parameters(paramLabel = "NUMBER") int number,
      @Option(names = "--to", required = true, description = "the disk's own image") Path to) {
    try (FileMedium m = ImageFile.open(library)) {
      Medium disk = RowEdit.disk(m, number);
      try (FileMedium out = FileMedium.create(to, disk.sectors())) {
        Copy.all(disk, out, (n, all) -> {});
        out.flush();
      }
      return Shed.CLEAN;
    }
  }

  @Command(description = "Puts a disk in a place, on a copy.")
  int put(
      @Parameters(paramLabel = "LIBRARY") Path library,
      @Parameters(paramLabel = "NUMBER") int number,
      @Parameters(paramLabel = "DISK") Path disk,
      @Option(names = "--title", defaultValue = "") String title,
      @Option(names = "--to", required = true, description = COPY) Path to) {
    try (FileMedium d = ImageFile.open(disk)) {
      return change(library, to, new Change.Put(number, title, d));
    }
  }

  @Command(description = "Takes a disk out of its place, on a copy.")
  int rm(
      @Parameters(paramLabel = "LIBRARY") Path library,
      @Parameters(paramLabel = "NUMBER") int number,
      @Option(names = "--to", required = true, description = COPY) Path to) {
    return change(library, to, new Change.Remove(number));
  }

  @Command(description = "Moves a disk to another place, on a copy; those between move by one.")
  int mv(
      @Parameters(paramLabel = "LIBRARY") Path library,
      @Parameters(paramLabel = "FROM") int from,
      @Parameters(paramLabel = "PLACE") int place,
      @Option(names = "--to", required = true, description = COPY) Path to) {
    return change(library, to, new Change.Move(from, place));
  }

  @Command(description = "Locks a disk against writing, or opens it, on a copy.")
  int lock(
      @Parameters(paramLabel = "LIBRARY") Path library,
      @Parameters(paramLabel = "NUMBER") int number,
      @Option(names = "--open", description = "opens it instead") boolean open,
      @Option(names = "--to", required = true, description = COPY) Path to) {
    return change(library, to, new Change.Lock(number, !open));
  }

  @Command(description = "Gives a disk another title, on a copy.")
  int title(
      @Parameters(paramLabel = "LIBRARY") Path library,
      @Parameters(paramLabel = "NUMBER") int number,
      @Parameters(paramLabel = "TITLE") String title,
      @Option(names = "--to", required = true, description = COPY) Path to) {
    return change(library, to, new Change.Title(number, title));
  }

  private int change(Path library, Path to, Change change) {
    try (FileMedium from = ImageFile.open(library)) {
      int[] disks = new int[1];
      HalfFile.like(
          from, to, copy -> disks[0] = RowEdit.make(from, List.of(change), copy, Progress.NONE));
      Output.of(spec)
          .println("Changed and compared: " + Say.plural(disks[0], "disk", "disks") + ".");
      change.notes(RowEdit.row(from)).forEach(Output.of(spec)::println);
      return Shed.CLEAN;
    }
  }
}
