package lanternshed.server.fault;

import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import lanternshed.core.fault.Cost;
import lanternshed.core.fault.Part;
import lanternshed.core.fault.Suspicion;

/** A part on a job's board; taken off it is only hidden, so that it can come back. */
@Entity
@Table(name = "fault_part")
class PartEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  private Long id;

  @Version private long version;
  private long jobId;
  private String name;
  private String kind;
  private String grouping;
  private boolean fitted;
  private int minutes;
  private int money;
  private int risk;

  @Enumerated(EnumType.STRING)
  private Suspicion suspicion;

  private boolean removed;

  protected PartEntity() {}

  PartEntity(long jobId, FaultService.PartText text) {
    this.jobId = jobId;
    write(text);
  }

  void write(FaultService.PartText t) {
    Cost cost = new Cost(t.minutes(), t.money(), t.risk());
    name = t.name().strip();
    kind = t.kind();
    grouping = t.group().strip();
    fitted = t.fitted();
    minutes = cost.minutes();
    money = cost.money();
    risk = cost.risk();
    suspicion = t.suspicion();
  }

  Long id() {
    return id;
  }

  long version() {
    return version;
  }

  long jobId() {
    return jobId;
  }

  String name() {
    return name;
  }

  boolean removed() {
    return removed;
  }

  void setRemoved(boolean now) {
    removed = now;
  }

  Part part() {
    Cost swap = new Cost(minutes, money, risk);
    return new Part(String.valueOf(id), name, kind, grouping, fitted, swap, suspicion);
  }
}
