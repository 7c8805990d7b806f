package lanternshed.core.table.library;

import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Place;
import lanternshed.core.measure.Say;
import lanternshed.core.medium.Medium;
import lanternshed.core.table.DiskRow;
import lanternshed.core.table.TableEntry;
import lanternshed.core.table.TableReading;
import lanternshed.core.table.TableScheme;
import tools.jackson.databind.json.JsonMapper;

/**
 * F-16: a library divides one file into small disks of equal length. It has no mark: its length is
 * that of a header and whole disks, and every flag of the header means something.
 */
public final class Library implements TableScheme {
  private static final List<Form> FORMS = forms();

  private static List<Form> forms() {
    try (InputStream in = Library.class.getResourceAsStream("/tables/libraries.json")) {
      return List.of(JsonMapper.shared().readValue(in, Form[].class));
    } catch (IOException e) {
      throw new IllegalStateException(e);
    }
  }

  /** The usual form, for a new library. */
  public static DiskRow usual() {
    return FORMS.get(0);
  }

  @Override
  public String name() {
    return "library";
  }

  @Override
  public boolean ofDisks() {
    return true;
  }

  private static Optional<Form> form(Medium m) {
    return FORMS.stream().filter(f -> is(f, m)).findFirst();
  }

  private static boolean is(Form f, Medium m) {
    boolean length =
        m.sectorSize() == 512
            && m.bytes() > f.header()
            && m.bytes() <= f.header() + (long) f.most() * f.disk()
            && (m.bytes() - f.header()) % f.disk() == 0;
    if (!length) return false;
    byte[] head = m.sectors(0, f.header() / 512);
    if (!f.sensible(head)) return false;
    for (int i = 0; i < f.count(m); i++) {
      // A header of nothing but zeros would be a row of locked disks without a title.
      if (f.slot(head, i).state().disk() && !f.slot(head, i).title().isEmpty()) return true;
      if (f.slot(head, i).state() == DiskRow.State.BLANK) return true;
    }
    return false;
  }

  @Override
  public Optional<DiskRow> row(Medium file) {
    return form(file).map(f -> f);
  }

  @Override
  public Optional<TableReading> read(Medium m) {
    return form(m).map(f -> read(f, m));
  }

  private TableReading read(Form f, Medium m) {
    byte[] head = m.sectors(0, f.header() / 512);
    List<TableEntry> entries = new ArrayList<>();
    List<Finding> findings = new ArrayList<>();
    int blank = 0;
    for (int i = 0; i < f.most(); i++) {
      DiskRow.Slot s = f.slot(head, i);
      if (s.state() == DiskRow.State.BLANK && i < f.count(m)) blank++;
      if (!s.state().disk()) continue;
      if (i >= f.count(m)) {
        String what = "Disk " + i + ", “" + s.title() + "”, lies behind the end of the file.";
        findings.add(
            Finding.wrong(
                "F-16", "header", what, "The file was cut; fetch it whole from where it came."));
        continue;
      }
      String what = s.state() == DiskRow.State.LOCKED ? "locked disk" : "disk";
      entries.add(
          TableEntry.plain(i + 1, f.start(i), f.diskSectors(), what, false, 0).named("disk " + i));
    }
    if (blank > 0) {
      String what = Say.plural(blank, "place holds", "places hold") + " no disk yet.";
      findings.add(Finding.note("F-16", "header", what));
    }
    return new TableReading(name(), entries, findings);
  }

  @Override
  public List<Place> places(TableReading table, Medium medium) {
    long sectors = form(medium).map(f -> f.start(0)).orElse(1L);
    return List.of(Place.of("titles of the library", "", 0, sectors, 0));
  }
}
