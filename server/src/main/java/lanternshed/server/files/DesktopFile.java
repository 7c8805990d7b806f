package lanternshed.server.files;

import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.MappedSuperclass;

/** A file that came from a desktop; its bytes lie on the shelf under their digest. */
@MappedSuperclass
public abstract class DesktopFile {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  private Long id;

  private String path;
  private long bytes;
  private String sha256;
  private String time;

  protected DesktopFile() {}

  protected DesktopFile(String path) {
    this.path = path;
  }

  public String path() {
    return path;
  }

  /** Takes the place of what was taken out under this name, however its letters were written. */
  public void spell(String newPath) {
    path = newPath;
  }

  public long bytes() {
    return bytes;
  }

  public String sha256() {
    return sha256;
  }

  /** Local date and time of its last change, "1994-03-01T10:20:00"; "" for none. */
  public String time() {
    return time;
  }

  public void holds(DesktopFiles.Kept kept, String newTime) {
    bytes = kept.bytes();
    sha256 = kept.sha256();
    time = newTime;
  }
}
