package lanternshed.server.crossing;

import jakarta.persistence.Entity;
import jakarta.persistence.Table;
import lanternshed.server.files.DesktopFile;

/** A file that waits to go over. */
@Entity
@Table(name = "crossing_file")
class CrossingFileEntity extends DesktopFile {
  private long crossingId;

  protected CrossingFileEntity() {}

  CrossingFileEntity(long crossingId, String path) {
    super(path);
    this.crossingId = crossingId;
  }
}
