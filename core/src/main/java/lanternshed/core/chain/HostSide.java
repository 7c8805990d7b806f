package lanternshed.core.chain;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import lanternshed.core.machine.Profile;

/**
 * What the machine offers a chain.
 *
 * @param ways joints that carry data, each with the bay in which its chain ends
 * @param power joints that feed a part
 */
public record HostSide(String name, List<Way> ways, List<Joint> power) {

  /**
   * @param bay tenths of a millimetre of the bay or slot; 0 where it does not matter
   * @param bayName "" where there is none
   */
  public record Way(Joint joint, int bay, String bayName) {}

  public static HostSide of(Profile p) {
    List<Way> ways = new ArrayList<>();
    List<Joint> power = new ArrayList<>();
    for (String c : p.connectors()) {
      Optional<Joint> joint = Joint.named(c);
      if (joint.isEmpty()) continue;
      if (joint.get().reach() == 0) power.add(joint.get());
      else ways.add(way(joint.get(), p));
    }
    return new HostSide(p.name(), ways, power);
  }

  /** A PC Card ends in the slot of PC Cards, anything else in the bay. */
  private static Way way(Joint joint, Profile p) {
    boolean card = joint.name().startsWith("PC Card");
    return p.slots().stream()
        .filter(s -> s.thickness() > 0 && s.name().startsWith("PC Card") == card)
        .findFirst()
        .map(s -> new Way(joint, s.thickness(), s.name()))
        .orElse(new Way(joint, 0, ""));
  }
}
