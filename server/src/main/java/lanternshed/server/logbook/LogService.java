package lanternshed.server.logbook;

import java.time.Clock;
import java.util.List;
import lanternshed.core.measure.Reading;
import lanternshed.core.measure.ShedException;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Stamps lines into jobs. */
@Service
public class LogService {
  private static final String SHED = "the shed";
  private final LogRepository lines;
  private final Clock clock;

  LogService(LogRepository lines, Clock clock) {
    this.lines = lines;
    this.clock = clock;
  }

  public LogLine write(long job, int station, String author, String text) {
    return lines.save(new LogLine(job, station, clock.instant(), author, text, Reading.in(text)));
  }

  /** A line by the program itself; its figures are results, not readings. */
  public void shed(long job, int station, String text) {
    lines.save(new LogLine(job, station, clock.instant(), SHED, text, java.util.Optional.empty()));
  }

  /**
   * Puts a new line in the place of an old one; the old one stays.
   *
   * @throws ShedException when the line is of another job or was corrected already
   */
  @Transactional
  public LogLine correct(long job, long line, String author, String text) {
    LogLine old =
        lines
            .findById(line)
            .filter(l -> l.jobId() == job)
            .orElseThrow(() -> new ShedException("There is no such line in this job's logbook."));
    if (lines.existsByCorrects(line)) {
      throw new ShedException("This line was corrected already; correct the newer one.");
    }
    return lines.save(new LogLine(old, clock.instant(), author, text, Reading.in(text)));
  }

  List<LogLine> search(String words) {
    return words.isBlank() ? List.of() : lines.search(words);
  }

  /** All lines, the oldest first. */
  public List<LogLine> whole(long job) {
    return lines.findByJobIdOrderById(job);
  }

  List<LogLine> of(long job) {
    return lines.findTop200ByJobIdOrderByIdDesc(job);
  }
}
