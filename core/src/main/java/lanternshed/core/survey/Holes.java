package lanternshed.core.survey;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.table.TableEntry;
import lanternshed.core.table.mbr.Mbr;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.fat.FatLayout;
import lanternshed.core.volume.fat.FatVolume;

/**
 * Names what lies where nothing came back: table, boot sector, FAT, root, file, free space.
 */
public final class Holes {

  /**
   * One thing that is hit.
   *
   * @param kind "table", "boot sector", "FAT", "root folder", "folder", "file", "free space",
   *     "outside"
   * @param path of a file or folder; else ""
   * @param sectors how many of its sectors did not come back
   * @param bytes length of a file; else 0
   * @param first the first of its sectors that did not come back
   */
  public record Hit(String kind, String path, long sectors, long bytes, long first) {}

  private final Map<String, Hit> hits = new LinkedHashMap<>();
  private final List<long[]> holes = new ArrayList<>();

  private Holes(List<long[]> ranges) {
    ranges.forEach(r -> holes.add(r.clone()));
  }

  /**
   * Names every hole.
   *
   * @param image what was rescued, with a marker in the holes
   * @param ranges start and length of each hole
   */
  public static List<Hit> name(Medium image, List<long[]> ranges) {
    Holes h = new Holes(ranges);
    try {
      h.all(image);
    } catch (ShedException e) {
      // The holes hit what would have named them; what is left is told as outside.
    }
    h.rest();
    return List.copyOf(h.hits.values());
  }

  private void all(Medium image) {
    hit("table", "", 0, 1, 0);
    var table = new Mbr().read(image);
    if (table.isEmpty()) {
      FatVolume.recognise(image).ifPresent(v -> volume(v, 0));
      return;
    }
    for (TableEntry e : table.get().volumes()) {
      if (e.start() >= image.sectors()) continue;
      if (e.logical()) hit("table", "", e.tableSector(), 1, 0);
      FatVolume.recognise(new SliceMedium(image, e.start(), e.length()))
          .ifPresent(v -> volume(v, e.start()));
    }
  }

  private void volume(FatVolume v, long start) {
    FatLayout l = v.layout();
    int per = l.bytesPerSector() / 512;
    hit("boot sector", "", start, (long) l.reserved() * per, 0);
    hit("FAT", "", start + l.fatStart() * per, l.fats() * l.fatSectors() * per, 0);
    hit("root folder", "", start + l.rootStart() * per, (long) l.rootSectors() * per, 0);
    for (Node n : v.all()) {
      for (long[] run : v.sectorsOf(n)) {
        hit(n.folder() ? "folder" : "file", n.path(), start + run[0], run[1], n.bytes());
      }
    }
    hit("free space", "", start + l.firstData() * per, (l.total() - l.firstData()) * per, 0);
  }

  /** Takes what overlaps out of the holes, so that each sector is named once. */
  private void hit(String kind, String path, long start, long length, long bytes) {
    long end = start + length;
    long count = 0;
    long first = Long.MAX_VALUE;
    List<long[]> left = new ArrayList<>();
    for (long[] h : holes) {
      long from = Math.max(start, h[0]);
      long to = Math.min(end, h[0] + h[1]);
      if (from >= to) {
        left.add(h);
        continue;
      }
      count += to - from;
      first = Math.min(first, from);
      if (h[0] < from) left.add(new long[] {h[0], from - h[0]});
      if (to < h[0] + h[1]) left.add(new long[] {to, h[0] + h[1] - to});
    }
    if (count == 0) return;
    holes.clear();
    holes.addAll(left);
    Hit before = hits.get(kind + path);
    long all = count + (before == null ? 0 : before.sectors());
    long least = before == null ? first : Math.min(first, before.first());
    hits.put(kind + path, new Hit(kind, path, all, bytes, least));
  }

  private void rest() {
    long left = holes.stream().mapToLong(h -> h[1]).sum();
    if (left > 0) hits.put("outside", new Hit("outside", "", left, 0, holes.get(0)[0]));
  }
}
