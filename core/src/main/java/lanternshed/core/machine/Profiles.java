package lanternshed.core.machine;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import lanternshed.core.measure.ShedException;

/** The profiles that ship, read once from {@code /machines/*.json}. */
public final class Profiles {
  private static final List<String> SHIPPED =
      List.of(
          "xt",
          "at-286",
          "at-386-486",
          "pc-mid90s",
          "pc-late90s",
          "subnotebook",
          "laptop-2000s",
          "controller-pc",
          "m68k-rdb",
          "m68k-ahdi",
          "z80-cpm-card",
          "z80-cpm-floppy",
          "m6502-userport",
          "m6803-cart",
          "m6502-idecart",
          "scsi-8bit-unit",
          "scsi-sampler",
          "player-18",
          "floppy-instrument");
  private static final Map<String, Profile> ALL = load();

  private Profiles() {}

  public static List<Profile> all() {
    return List.copyOf(ALL.values());
  }

  public static Optional<Profile> find(String key) {
    return Optional.ofNullable(ALL.get(key));
  }

  /**
   * The profile of that key.
   *
   * @throws ShedException naming the keys there are
   */
  public static Profile get(String key) {
    return find(key)
        .orElseThrow(
            () ->
                new ShedException(
                    "There is no machine \""
                        + key
                        + "\"; there are: "
                        + String.join(", ", ALL.keySet())
                        + "."));
  }

  private static Map<String, Profile> load() {
    Map<String, Profile> out = new LinkedHashMap<>();
    for (String key : SHIPPED) {
      String file = "/machines/" + key + ".json";
      try (InputStream in = Profiles.class.getResourceAsStream(file)) {
        Profile p = ProfileFile.read(new String(in.readAllBytes(), StandardCharsets.UTF_8));
        if (!p.key().equals(key)) throw new IOException("its key is " + p.key());
        out.put(key, p);
      } catch (IOException | RuntimeException e) {
        throw new IllegalStateException("The shipped profile " + file + " does not read", e);
      }
    }
    return out;
  }
}
