package lanternshed.core.machine;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Stream;
import lanternshed.core.cpu.Level;
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

  /** What the machine, its firmware and the system ask for in numbers, the highest of each name. */
  public List<Profile.Need> needs() {
    Map<String, Profile.Need> highest = new LinkedHashMap<>();
    Stream.concat(
            profile.prerequisites().stream().map(Profile.Prerequisite::need),
            system.needs().stream())
        .filter(Objects::nonNull)
        .filter(n -> n.only().isEmpty() || n.only().stream().anyMatch(this::chosen))
        .forEach(n -> highest.merge(n.of(), n, (a, b) -> a.atLeast() >= b.atLeast() ? a : b));
    return List.copyOf(highest.values());
  }

  private boolean chosen(String key) {
    return key.equals(firmware.key()) || key.equals(system.key());
  }

  /** The class of its processor. */
  public Level level() {
    return Level.of(profile.processor());
  }
}
