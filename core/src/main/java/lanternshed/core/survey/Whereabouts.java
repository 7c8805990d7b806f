package lanternshed.core.survey;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.table.TableEntry;
import lanternshed.core.table.TableReading;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Volume;
import lanternshed.core.volume.exfat.ExfatVolume;
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
   * @param kind "table", "boot sector", "FAT", "root folder", "folder", "file", "free space",
   *     "volume" for one whose files are not read; another scheme's own parts begin with its name
   * @param path of a file or folder; the name of a volume's type; else ""
   * @param bytes length of a file; else 0
   */
  public record Place(String kind, String path, long start, long length, long bytes) {}

  /** Protecting MBR, header and entries of a GPT of the usual size. */
  private static final long GPT_SECTORS = 34;

  /** A piece that belongs to one place alone, up to its end. */
  private record Piece(long end, Place of) {}

  private final List<Place> places = new ArrayList<>();

  /** By first sector; disjoint, so that a sector is found without going through all places. */
  private final TreeMap<Long, Piece> pieces = new TreeMap<>();

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
    Map.Entry<Long, Piece> e = pieces.floorEntry(sector);
    return e == null || e.getValue().end() <= sector
        ? Optional.empty()
        : Optional.of(e.getValue().of());
  }

  /** Everything that lies in a run of sectors, in the order on the medium. */
  public List<Place> in(long start, long length) {
    Long first = pieces.floorKey(start);
    return pieces.subMap(first == null ? start : first, start + length).values().stream()
        .filter(p -> p.end() > start)
        .map(Piece::of)
        .distinct()
        .toList();
  }

  /** Whether these runs belong to this one place alone; crossed chains share theirs. */
  public boolean isOnly(String path, long start, List<long[]> runs) {
    return runs.stream()
        .flatMap(r -> in(start + r[0], r[1]).stream())
        .allMatch(p -> p.path().equals(path));
  }

  private void all(Medium image) {
    if (image.sectors() == 0) return;
    Optional<TableReading> table = Surveyor.tables(image).stream().findFirst();
    if (table.isEmpty() || Surveyor.bareVolume(image).isPresent()) {
      volume(image, 0, "");
      return;
    }
    String scheme = table.get().scheme();
    add(scheme.equals("MBR") ? "table" : scheme + " table", "", 0, 1, 0);
    if (scheme.equals("GPT"))
      add("GPT table", "", 1, Math.min(GPT_SECTORS, image.sectors()) - 1, 0);
    for (TableEntry e : table.get().volumes()) {
      if (e.start() >= image.sectors()) continue;
      if (e.logical()) add("table", "", e.tableSector(), 1, 0);
      volume(Volumes.slice(image, e.start(), e.length()), e.start(), e.typeName());
    }
  }

  /** What is in a volume; of one that is not read as files only what it is called. */
  private void volume(Medium m, long start, String called) {
    try {
      Volume v = Volumes.recognise(m).orElse(null);
      if (v instanceof FatVolume fat) fat(fat, start);
      else if (v instanceof ExfatVolume exfat) exfat(exfat, start);
      else if (!called.isEmpty()) add("volume", called, start, m.sectors(), 0);
    } catch (ShedException e) {
      // This volume ends early; the next one has its names all the same.
    }
  }

  private void fat(FatVolume v, long start) {
    FatLayout l = v.layout();
    int per = l.bytesPerSector() / 512;
    add("boot sector", "", start, (long) l.reserved() * per, 0);
    add("FAT", "", start + l.fatStart() * per, l.fats() * l.fatSectors() * per, 0);
    add("root folder", "", start + l.rootStart() * per, (long) l.rootSectors() * per, 0);
    try {
      add("root folder", "", v.sectorsOf(v.root()), start, 0);
      nodes(v, start, "folder");
    } finally {
      add("free space", "", start + l.firstData() * per, (l.total() - l.firstData()) * per, 0);
    }
  }

  private void exfat(ExfatVolume v, long start) {
    ExfatVolume.Regions r = v.regions();
    add("exFAT boot region", "", start, r.boot(), 0);
    add("exFAT table", "", start + r.fat(), r.fatLength(), 0);
    try {
      add("exFAT root folder", "", v.sectorsOf(v.root()), start, 0);
      nodes(v, start, "exFAT folder");
    } finally {
      add("free space", "", start + r.heap(), r.heapLength(), 0);
    }
  }

  private void nodes(Volume v, long start, String folder) {
    for (Node n : v.all()) {
      add(n.folder() ? folder : "file", n.path(), v.sectorsOf(n), start, n.bytes());
    }
  }

  private void add(String kind, String path, List<long[]> runs, long start, long bytes) {
    for (long[] run : runs) add(kind, path, start + run[0], run[1], bytes);
  }

  private void add(String kind, String path, long start, long length, long bytes) {
    if (length <= 0) return;
    Place p = new Place(kind, path, start, length, bytes);
    places.add(p);
    // Only what nothing before it has: gaps between the pieces that are there.
    long at = start;
    long end = start + length;
    while (at < end) {
      Map.Entry<Long, Piece> before = pieces.floorEntry(at);
      if (before != null && before.getValue().end() > at) {
        at = before.getValue().end();
        continue;
      }
      Long next = pieces.higherKey(at);
      long to = next == null ? end : Math.min(end, next);
      pieces.put(at, new Piece(to, p));
      at = to;
    }
  }
}
