package lanternshed.server.logbook;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.Instant;
import java.util.Optional;
import lanternshed.core.measure.Reading;

/** One line, stamped into a job. */
@Entity
@Table(name = "log_line")
public class LogLine {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  private Long id;

  private long jobId;
  private int station;
  private Instant at;
  private String author;
  private String text;
  private BigDecimal amount;
  private String unit;
  private Long corrects;

  protected LogLine() {}

  LogLine(
      long jobId, int station, Instant at, String author, String text, Optional<Reading> reading) {
    this.jobId = jobId;
    this.station = station;
    this.at = at;
    this.author = author;
    this.text = text;
    this.amount = reading.map(Reading::amount).orElse(null);
    this.unit = reading.map(Reading::unit).orElse("");
  }

  /** A line that takes the place of an older one, which stays readable. */
  LogLine(LogLine old, Instant at, String author, String text, Optional<Reading> reading) {
    this(old.jobId, old.station, at, author, text, reading);
    corrects = old.id;
  }

  public long jobId() {
    return jobId;
  }

  public Optional<Long> corrects() {
    return Optional.ofNullable(corrects);
  }

  public Long id() {
    return id;
  }

  public int station() {
    return station;
  }

  public Instant at() {
    return at;
  }

  public String author() {
    return author;
  }

  public String text() {
    return text;
  }

  Optional<BigDecimal> amount() {
    return Optional.ofNullable(amount);
  }

  String unit() {
    return unit;
  }
}
