package lanternshed.server.files;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;

/** One file that was brought for a job; its bytes lie on the shelf under their digest. */
@Entity
@Table(name = "brought_file")
class BroughtEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  private Long id;

  private long jobId;
  private String path;
  private String folded;
  private long bytes;
  private String sha256;
  private String time;
  private boolean removed;

  protected BroughtEntity() {}

  BroughtEntity(long jobId, String path) {
    this.jobId = jobId;
    this.path = path;
    this.folded = fold(path);
  }

  /** Letter by letter, as {@code FileSet} does: some letters become two in capitals. */
  static String fold(String path) {
    StringBuilder out = new StringBuilder(path.length());
    for (char c : path.toCharArray()) out.append(Character.toUpperCase(c));
    return out.toString();
  }

  String path() {
    return path;
  }

  long bytes() {
    return bytes;
  }

  String sha256() {
    return sha256;
  }

  /** Local date and time of its last change, "1994-03-01T10:20:00". */
  String time() {
    return time;
  }

  void holds(long newBytes, String newSha256, String newTime) {
    bytes = newBytes;
    sha256 = newSha256;
    time = newTime;
    removed = false;
  }

  /** Takes the place of what was taken out under this name, however its letters were written. */
  void spell(String newPath) {
    path = newPath;
  }

  boolean removed() {
    return removed;
  }

  void setRemoved(boolean now) {
    removed = now;
  }
}
