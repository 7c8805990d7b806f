package lanternshed.server.logbook;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import lanternshed.core.measure.ShedException;
import lanternshed.server.shell.CsvText;
import lanternshed.server.stations.Station;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** The log of a job, and the search over all. */
@RestController
class LogController {
  private final LogService log;
  private final LoggedJobs jobs;

  LogController(LogService log, LoggedJobs jobs) {
    this.log = log;
    this.jobs = jobs;
  }

  /**
   * @param corrects id of the line whose place it takes; 0 for none
   * @param corrected whether a newer line took its place
   */
  record LineView(
      long id,
      int station,
      String stationName,
      Instant at,
      String author,
      String text,
      String amount,
      String unit,
      long corrects,
      boolean corrected) {
    static LineView of(LogLine l, Set<Long> corrected) {
      String amount = l.amount().map(a -> a.stripTrailingZeros().toPlainString()).orElse("");
      return new LineView(
          l.id(),
          l.station(),
          Station.of(l.station()).map(Station::title).orElse(""),
          l.at(),
          l.author(),
          l.text(),
          amount,
          l.unit(),
          l.corrects().orElse(0L),
          corrected.contains(l.id()));
    }

    static List<LineView> of(List<LogLine> lines) {
      Set<Long> corrected = new HashSet<>();
      for (LogLine l : lines) l.corrects().ifPresent(corrected::add);
      return lines.stream().map(l -> of(l, corrected)).toList();
    }
  }

  record NewLine(
      int station,
      @NotNull @Size(max = 60) String author,
      @NotBlank @Size(max = 2000) String text) {
    String by() {
      return author.isBlank() ? "somebody" : author.strip();
    }
  }

  record LogHit(long job, String machine, LineView line) {}

  @GetMapping("/api/jobs/{job}/log")
  List<LineView> all(@PathVariable long job) {
    return LineView.of(log.of(jobs.of(job).id()));
  }

  @PostMapping("/api/jobs/{job}/log")
  @ResponseStatus(HttpStatus.CREATED)
  LineView write(@PathVariable long job, @RequestBody @Valid NewLine n) {
    jobs.of(job);
    return LineView.of(log.write(job, n.station(), n.by(), n.text().strip()), Set.of());
  }

  @PostMapping("/api/jobs/{job}/log/{line}/correction")
  @ResponseStatus(HttpStatus.CREATED)
  LineView correct(@PathVariable long job, @PathVariable long line, @RequestBody @Valid NewLine n) {
    return LineView.of(log.correct(job, line, n.by(), n.text().strip()), Set.of());
  }

  @GetMapping("/api/log")
  List<LogHit> search(@RequestParam String words) {
    if (words.length() > 200) throw new ShedException("Search with at most 200 characters.");
    List<LogLine> lines = log.search(words);
    Map<Long, String> machines =
        jobs.machines(lines.stream().map(LogLine::jobId).collect(Collectors.toSet()));
    return lines.stream()
        .map(l -> new LogHit(l.jobId(), machines.get(l.jobId()), LineView.of(l, Set.of())))
        .toList();
  }

  @GetMapping(path = "/api/jobs/{job}/log.md", produces = "text/markdown;charset=UTF-8")
  ResponseEntity<String> markdown(@PathVariable long job) {
    LoggedJobs.Logged j = jobs.of(job);
    StringBuilder out = new StringBuilder();
    out.append("# Logbook of ").append(plain(j.machine())).append("\n\n");
    out.append("> ").append(plain(j.fault())).append("\n\n");
    out.append("| at | station | by | line | reading |\n|---|---|---|---|---|\n");
    for (LineView l : LineView.of(log.whole(job))) {
      String text = plain(l.text());
      if (l.corrected()) text = "~~" + text + "~~ (corrected below)";
      if (l.corrects() > 0) text += " (a correction)";
      out.append(
          String.format(
              "| %s | %s | %s | %s | %s |%n",
              l.at(),
              l.stationName(),
              plain(l.author()),
              text,
              (l.amount() + " " + l.unit()).strip()));
    }
    return file(job, "md", out.toString());
  }

  @GetMapping(path = "/api/jobs/{job}/log.csv", produces = "text/csv;charset=UTF-8")
  ResponseEntity<String> csv(@PathVariable long job) {
    StringBuilder out = new StringBuilder();
    CSVFormat format =
        CSVFormat.RFC4180
            .builder()
            .setHeader("id", "at", "station", "by", "line", "amount", "unit", "corrects")
            .get();
    try (CSVPrinter p = new CSVPrinter(out, format)) {
      for (LineView l : LineView.of(log.whole(job))) {
        p.printRecord(
            l.id(),
            l.at(),
            l.stationName(),
            CsvText.safe(l.author()),
            CsvText.safe(l.text()),
            l.amount(),
            l.unit(),
            l.corrects() == 0 ? "" : l.corrects());
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return file(job, "csv", out.toString());
  }

  /** Text inside a table of Markdown. */
  private static String plain(String s) {
    return s.replace("\\", "\\\\").replace("|", "\\|").replaceAll("\\s+", " ");
  }

  private static ResponseEntity<String> file(long job, String kind, String text) {
    return ResponseEntity.ok()
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            "attachment; filename=\"job-" + job + "." + kind + "\"")
        .body(text);
  }
}
