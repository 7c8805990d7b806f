package lanternshed.core.chain;

import java.io.IOException;
import java.io.InputStream;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import lanternshed.core.measure.ShedException;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/**
 * A kind of connector, by its published name (H-1).
 *
 * @param also other names that profiles give it
 * @param board which side a machine's own board has
 * @param millivolts of its signals on a machine; 0 for one that carries power only
 * @param power whether it feeds what is plugged in
 * @param reach kB/s at most through it; 0 where it carries no data
 */
public record Joint(
    String key,
    String name,
    List<String> also,
    int pins,
    Side board,
    int millivolts,
    boolean power,
    long reach) {

  /** Pins or holes; the one goes into the other. */
  public enum Side {
    M("pins"),
    F("holes");

    private final String words;

    Side(String words) {
      this.words = words;
    }

    public String words() {
      return words;
    }

    boolean takes(Side other) {
      return this != other;
    }
  }

  private static final Map<String, Joint> ALL = load();

  private static Map<String, Joint> load() {
    Map<String, Joint> out = new LinkedHashMap<>();
    try (InputStream in = Joint.class.getResourceAsStream("/chain/joints.json")) {
      List<Joint> all = JsonMapper.shared().readValue(in, new TypeReference<List<Joint>>() {});
      all.forEach(j -> out.put(j.key(), j));
    } catch (IOException e) {
      throw new IllegalStateException("The joints ship with the program", e);
    }
    return out;
  }

  public static List<Joint> all() {
    return List.copyOf(ALL.values());
  }

  /**
   * @throws ShedException naming the joints there are
   */
  public static Joint get(String key) {
    return known(key)
        .orElseThrow(
            () ->
                new ShedException(
                    "There is no joint \""
                        + key
                        + "\"; there are: "
                        + String.join(", ", ALL.keySet())
                        + "."));
  }

  /** By a key that may be of another shed, or "" for none. */
  public static Optional<Joint> known(String key) {
    return Optional.ofNullable(ALL.get(key));
  }

  /** By the name that a profile has for it. */
  public static Optional<Joint> named(String name) {
    return ALL.values().stream()
        .filter(j -> j.name().equals(name) || j.also().contains(name))
        .findFirst();
  }
}
