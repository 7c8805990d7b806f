package lanternshed.server.sheets;

import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import lanternshed.server.jobs.JobView;
import lanternshed.server.logbook.LogLine;
import lanternshed.server.logbook.LogService;
import lanternshed.server.paper.Paper;
import lanternshed.server.paper.SheetPdf;
import org.springframework.stereotype.Component;

/** The logbook of a job, as it was written; a line that was corrected says so, and stays. */
@Component
class LogSheet {
  private final LogService log;

  LogSheet(LogService log) {
    this.log = log;
  }

  byte[] of(JobView job, Paper paper) {
    SheetPdf s =
        new SheetPdf(paper, job.machine(), "Logbook of job " + job.id() + ", " + job.machine());
    s.answer(job.where());
    lines(s, job.id());
    return s.done();
  }

  void lines(SheetPdf s, long job) {
    List<LogLine> lines = log.whole(job);
    if (lines.isEmpty()) return;
    Set<Long> corrected =
        lines.stream().flatMap(l -> l.corrects().stream()).collect(Collectors.toSet());
    s.head("Logbook");
    s.table(
        List.of("at", "who", "line"),
        new float[] {3, 2, 8},
        lines.stream()
            .map(
                l ->
                    List.of(
                        SheetPdf.at(l.at()),
                        l.author(),
                        l.text() + (corrected.contains(l.id()) ? " (corrected later)" : "")))
            .toList());
  }
}
