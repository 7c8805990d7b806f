package lanternshed.server.crossing;

import jakarta.persistence.Entity;
import jakarta.persistence.Table;
import java.time.Instant;
import lanternshed.server.shell.Removable;

/** Files on their way to a volume of an image, or to a set of new disks. */
@Entity
@Table(name = "crossing")
class CrossingEntity extends Removable {
  private Long imageId;
  private int volume;
  private String disk;
  private String choices = "";
  private String carried = "";
  private Instant at;

  protected CrossingEntity() {}

  /**
   * @param imageId whose volume it is; null for new disks
   * @param disk key of their kind; "" for a volume
   */
  CrossingEntity(Long imageId, int volume, String disk, Instant at) {
    this.imageId = imageId;
    this.volume = volume;
    this.disk = disk;
    this.at = at;
  }

  Long imageId() {
    return imageId;
  }

  int volume() {
    return volume;
  }

  String disk() {
    return disk;
  }

  /** {@link CrossingView.ChosenText} as JSON; "" where nobody chose. */
  String choices() {
    return choices;
  }

  void choose(String newDisk, String json) {
    disk = newDisk;
    choices = json;
  }

  /** {@link CrossingView} as JSON; "" until the files went over. */
  String carried() {
    return carried;
  }

  void carry(String json) {
    carried = json;
  }

  Instant at() {
    return at;
  }
}
