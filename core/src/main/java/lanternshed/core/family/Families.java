package lanternshed.core.family;

import java.util.List;
import lanternshed.core.machine.Profile;
import lanternshed.core.measure.ShedException;

/** All families. */
public final class Families {
  private static final List<Family> ALL =
      List.of(new Pc(), new Carrier(), new Rdb68k(), new Ahdi68k());

  private Families() {}

  /**
   * The family of a profile.
   *
   * @throws ShedException where nothing is laid out for it
   */
  public static Family of(Profile profile) {
    return ALL.stream()
        .filter(f -> f.key().equals(profile.family()) && profile.planned())
        .findFirst()
        .orElseThrow(
            () ->
                new ShedException(
                    "Volumes of "
                        + profile.name()
                        + " ("
                        + String.join(", ", profile.formats())
                        + ") are not laid out here yet; its limits, boot chain and lists stand in"
                        + " its profile."));
  }

  /**
   * The family of that key, as a recipe names it.
   *
   * @throws ShedException where there is none
   */
  public static Family named(String key) {
    return ALL.stream()
        .filter(f -> f.key().equals(key))
        .findFirst()
        .orElseThrow(() -> new ShedException("There is no family \"" + key + "\" here."));
  }
}
