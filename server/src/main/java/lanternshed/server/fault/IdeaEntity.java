package lanternshed.server.fault;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

/** An idea that was tried and dropped, with why it was plausible (D-7). */
@Entity
@Table(name = "fault_idea")
class IdeaEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  private Long id;

  private long jobId;
  private String text;
  private String reason;
  private String author;
  private Instant at;

  protected IdeaEntity() {}

  IdeaEntity(long jobId, String text, String reason, String author, Instant at) {
    this.jobId = jobId;
    this.text = text;
    this.reason = reason;
    this.author = author;
    this.at = at;
  }

  FaultService.IdeaView view() {
    return new FaultService.IdeaView(id, text, reason, author, at);
  }
}
