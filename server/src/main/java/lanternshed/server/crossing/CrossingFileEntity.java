package lanternshed.server.crossing;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;

/** A file that waits to go over; its bytes lie on the shelf under their digest. */
@Entity
@Table(name = "crossing_file")
class CrossingFileEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  private Long id;

  private long crossingId;
  private String path;
  private long bytes;
  private String sha256;
  private String time;

  protected CrossingFileEntity() {}

  CrossingFileEntity(long crossingId, String path) {
    this.crossingId = crossingId;
    this.path = path;
  }

  void holds(long newBytes, String newSha256, String newTime) {
    bytes = newBytes;
    sha256 = newSha256;
    time = newTime;
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

  /** Local date and time of its last change; "" for none. */
  String time() {
    return time;
  }
}
