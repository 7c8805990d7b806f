package lanternshed.server.logbook;

import java.time.Clock;
import java.util.List;
import lanternshed.core.measure.Reading;
import org.springframework.stereotype.Service;

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

  List<LogLine> of(long job) {
    return lines.findTop200ByJobIdOrderByIdDesc(job);
  }
}
