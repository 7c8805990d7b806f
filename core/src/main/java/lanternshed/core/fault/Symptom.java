package lanternshed.core.fault;

import java.util.List;
import java.util.Map;
import tools.jackson.core.type.TypeReference;

/**
 * What is heard, seen or noticed (D-6), as data ({@code /faults/symptoms.json}).
 *
 * @param sense "sound", "light" or "behaviour"
 * @param suggests what it usually means
 * @param urgency "now", "soon" or "calm"
 * @param dont what not to do; "" for nothing
 * @param kinds kinds of part it speaks for (factor above 1) or against
 */
public record Symptom(
    String key,
    String sense,
    String text,
    String suggests,
    String urgency,
    String act,
    String dont,
    Map<String, Double> kinds) {

  private static final List<Symptom> ALL =
      FaultData.read("/faults/symptoms.json", new TypeReference<List<Symptom>>() {});

  public Symptom {
    kinds = Map.copyOf(kinds);
  }

  public static List<Symptom> all() {
    return List.copyOf(ALL);
  }

  /** The factor by which the noticed symptoms move a kind's prior, between 1/10 and 10. */
  static double factor(List<String> noticed, String kind) {
    double f = 1;
    for (Symptom s : ALL) {
      if (noticed.contains(s.key())) f *= s.kinds().getOrDefault(kind, 1.0);
    }
    return Math.max(0.1, Math.min(10, f));
  }
}
