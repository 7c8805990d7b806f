package lanternshed.server.jobs;

import java.util.List;

/**
 * What the fault station found, as the later stations need it.
 *
 * @param kind "storage", "other", "pair", "both", or "" while it is open
 * @param parts the suspects by name
 */
public record FaultVerdict(
    String kind, String sentence, List<String> evidence, List<String> parts) {
  public static final FaultVerdict OPEN = new FaultVerdict("", "", List.of(), List.of());

  boolean storageStays() {
    return kind.equals("other");
  }
}
