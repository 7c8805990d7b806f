package lanternshed.server.pictures;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

/**
 * A picture of a job; the file lies on the shelf. Its place is "inspection:3", "fit:2", "map" or
 * "log".
 */
@Entity
@Table(name = "picture")
class PictureEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  private Long id;

  private long jobId;
  private String place;
  private String name;
  private String type;
  private int width;
  private int height;
  private Instant created;
  private boolean removed;

  protected PictureEntity() {}

  PictureEntity(long jobId, String place, String name, PictureFile.Kept kept, Instant now) {
    this.jobId = jobId;
    this.place = place;
    this.name = name;
    this.type = kept.type();
    this.width = kept.width();
    this.height = kept.height();
    this.created = now;
  }

  Long id() {
    return id;
  }

  long jobId() {
    return jobId;
  }

  String place() {
    return place;
  }

  String name() {
    return name;
  }

  String type() {
    return type;
  }

  int width() {
    return width;
  }

  int height() {
    return height;
  }

  Instant created() {
    return created;
  }

  boolean removed() {
    return removed;
  }

  void setRemoved(boolean now) {
    removed = now;
  }
}
