package lanternshed.server.proving;

import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Table;
import java.time.Instant;
import lanternshed.core.prove.Timing;
import lanternshed.server.shell.Removable;

/** A speed or a time that somebody took; taken back it is only hidden, so that it can come back. */
@Entity
@Table(name = "timing")
class TimingEntity extends Removable {
  private long jobId;

  @Enumerated(EnumType.STRING)
  private Timing.Kind kind;

  private boolean withCard;
  private String figure;
  private String system;
  private String tool;
  private Instant at;

  protected TimingEntity() {}

  TimingEntity(long jobId, Timing t, Instant at) {
    this.jobId = jobId;
    this.kind = t.kind();
    this.withCard = t.after();
    this.figure = t.text();
    this.system = t.system();
    this.tool = t.tool();
    this.at = at;
  }

  long jobId() {
    return jobId;
  }

  Timing timing() {
    return new Timing(kind, withCard, figure, system, tool);
  }

  Instant at() {
    return at;
  }
}
