package lanternshed.server.work;

import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.util.Optional;
import org.hibernate.annotations.DynamicUpdate;

/**
 * One piece of long work; what is needed to go on with it after the program was killed. Only what a
 * step changes is written: a wish that comes while the work is taken up again must not put its old
 * state back.
 */
@Entity
@DynamicUpdate
@Table(name = "work")
public class WorkEntity {
  /** What is done. */
  public enum Kind {
    /** The old medium becomes an image. */
    RESCUE,
    /** The recipe of the plan becomes an image. */
    BUILD,
    /** The job's image goes on a card. */
    WRITE,
    /** A finished card becomes an image (Z-1, Z-4). */
    READ_BACK,
    /** An image of the shelf goes on a card as it is, without a job (W-8). */
    RESTORE,
    /** A card is written over to see how many sectors it keeps (W-6). */
    TRUE_SIZE,
    /** A medium that is done with is overwritten and read back (Z-3). */
    WIPE
  }

  /** How it stands. */
  public enum State {
    QUEUED,
    RUNNING,
    PAUSED,
    DONE,
    FAILED,
    CANCELLED
  }

  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  private Long id;

  private Long jobId;

  @Enumerated(EnumType.STRING)
  private Kind kind;

  @Enumerated(EnumType.STRING)
  private State state = State.QUEUED;

  private String phase = "waiting";
  private long done;
  private long total;
  private long place;
  private String message = "";
  private String wish = "";
  private Long mediumId;
  private Long imageId;
  private Instant started;
  private Instant changed;

  protected WorkEntity() {}

  WorkEntity(Long jobId, Kind kind, Long mediumId, long total, Instant now) {
    this.jobId = jobId;
    this.kind = kind;
    this.mediumId = mediumId;
    this.total = total;
    this.started = now;
    this.changed = now;
  }

  public Long id() {
    return id;
  }

  /** The job that it belongs to. */
  public long jobId() {
    if (jobId == null) throw new IllegalStateException("work " + id + " belongs to no job");
    return jobId;
  }

  public boolean ofJob() {
    return jobId != null;
  }

  /** The image that goes on a card as it is. */
  public Optional<Long> imageId() {
    return Optional.ofNullable(imageId);
  }

  void imageId(Long image) {
    imageId = image;
  }

  public Kind kind() {
    return kind;
  }

  public State state() {
    return state;
  }

  public boolean running() {
    return state == State.RUNNING || state == State.QUEUED;
  }

  public String phase() {
    return phase;
  }

  public long done() {
    return done;
  }

  public long total() {
    return total;
  }

  /** The sector from which a write goes on. */
  public long place() {
    return place;
  }

  public String message() {
    return message;
  }

  /**
   * How it is wished: of a rescue as JSON, of a write the image that the card holds already, of a
   * look at a card how much of it, of a wiping as JSON with what could not be overwritten so far;
   * "" for the usual way.
   */
  public String wish() {
    return wish;
  }

  void wish(String newWish) {
    wish = newWish;
  }

  public Optional<Long> mediumId() {
    return Optional.ofNullable(mediumId);
  }

  Instant started() {
    return started;
  }

  void set(State newState, String newMessage, Instant now) {
    state = newState;
    message = newMessage;
    changed = now;
  }

  void at(String newPhase, long newDone, long newTotal, Instant now) {
    phase = newPhase;
    done = newDone;
    total = newTotal;
    changed = now;
  }

  void place(long sector) {
    place = sector;
  }
}
