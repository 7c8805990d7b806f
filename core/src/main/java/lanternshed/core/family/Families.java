package lanternshed.core.family;

import java.util.List;
import lanternshed.core.machine.Profile;
import lanternshed.core.measure.ShedException;

/** All families. */
public final class Families {
  private static final List<Family> ALL =
      List.of(
          new Pc(),
          new Carrier(),
          new Rdb68k(),
          new Ahdi68k(),
          new Cpm(),
          new CardFolder(),
          new Player(),
          new Slots());

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
                    "The profile of "
                        + profile.name()
                        + " names no family that lays out its cards: choose one in the profile, with"
                        + " a firmware and a system."));
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
