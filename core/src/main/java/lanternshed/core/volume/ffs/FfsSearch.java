package lanternshed.core.volume.ffs;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Say;
import lanternshed.core.medium.Medium;
import lanternshed.core.volume.Search;

/**
 * OFS and FFS volumes that no table names: every header block carries its own number, counted from
 * the start of its volume, so each tells where that start is; root blocks, which carry the label,
 * stand in the middle. Blocks are given one by one; memory does not depend on their number.
 */
final class FfsSearch implements Search {
  private static final int HEADER = 2;
  private static final int OWN_KEY = 4;
  private static final int LABEL = 432;
  private static final int SECONDARY_TYPE = 508;
  private static final int ROOT = 1;
  private static final int FOLDER = 2;
  private static final int FILE = -3;
  private static final int MOST = 256;

  private record Root(long lba, String label) {}

  private final List<Root> roots = new ArrayList<>();
  private final Map<Long, Long> votes = new TreeMap<>();

  @Override
  public List<Found> see(Medium m, long lba, byte[] b, int at) {
    note(lba, b, at);
    return List.of();
  }

  private void note(long lba, byte[] b, int at) {
    if (Bytes.be32(b, at) != HEADER) return;
    int type = (int) Bytes.be32(b, at + SECONDARY_TYPE);
    if (type != ROOT && type != FOLDER && type != FILE || sum(b, at) != 0) return;
    if (type == ROOT) {
      int length = Math.min(30, b[at + LABEL] & 0xFF);
      String label = new String(b, at + LABEL + 1, length, StandardCharsets.ISO_8859_1);
      if (roots.size() < MOST) roots.add(new Root(lba, label.replaceAll("\\p{Cntrl}", "")));
      return;
    }
    long start = lba - Bytes.be32(b, at + OWN_KEY);
    if (start >= 0 && (votes.containsKey(start) || votes.size() < MOST)) {
      votes.merge(start, 1L, Long::sum);
    }
  }

  private static long sum(byte[] b, int at) {
    long sum = 0;
    for (int i = 0; i < 512; i += 4) sum += Bytes.be32(b, at + i);
    return sum & 0xFFFF_FFFFL;
  }

  /**
   * For each root block the start on which most headers before and behind it agree; its length
   * follows, since the root stands in the middle.
   */
  @Override
  public List<Found> end() {
    List<Found> out = new ArrayList<>();
    for (Root r : roots) {
      votes.entrySet().stream()
          .filter(v -> v.getKey() < r.lba())
          .filter(v -> roots.stream().noneMatch(o -> o.lba() > v.getKey() && o.lba() < r.lba()))
          .max(Comparator.comparingLong(Map.Entry::getValue))
          .ifPresent(
              v ->
                  out.add(
                      new Found(
                          v.getKey(),
                          2 * (r.lba() - v.getKey()),
                          "OFS or FFS",
                          r.label(),
                          "its root block and "
                              + Say.plural(v.getValue(), "header", "headers")
                              + " that agree on it",
                          new byte[0])));
    }
    return out;
  }
}
