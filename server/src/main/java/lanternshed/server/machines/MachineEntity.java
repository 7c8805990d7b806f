package lanternshed.server.machines;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import java.time.Instant;
import lanternshed.core.machine.Profile;
import lanternshed.core.machine.ProfileFile;

/** A profile that somebody made here. */
@Entity
@Table(name = "machine")
class MachineEntity {
  @Id private String key;
  @Version private Long version;
  private String profile;
  private Instant created;

  protected MachineEntity() {}

  MachineEntity(Profile p, Instant now) {
    key = p.key();
    created = now;
    write(p);
  }

  Profile profile() {
    return ProfileFile.read(profile);
  }

  long version() {
    return version;
  }

  void write(Profile p) {
    profile = ProfileFile.write(p);
  }
}
