package lanternshed.server.fault;

import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Table;
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
class TrialEntity extends OnBoard {
  private int number;
  private String title;
  private String parts;
  private String operation;

  @Enumerated(EnumType.STRING)
  private Trial.Outcome outcome;

  private int worked;
  private int tries;
  private String words;
  private String author;
  private Instant at;

  protected TrialEntity() {}

  TrialEntity(long jobId, int number, FaultService.TrialText text, String author, Instant now) {
    super(jobId);
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
    worked = t.outcome() == Trial.Outcome.SOMETIMES ? t.worked() : 0;
    tries = t.outcome() == Trial.Outcome.SOMETIMES ? t.of() : 0;
    words = t.words().strip();
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

  List<String> partIds() {
    return Arrays.stream(parts.split(" ")).filter(s -> !s.isEmpty()).toList();
  }

  Trial trial() {
    return new Trial(
        number, title, Set.copyOf(partIds()), operation, outcome, words, worked, tries);
  }
}
