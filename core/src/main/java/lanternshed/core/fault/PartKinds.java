package lanternshed.core.fault;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;
import lanternshed.core.measure.ShedException;
import tools.jackson.core.type.TypeReference;

/** The kinds of parts and their stated priors. */
public final class PartKinds {
  /** Of 1000: two parts of kinds that are not known to quarrel. */
  static final double RARE_QUARREL = 1;

  private static final Map<String, PartKind> ALL =
      FaultData.read("/faults/kinds.json", new TypeReference<List<PartKind>>() {}).stream()
          .collect(
              Collectors.toMap(
                  PartKind::key, Function.identity(), (a, b) -> a, LinkedHashMap::new));

  private PartKinds() {}

  public static List<PartKind> all() {
    return List.copyOf(ALL.values());
  }

  public static PartKind get(String key) {
    PartKind k = ALL.get(key);
    if (k == null) {
      throw new ShedException(
          "There is no kind of part \""
              + key
              + "\"; there are: "
              + String.join(", ", ALL.keySet())
              + ".");
    }
    return k;
  }

  /** How often these two kinds quarrel, of 1000. */
  static double quarrel(String a, String b) {
    int known =
        Math.max(get(a).quarrels().getOrDefault(b, 0), get(b).quarrels().getOrDefault(a, 0));
    return Math.max(RARE_QUARREL, known);
  }
}
