package lanternshed.server.jobs;

import java.util.List;
import lanternshed.core.plan.PlanRequest;

/**
 * What the fault station found, as the later stations need it.
 *
 * @param kind "storage", "other", "pair", "both", {@link #BESIDE}, or "" while it is open
 * @param parts the named ones; none where several remain
 * @param remain those that may still be it
 * @param pair storage and another part that do not work together (D-11); absent in older ones
 */
public record FaultVerdict(
    String kind,
    String sentence,
    List<String> evidence,
    List<String> parts,
    List<String> remain,
    PlanRequest.Pair pair) {
  /** No storage is at fault, and the new one is in the machine: it is mended and proved again. */
  public static final String BESIDE = "beside";

  public static final FaultVerdict OPEN =
      new FaultVerdict("", "", List.of(), List.of(), List.of(), PlanRequest.Pair.NONE);

  public FaultVerdict {
    remain = remain == null ? List.of() : remain;
    pair = pair == null ? PlanRequest.Pair.NONE : pair;
  }

  /** What is to be mended, as far as it is known. */
  String mend() {
    if (!parts.isEmpty()) return String.join(", ", parts);
    return remain.isEmpty() ? "what is at fault" : "one of " + String.join(", ", remain);
  }

  boolean storageStays() {
    return kind.equals("other");
  }
}
