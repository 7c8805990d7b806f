package lanternshed.server.demo;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.table.DiskRow;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Maker;
import lanternshed.core.work.Progress;
import lanternshed.core.work.RowEdit;

/** A library of small disks as it stands on a card: each with files of its own. */
final class DemoLibrary {
  private static final String KIND = "two-sector catalogue";
  private static final long DISK = 400;
  private final Scenario.LibrarySpec spec;
  private final DiskRow row = Catalogue.newRow();

  DemoLibrary(Scenario.LibrarySpec spec) {
    this.spec = spec;
  }

  long sectors() {
    return row.sectors(spec.places());
  }

  /** Fills an image that is all zero. */
  void fill(Medium to) {
    MemoryMedium blank = new MemoryMedium(sectors());
    RowEdit.blank(row, blank);
    List<RowEdit.Change> changes = new ArrayList<>();
    for (int i = 0; i < spec.disks().size(); i++) {
      Scenario.DiskSpec d = spec.disks().get(i);
      changes.add(new RowEdit.Change.Put(i, d.title(), disk(d, i)));
      if (d.locked()) changes.add(new RowEdit.Change.Lock(i, true));
    }
    RowEdit.make(blank, changes, to, Progress.NONE);
  }

  private static Medium disk(Scenario.DiskSpec spec, int number) {
    Random r = new Random(number);
    FileSet files = new FileSet();
    for (int i = 0; i < spec.files(); i++) {
      byte[] b = new byte[600 + r.nextInt(9000)];
      r.nextBytes(b);
      String name = spec.stem() + (i + 1);
      files.file(name, b.length, 0x20, 0, s -> s.take(b, 0, b.length));
    }
    Maker maker = Catalogue.maker(KIND);
    Geometry g = new Geometry(80, 1, 5);
    Maker.Wish wish =
        new Maker.Wish(Optional.of(KIND), DISK, 0, 0, 0, g, spec.title(), 0, false, 0);
    MemoryMedium m = new MemoryMedium(DISK);
    maker.write(maker.layout(wish), files, m, new byte[0], (path, n) -> {});
    return m;
  }
}
