package lanternshed.server.shell;

import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.MappedSuperclass;
import jakarta.persistence.Version;

/** What a person takes out and may want back: it is only hidden. */
@MappedSuperclass
public abstract class Removable {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  private Long id;

  @Version private long version;
  private boolean removed;

  public Long id() {
    return id;
  }

  public long version() {
    return version;
  }

  public boolean removed() {
    return removed;
  }

  public void setRemoved(boolean now) {
    removed = now;
  }
}
