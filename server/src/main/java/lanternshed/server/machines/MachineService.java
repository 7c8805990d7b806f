package lanternshed.server.machines;

import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import lanternshed.core.machine.Profile;
import lanternshed.core.machine.ProfileFile;
import lanternshed.core.machine.Profiles;
import lanternshed.core.measure.ShedException;
import lanternshed.server.shell.ConflictException;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** All profiles: those that ship, which stay as they are, and those that people made. */
@Service
public class MachineService {
  private final MachineRepository own;
  private final List<ProfileUse> users;
  private final Clock clock;

  MachineService(MachineRepository own, List<ProfileUse> users, Clock clock) {
    this.own = own;
    this.users = users;
    this.clock = clock;
  }

  /**
   * @param version of a profile made here, for its next change; 0 for one that ships
   */
  public record Known(Profile profile, boolean own, long version) {}

  public List<Known> all() {
    List<Known> out = new ArrayList<>();
    own.findAllByOrderByCreated().forEach(m -> out.add(new Known(m.profile(), true, m.version())));
    Profiles.all().forEach(p -> out.add(new Known(p, false, 0)));
    return out;
  }

  /**
   * The profile of that key.
   *
   * @throws ShedException when there is none
   */
  public Profile get(String key) {
    return find(key).orElseThrow(() -> new ShedException("There is no machine \"" + key + "\"."));
  }

  public Optional<Profile> find(String key) {
    return Profiles.find(key).or(() -> own.findById(key).map(MachineEntity::profile));
  }

  @Transactional
  public Profile add(String text) {
    Profile p = ProfileFile.read(text);
    if (Profiles.find(p.key()).isPresent() || own.existsById(p.key())) {
      throw new ShedException(
          "There is a machine with the key " + p.key() + " already; give this one another key.");
    }
    own.save(new MachineEntity(p, clock.instant()));
    return p;
  }

  @Transactional
  public Profile change(String key, long version, String text) {
    Profile p = ProfileFile.read(text);
    MachineEntity m = mine(key);
    if (!p.key().equals(key)) {
      throw new ShedException("The key of a profile stays: " + key + ". Clone it to give another.");
    }
    if (m.version() != version) {
      throw new ConflictException(
          "Somebody else changed this profile meanwhile. What you typed is kept; export it, look at the"
              + " profile again and save once more.");
    }
    m.write(p);
    own.saveAndFlush(m);
    return p;
  }

  @Transactional
  public void remove(String key) {
    MachineEntity m = mine(key);
    if (users.stream().anyMatch(u -> u.uses(key))) {
      throw new ShedException("A job uses this profile; it stays as long as the job does.");
    }
    own.delete(m);
  }

  private MachineEntity mine(String key) {
    Optional<MachineEntity> m = own.findById(key);
    if (m.isEmpty() && Profiles.find(key).isPresent()) {
      throw new ShedException(
          "Profiles that ship stay as they are. Clone this one and change the clone.");
    }
    return m.orElseThrow(() -> new ShedException("There is no machine \"" + key + "\"."));
  }
}
