package lanternshed.server.fault;

import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Table;
import lanternshed.core.fault.Cost;
import lanternshed.core.fault.Part;
import lanternshed.core.fault.Suspicion;

/** A part on a job's board. */
@Entity
@Table(name = "fault_part")
class PartEntity extends OnBoard {
  private String name;
  private String kind;
  private String grouping;
  private boolean fitted;
  private int minutes;
  private int money;
  private int risk;
  private int made;
  private int megabytes;
  private int tenthsOfVolt;

  @Enumerated(EnumType.STRING)
  private Suspicion suspicion;

  protected PartEntity() {}

  PartEntity(long jobId, FaultService.PartText text) {
    super(jobId);
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
    made = t.year();
    megabytes = t.megabytes();
    tenthsOfVolt = t.tenthsOfVolt();
  }

  String name() {
    return name;
  }

  Part part() {
    Cost swap = new Cost(minutes, money, risk);
    Part.Traits traits = new Part.Traits(made, megabytes, tenthsOfVolt);
    return new Part(String.valueOf(id()), name, kind, grouping, fitted, swap, suspicion, traits);
  }
}
