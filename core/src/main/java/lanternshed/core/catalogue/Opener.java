package lanternshed.core.catalogue;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import lanternshed.core.measure.Finding;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.table.TableEntry;
import lanternshed.core.table.TableReading;
import lanternshed.core.table.TableScheme;
import lanternshed.core.volume.Filesystem;
import lanternshed.core.volume.Hint;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Recognised;
import lanternshed.core.volume.Volume;
import lanternshed.core.volume.VolumeException;

/**
 * From a medium to what is in it: one order for survey, rescue, build and command line. A volume
 * from sector 0 on comes first where it speaks for itself; then the table with the strongest mark;
 * then what fills a medium without one.
 */
public final class Opener {

  /** A table that was read, with its scheme. */
  public record Table(TableScheme scheme, TableReading reading) {}

  /**
   * A part of a medium that may hold a volume.
   *
   * @param entry as the table has it; number 0 where there is none
   * @param slice as far as the medium goes; empty where it begins behind its end
   * @param found what it holds; empty for nothing that is known
   */
  public record Part(TableEntry entry, Optional<Medium> slice, Optional<Recognised> found) {
    public Optional<Volume> volume() {
      return found.flatMap(Recognised::volume);
    }
  }

  /**
   * What is on a medium.
   *
   * @param table the table that was taken; empty where there is none
   * @param others weaker tables that it may have as well
   */
  public record Opened(Optional<Table> table, List<Table> others, List<Part> parts) {
    public Opened {
      others = List.copyOf(others);
      parts = List.copyOf(parts);
    }
  }

  /** Sectors of the longest disk whose sectors may be shorter than 512 bytes. */
  private static final long MOST_SMALL = 2048;

  private Opener() {}

  /** Opens a medium; never fails on nonsense. */
  public static Opened open(Medium m) {
    return open(m, e -> true);
  }

  /** Opens of a medium only those entries of its table that are wanted. */
  public static Opened open(Medium m, Predicate<TableEntry> wanted) {
    if (m.sectors() == 0) return new Opened(Optional.empty(), List.of(), List.of());
    if (m instanceof LaidOutMedium told) return told.opened();
    List<Table> tables = tables(m);
    Optional<Recognised> bare = bare(m, tables);
    if (bare.isPresent() || tables.isEmpty()) {
      Optional<Recognised> found = bare.or(() -> recognise(m, Hint.NO_TABLE));
      TableEntry all = TableEntry.plain(0, 0, m.sectors(), "no table", false, 0);
      return new Opened(Optional.empty(), List.of(), List.of(new Part(all, Optional.of(m), found)));
    }
    Table taken = tables.get(0);
    List<Part> parts = new ArrayList<>();
    for (TableEntry e : taken.reading().volumes()) {
      if (wanted.test(e)) parts.add(part(m, taken, e));
    }
    return new Opened(Optional.of(taken), tables.subList(1, tables.size()), parts);
  }

  /** Bytes of an image that count: a small disk may end within its last sector. */
  public static long bytes(Medium m) {
    if (m.sectors() > MOST_SMALL) return m.bytes();
    return open(m).parts().stream()
        .flatMap(p -> p.volume().stream())
        .flatMap(v -> v.layoutAsItLies().stream())
        .map(Maker.Layout::byteCount)
        .filter(n -> n > m.bytes() - 512 && n < m.bytes())
        .findFirst()
        .orElse(m.bytes());
  }

  private static Part part(Medium m, Table table, TableEntry e) {
    if (e.start() >= m.sectors() || e.start() < 0) {
      return new Part(e, Optional.empty(), Optional.empty());
    }
    Medium slice = slice(m, e.start(), e.length());
    boolean whole = table.scheme().ofDisks();
    Hint hint = new Hint(whole, table.scheme().name(), e.type(), true);
    return new Part(e, Optional.of(slice), recognise(slice, hint));
  }

  /** The part of a medium that is meant, as far as the medium goes. */
  public static Medium slice(Medium m, long start, long length) {
    return new SliceMedium(m, start, Math.min(length, m.sectors() - start));
  }

  /** The first filesystem of the list that fills this slice. */
  public static Optional<Recognised> recognise(Medium slice, Hint hint) {
    for (Filesystem f : Catalogue.FILESYSTEMS) {
      try {
        Optional<Recognised> r = f.recognise(slice, hint);
        if (r.isPresent()) return r;
      } catch (VolumeException e) {
        // It is none of this kind after all. What a medium says when it cannot be read is no
        // answer to that question, and goes on to whoever asked.
      }
    }
    return Optional.empty();
  }

  private static List<Table> tables(Medium m) {
    List<Table> out = new ArrayList<>();
    List<Finding> left = new ArrayList<>();
    for (TableScheme s : Catalogue.TABLES) {
      s.read(m).ifPresent(r -> out.add(new Table(s, r)));
      s.left(m).ifPresent(left::add);
    }
    if (out.isEmpty() || left.isEmpty()) return out;
    Table counts = out.get(0);
    out.set(0, new Table(counts.scheme(), counts.reading().and(left)));
    return out;
  }

  /**
   * A volume from sector 0 on. A table's code may look like one; then the table decides, if it
   * names something that lies on the medium and the volume would not fit.
   */
  private static Optional<Recognised> bare(Medium m, List<Table> tables) {
    for (Filesystem f : Catalogue.FILESYSTEMS) {
      if (!f.speaksForItself()) continue;
      Optional<Recognised> r = f.recognise(m, Hint.FIRST_SECTOR);
      if (r.isEmpty()) continue;
      boolean fits = r.get().sectors() <= m.sectors() + 1;
      boolean tabled =
          tables.stream()
              .anyMatch(
                  t ->
                      t.scheme().ofPcs()
                          && t.reading().volumes().stream()
                              .anyMatch(e -> e.start() > 0 && e.end() <= m.sectors()));
      if (fits || !tabled) return r;
    }
    return Optional.empty();
  }
}
