package lanternshed.server.crossing;

import jakarta.persistence.Entity;
import jakarta.persistence.Table;
import java.time.Instant;
import lanternshed.server.shell.Removable;

/** A file that went over, tried on the machine by a person (T-6). */
@Entity
@Table(name = "crossing_tried")
class TriedEntity extends Removable {
  private long crossingId;
  private String path;
  private boolean started;
  private String says;
  private String author;
  private Instant at;

  protected TriedEntity() {}

  TriedEntity(long crossingId, CrossingService.TriedText text, Instant at) {
    this.crossingId = crossingId;
    this.path = text.path();
    this.started = text.started();
    this.says = text.says();
    this.author = text.author();
    this.at = at;
  }

  long crossingId() {
    return crossingId;
  }

  CrossingView.TriedView view() {
    return new CrossingView.TriedView(id(), path, started, says, author, at);
  }
}
