package lanternshed.core.survey;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import lanternshed.core.measure.Place;
import lanternshed.core.medium.Medium;

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
    for (Place p : Whereabouts.of(image).places()) {
      h.hit(p.kind(), p.path(), p.start(), p.length(), p.bytes());
    }
    h.rest();
    return List.copyOf(h.hits.values());
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
