package lanternshed.core.survey;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.table.TableEntry;
import lanternshed.core.table.mbr.Mbr;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.fat.FatLayout;
import lanternshed.core.volume.fat.FatVolume;

/**
 * What lies where on a medium: table, boot sectors, FATs, folders, files, free space. Where two
 * overlap the first counts.
 */
public final class Whereabouts {

  /**
   * A run of sectors with a name.
   *
   * @param kind "table", "boot sector", "FAT", "root folder", "folder", "file", "free space"
   * @param path of a file or folder; else ""
   * @param bytes length of a file; else 0
   */
  public record Place(String kind, String path, long start, long length, long bytes) {
    boolean holds(long sector) {
      return sector >= start && sector < start + length;
    }
  }

  private final List<Place> places = new ArrayList<>();

  private Whereabouts() {}

  /**
   * Names everything that can be named; what is damaged ends the list early, never with a fault.
   */
  public static Whereabouts of(Medium image) {
    Whereabouts w = new Whereabouts();
    try {
      w.all(image);
    } catch (ShedException e) {
      // What would have named the rest is damaged; it stays without a name.
    }
    return w;
  }

  public List<Place> places() {
    return List.copyOf(places);
  }

  /** What lies at a sector; empty where nothing is known of it. */
  public Optional<Place> at(long sector) {
    for (Place p : places) if (p.holds(sector)) return Optional.of(p);
    return Optional.empty();
  }

  private void all(Medium image) {
    if (image.sectors() == 0) return;
    var table = new Mbr().read(image);
    if (table.isEmpty()) {
      FatVolume.recognise(image).ifPresent(v -> volume(v, 0));
      return;
    }
    places.add(new Place("table", "", 0, 1, 0));
    for (TableEntry e : table.get().volumes()) {
      if (e.start() >= image.sectors()) continue;
      if (e.logical()) places.add(new Place("table", "", e.tableSector(), 1, 0));
      FatVolume.recognise(new SliceMedium(image, e.start(), e.length()))
          .ifPresent(v -> volume(v, e.start()));
    }
  }

  private void volume(FatVolume v, long start) {
    FatLayout l = v.layout();
    int per = l.bytesPerSector() / 512;
    add("boot sector", "", start, (long) l.reserved() * per, 0);
    add("FAT", "", start + l.fatStart() * per, l.fats() * l.fatSectors() * per, 0);
    add("root folder", "", start + l.rootStart() * per, (long) l.rootSectors() * per, 0);
    List<Place> later = new ArrayList<>();
    try {
      for (Node n : v.all()) {
        for (long[] run : v.sectorsOf(n)) {
          add(n.folder() ? "folder" : "file", n.path(), start + run[0], run[1], n.bytes());
        }
      }
    } finally {
      later.add(
          new Place(
              "free space", "", start + l.firstData() * per, (l.total() - l.firstData()) * per, 0));
      places.addAll(later);
    }
  }

  private void add(String kind, String path, long start, long length, long bytes) {
    if (length > 0) places.add(new Place(kind, path, start, length, bytes));
  }
}
