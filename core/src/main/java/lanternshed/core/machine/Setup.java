package lanternshed.core.machine;

import lanternshed.core.measure.ShedException;

/** The firmware variant and the system that are chosen for a machine. */
public record Setup(Profile profile, Profile.Firmware firmware, Generation system) {

  /**
   * Chooses by key; "" is the profile's usual one.
   *
   * @throws ShedException when the profile has no such variant or system, or none at all
   */
  public static Setup of(Profile profile, String firmware, String system) {
    if (!profile.planned()) {
      throw new ShedException(profile.name() + " has no firmware and no system to choose.");
    }
    Profile.Firmware f =
        firmware.isEmpty()
            ? profile.firmwares().get(0)
            : profile
                .firmware(firmware)
                .orElseThrow(
                    () ->
                        new ShedException(
                            profile.name() + " has no firmware \"" + firmware + "\"."));
    String wanted = system.isEmpty() ? profile.systems().get(0) : system;
    Generation g =
        Generation.of(wanted)
            .filter(x -> profile.systems().contains(x.key()))
            .orElseThrow(
                () -> new ShedException(profile.name() + " does not run \"" + wanted + "\"."));
    return new Setup(profile, f, g);
  }

  public Pegs pegs(Card card) {
    return Pegs.of(firmware, system, card, profile.limits());
  }
}
