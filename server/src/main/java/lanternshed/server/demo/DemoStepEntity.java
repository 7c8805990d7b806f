package lanternshed.server.demo;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import org.springframework.data.domain.Persistable;

/** A step of laying the demonstration out that was done, and the number of what it made. */
@Entity
@Table(name = "demo_step")
class DemoStepEntity implements Persistable<String> {
  @Id private String name;
  private long made;

  protected DemoStepEntity() {}

  DemoStepEntity(String name, long made) {
    this.name = name;
    this.made = made;
  }

  @Override
  public String getId() {
    return name;
  }

  @Override
  public boolean isNew() {
    return true;
  }

  long made() {
    return made;
  }
}
