package lanternshed.server.fault;

import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import lanternshed.core.fault.Trial;

/** A test on a job's board. */
@Entity
@Table(name = "fault_trial")
class TrialEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  private Long id;

  @Version private long version;
  private long jobId;
  private int number;
  private String title;
  private String parts;
  private String operation;

  @Enumerated(EnumType.STRING)
  private Trial.Outcome outcome;

  private String words;
  private String author;
  private Instant at;
  private boolean removed;

  protected TrialEntity() {}

  TrialEntity(long jobId, int number, FaultService.TrialText text, String author, Instant now) {
    this.jobId = jobId;
    this.number = number;
    this.author = author;
    this.at = now;
    write(text);
  }

  void write(FaultService.TrialText t) {
    title = t.title().strip();
    parts = new TreeSet<>(t.parts()).stream().map(String::valueOf).collect(Collectors.joining(" "));
    operation = t.operation().strip();
    outcome = t.outcome();
    words = t.words().strip();
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

  int number() {
    return number;
  }

  String author() {
    return author;
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

  List<String> partIds() {
    return Arrays.stream(parts.split(" ")).filter(s -> !s.isEmpty()).toList();
  }

  Trial trial() {
    return new Trial(number, title, Set.copyOf(partIds()), operation, outcome, words);
  }
}
