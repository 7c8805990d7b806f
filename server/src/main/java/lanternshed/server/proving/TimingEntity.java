package lanternshed.server.proving;

import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import lanternshed.core.prove.Timing;

/** A speed or a time that somebody took; taken back it is only hidden, so that it can come back. */
@Entity
@Table(name = "timing")
class TimingEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  private Long id;

  private long jobId;

  @Enumerated(EnumType.STRING)
  private Timing.Kind kind;

  private boolean withCard;
  private String figure;
  private String system;
  private String tool;
  private Instant at;
  private boolean removed;

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

  Long id() {
    return id;
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

  boolean removed() {
    return removed;
  }

  void setRemoved(boolean now) {
    removed = now;
  }
}
