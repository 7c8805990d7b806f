package lanternshed.core.work;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Copy;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.table.DiskRow;

/**
 * Changes a library of small disks on a copy (F-16): every place that no change names is the same
 * to the byte, and all of them are compared before the copy is handed out.
 */
public final class RowEdit {

  /** One change; they are made in the order in which they are given. */
  public sealed interface Change {
    /** Makes it. */
    void on(RowEdit edit);

    /** What of it does not come out as it was asked for, in sentences. */
    default List<String> notes(DiskRow row) {
      return List.of();
    }

    /** A disk comes in, or takes the place of one. */
    record Put(int number, String title, Medium disk) implements Change {
      @Override
      public void on(RowEdit edit) {
        edit.put(this);
      }

      @Override
      public List<String> notes(DiskRow row) {
        List<String> out = new ArrayList<>(titled(row, title));
        long room = row.diskSectors() * 512;
        if (disk.bytes() < room) {
          out.add(
              "The disk has %s of %s; zeros stand behind it."
                  .formatted(Say.bytes(disk.bytes()), Say.bytes(room)));
        }
        return out;
      }
    }

    /** A place becomes blank. */
    record Remove(int number) implements Change {
      @Override
      public void on(RowEdit edit) {
        edit.open(number);
        edit.places.set(number, edit.blank());
      }
    }

    /** A disk goes to another place; those between move by one. */
    record Move(int from, int to) implements Change {
      @Override
      public void on(RowEdit edit) {
        edit.places.add(edit.index(to), edit.places.remove(edit.index(from)));
      }
    }

    /** A disk is locked against writing, or opened. */
    record Lock(int number, boolean locked) implements Change {
      @Override
      public void on(RowEdit edit) {
        DiskRow.State s = locked ? DiskRow.State.LOCKED : DiskRow.State.OPEN;
        edit.say(number, new DiskRow.Slot(edit.disk(number).slot().title(), s));
      }
    }

    /** A disk gets another title. */
    record Title(int number, String title) implements Change {
      @Override
      public void on(RowEdit edit) {
        DiskRow.State s = edit.disk(number).slot().state();
        edit.say(number, new DiskRow.Slot(edit.row.title(title), s));
      }

      @Override
      public List<String> notes(DiskRow row) {
        return titled(row, title);
      }
    }

    /** A title has so many letters, of few kinds. */
    private static List<String> titled(DiskRow row, String wanted) {
      String title = row.title(wanted);
      if (title.equals(wanted)) return List.of();
      return List.of("Its title is “" + title + "”: no more of it can stand there.");
    }
  }

  /** What a place will hold; behind a disk that is shorter than the others there are zeros. */
  private record Place(DiskRow.Slot slot, Medium disk) {}

  private final DiskRow row;
  private final List<Place> places = new ArrayList<>();

  private RowEdit(DiskRow row, Medium file) {
    this.row = row;
    for (int i = 0; i < row.count(file); i++) {
      places.add(
          new Place(row.slot(file, i), new SliceMedium(file, row.start(i), row.diskSectors())));
    }
  }

  /**
   * The row of disks that a file is.
   *
   * @throws ShedException where it is none
   */
  public static DiskRow row(Medium file) {
    return Catalogue.TABLES.stream()
        .map(t -> t.row(file))
        .flatMap(Optional::stream)
        .findFirst()
        .orElseThrow(
            () -> new ShedException("This is no library of small disks; choose one that is."));
  }

  /**
   * One disk of a library, for reading.
   *
   * @throws ShedException where there is none in that place
   */
  public static Medium disk(Medium file, int number) {
    return new RowEdit(row(file), file).disk(number).disk();
  }

  /** Fills a new library with places that hold no disk yet. */
  public static void blank(DiskRow row, Medium file) {
    for (int i = 0; i < row.count(file); i++) {
      row.enter(file, i, new DiskRow.Slot("", DiskRow.State.BLANK));
    }
    // Behind the last place the header says that there is none, or flags of zero would be disks.
    row.end(file);
  }

  /**
   * Makes a library with the changes.
   *
   * @param copy of the same length; shown to nobody before this ends
   * @return how many disks it holds afterwards
   * @throws ShedException with the first change that cannot be made; the copy is of no use then
   */
  public static int make(Medium file, List<Change> changes, Medium copy, Progress progress) {
    DiskRow row = row(file);
    RowEdit edit = new RowEdit(row, file);
    changes.forEach(c -> c.on(edit));
    long head = row.start(0);
    Copy.range(file, 0, head, copy, 0, (n, all) -> {});
    long end = row.start(edit.places.size());
    Copy.range(file, end, file.sectors() - end, copy, end, (n, all) -> {});
    for (int i = 0; i < edit.places.size(); i++) {
      Place p = edit.places.get(i);
      progress.at("laying down disk " + i, i, edit.places.size());
      Copy.range(p.disk(), 0, p.disk().sectors(), copy, row.start(i), (n, all) -> {});
      if (!p.slot().equals(row.slot(copy, i))) row.enter(copy, i, p.slot());
    }
    copy.flush();
    edit.proved(copy, progress);
    return (int) edit.places.stream().filter(p -> p.slot().state().disk()).count();
  }

  private void say(int number, DiskRow.Slot slot) {
    places.set(number, new Place(slot, places.get(number).disk()));
  }

  private void put(Change.Put p) {
    if (place(p.number()).slot().state().disk()) open(p.number());
    if (p.disk().bytes() == 0) throw new ShedException("An empty file is no disk.");
    if (p.disk().sectors() > row.diskSectors()) {
      throw new ShedException(
          "A disk of this library has "
              + Say.bytes(row.diskSectors() * 512)
              + "; "
              + (p.title().isBlank() ? "the one that is brought" : "“" + p.title() + "”")
              + " has "
              + Say.bytes(p.disk().bytes())
              + ".");
    }
    DiskRow.Slot s = new DiskRow.Slot(row.title(p.title()), DiskRow.State.OPEN);
    places.set(p.number(), new Place(s, p.disk()));
  }

  private Place blank() {
    return new Place(new DiskRow.Slot("", DiskRow.State.BLANK), new MemoryMedium(0));
  }

  private int index(int number) {
    if (number >= 0 && number < places.size()) return number;
    throw new ShedException(
        "There is no place "
            + number
            + " in this library: it has "
            + Say.plural(places.size(), "place", "places")
            + ", counted from 0.");
  }

  private Place place(int number) {
    return places.get(index(number));
  }

  private Place disk(int number) {
    Place p = place(number);
    if (p.slot().state().disk()) return p;
    throw new ShedException("Place " + number + " holds no disk.");
  }

  private void open(int number) {
    if (disk(number).slot().state() == DiskRow.State.OPEN) return;
    throw new ShedException("Disk " + number + " is locked; unlock it first.");
  }

  private void proved(Medium copy, Progress progress) {
    for (int i = 0; i < places.size(); i++) {
      Place p = places.get(i);
      progress.at("comparing disk " + i, i, places.size());
      byte[] wanted = p.disk().sectors(0, (int) p.disk().sectors());
      byte[] there = copy.sectors(row.start(i), (int) row.diskSectors());
      boolean same =
          p.slot().equals(row.slot(copy, i))
              && Arrays.equals(there, 0, wanted.length, wanted, 0, wanted.length)
              && Bytes.allZero(there, wanted.length, there.length);
      if (!same) throw new ShedException("Disk " + i + " did not come over as it is.");
    }
  }
}
