package lanternshed.server.files;

import jakarta.persistence.Entity;
import jakarta.persistence.Table;
import lanternshed.core.names.NameList;

/** One file that was brought for a job. */
@Entity
@Table(name = "brought_file")
class BroughtEntity extends DesktopFile {
  private long jobId;
  private String folded;
  private boolean removed;

  protected BroughtEntity() {}

  BroughtEntity(long jobId, String path) {
    super(path);
    this.jobId = jobId;
    this.folded = NameList.fold(path);
  }

  @Override
  public void holds(DesktopFiles.Kept kept, String newTime) {
    super.holds(kept, newTime);
    removed = false;
  }

  boolean removed() {
    return removed;
  }

  void setRemoved(boolean now) {
    removed = now;
  }
}
