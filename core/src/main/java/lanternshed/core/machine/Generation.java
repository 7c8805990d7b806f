package lanternshed.core.machine;

import java.io.IOException;
import java.io.InputStream;
import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Sum;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.json.JsonMapper;

/**
 * A generation of the disk operating system of PCs with the ceilings of its volumes (F-4): data,
 * read from {@code /systems/systems.json}. Sectors are of 512 bytes.
 *
 * @param volumes how many volumes of one drive get a letter
 * @param contract what a volume's boot sector finds and how it hands over (B-9)
 * @param kinds the kinds of volume that it makes, by size, the smallest first
 * @param longNames whether its files have long names
 * @param extendedCalls whether it uses the disk calls that pass an LBA
 * @param ceiling the largest volume it mounts, and why
 * @param table name of the scheme that divides its cards, where it is not its family's usual one
 * @param mostLogicalSectors how many logical sectors it counts, where sectors grow with the volume
 *     (P-21); 0 where they do not
 * @param toolsMostClusters how many clusters its own checking tools take; 0 where they take all
 * @param needs numbers that it asks of the machine (H-17)
 */
public record Generation(
    String key,
    String title,
    int volumes,
    String contract,
    List<Kind> kinds,
    boolean longNames,
    boolean extendedCalls,
    Ceiling ceiling,
    String table,
    long mostLogicalSectors,
    long toolsMostClusters,
    List<Profile.Need> needs) {

  /** A kind of volume by its published name, from so many sectors on. */
  public record Kind(String kind, long from) {}

  /** The largest volume, with its arithmetic as data. */
  public record Ceiling(
      String rule,
      String title,
      long sectors,
      List<Line> sum,
      String because,
      List<String> lifts) {}

  /** One line of the arithmetic. */
  public record Line(String op, String what, long value) {}

  private static final List<Generation> ALL = load();

  public Generation {
    kinds = List.copyOf(kinds);
    table = table == null ? "" : table;
    needs = needs == null ? List.of() : List.copyOf(needs);
  }

  /** In the order of their years. */
  public static List<Generation> all() {
    return ALL;
  }

  public static Optional<Generation> of(String key) {
    return ALL.stream().filter(g -> g.key.equals(key)).findFirst();
  }

  /** The largest volume it mounts. */
  public long volumeSectors() {
    return ceiling.sectors();
  }

  /** Whether a drive may have more than one volume. */
  public boolean severalVolumes() {
    return volumes > 1;
  }

  /** The kind of a volume of that size, as the system itself would choose it. */
  public String kind(long sectors) {
    String out = kinds.get(0).kind();
    for (Kind k : kinds) if (sectors >= k.from()) out = k.kind();
    return out;
  }

  /** The sum behind {@link #volumeSectors()}. */
  public Sum volumeSum() {
    Sum.Builder sum = Sum.of(ceiling.rule(), ceiling.title());
    for (Line l : ceiling.sum()) sum.line(l.op(), l.what(), l.value());
    sum.sectorsAsSize(ceiling.sectors()).because(ceiling.because());
    ceiling.lifts().forEach(sum::lift);
    return sum.done();
  }

  private static List<Generation> load() {
    JsonMapper json =
        JsonMapper.builder()
            .enable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)
            .disable(DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES)
            .build();
    try (InputStream in = Generation.class.getResourceAsStream("/systems/systems.json")) {
      return List.of(json.readValue(in, Generation[].class));
    } catch (IOException | RuntimeException e) {
      throw new IllegalStateException("The systems do not read", e);
    }
  }
}
