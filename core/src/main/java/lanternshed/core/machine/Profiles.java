package lanternshed.core.machine;

import java.io.IOException;
import java.io.InputStream;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import lanternshed.core.measure.ShedException;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.json.JsonMapper;

/** The profiles that ship, read once from {@code /machines/*.json}. */
public final class Profiles {
  private static final List<String> SHIPPED =
      List.of("controller-pc", "at-386-486", "pc-mid90s", "pc-late90s");
  private static final JsonMapper JSON =
      JsonMapper.builder().enable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES).build();
  private static final Map<String, Profile> ALL = load();

  private Profiles() {}

  public static List<Profile> all() {
    return List.copyOf(ALL.values());
  }

  /**
   * The profile of that key.
   *
   * @throws ShedException naming the keys there are
   */
  public static Profile get(String key) {
    Profile p = ALL.get(key);
    if (p == null) {
      throw new ShedException(
          "There is no machine \""
              + key
              + "\"; there are: "
              + String.join(", ", ALL.keySet())
              + ".");
    }
    return p;
  }

  private static Map<String, Profile> load() {
    Map<String, Profile> out = new LinkedHashMap<>();
    for (String key : SHIPPED) {
      String file = "/machines/" + key + ".json";
      try (InputStream in = Profiles.class.getResourceAsStream(file)) {
        Profile p = JSON.readValue(in, Profile.class);
        for (Profile.Firmware f : p.firmwares()) {
          for (String peg : f.pegs()) {
            if (Ceiling.of(peg).isEmpty()) throw new IOException("unknown peg " + peg);
          }
        }
        for (String s : p.systems()) {
          if (Generation.of(s).isEmpty()) throw new IOException("unknown system " + s);
        }
        out.put(key, p);
      } catch (IOException | RuntimeException e) {
        throw new IllegalStateException("The shipped profile " + file + " does not read", e);
      }
    }
    return out;
  }
}
