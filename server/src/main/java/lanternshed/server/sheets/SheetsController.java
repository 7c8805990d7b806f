package lanternshed.server.sheets;

import jakarta.validation.constraints.Size;
import lanternshed.core.transfer.SerialLine;
import lanternshed.server.jobs.JobService;
import lanternshed.server.jobs.JobView;
import lanternshed.server.paper.Paper;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Hands out the sheets of a job, of a ROM, and of a serial line. */
@RestController
class SheetsController {
  private final JobService jobs;
  private final RecordSheet record;
  private final LabelSheet label;
  private final BenchSheet bench;
  private final PlanSheet plan;
  private final LogSheet log;
  private final RomSheet rom;
  private final LineSheet line;

  SheetsController(
      JobService jobs,
      RecordSheet record,
      LabelSheet label,
      BenchSheet bench,
      PlanSheet plan,
      LogSheet log,
      RomSheet rom,
      LineSheet line) {
    this.line = line;
    this.rom = rom;
    this.plan = plan;
    this.log = log;
    this.bench = bench;
    this.jobs = jobs;
    this.record = record;
    this.label = label;
  }

  @GetMapping("/api/jobs/{id}/record.pdf")
  ResponseEntity<byte[]> record(
      @PathVariable long id, @RequestParam(defaultValue = "A4") Paper paper) {
    return pdf("job-" + id + "-record", record.of(job(id), paper));
  }

  @GetMapping("/api/jobs/{id}/label.pdf")
  ResponseEntity<byte[]> label(@PathVariable long id) {
    return pdf("job-" + id + "-label", label.of(job(id)));
  }

  @GetMapping("/api/jobs/{id}/bench.pdf")
  ResponseEntity<byte[]> bench(
      @PathVariable long id, @RequestParam(defaultValue = "A4") Paper paper) {
    return pdf("job-" + id + "-bench", bench.of(jobs.get(id), job(id).fitting(), paper));
  }

  @GetMapping("/api/jobs/{id}/plan.pdf")
  ResponseEntity<byte[]> plan(
      @PathVariable long id, @RequestParam(defaultValue = "A4") Paper paper) {
    return pdf("job-" + id + "-plan", plan.of(jobs.get(id), paper));
  }

  @GetMapping("/api/jobs/{id}/log.pdf")
  ResponseEntity<byte[]> log(
      @PathVariable long id, @RequestParam(defaultValue = "A4") Paper paper) {
    return pdf("job-" + id + "-log", log.of(job(id), paper));
  }

  @GetMapping("/api/roms/{id}/label.pdf")
  ResponseEntity<byte[]> romLabel(@PathVariable long id) {
    return pdf("rom-" + id + "-label", rom.label(id));
  }

  @GetMapping("/api/roms/{id}/fitting.pdf")
  ResponseEntity<byte[]> romFitting(
      @PathVariable long id, @RequestParam(defaultValue = "A4") Paper paper) {
    return pdf("rom-" + id + "-fitting", rom.fitting(id, paper));
  }

  @GetMapping("/api/reckoner/roads/steps.pdf")
  ResponseEntity<byte[]> lineSteps(
      @RequestParam SerialLine.Protocol protocol,
      @RequestParam int rate,
      @RequestParam @Size(max = 20) String end,
      @RequestParam boolean toMachine,
      @RequestParam(defaultValue = "A4") Paper paper) {
    SerialLine l = new SerialLine(protocol, rate, 10, 50, 0);
    return pdf("line", line.of(l, end, toMachine, paper));
  }

  private JobView job(long id) {
    return jobs.view(jobs.get(id));
  }

  private static ResponseEntity<byte[]> pdf(String name, byte[] sheet) {
    return ResponseEntity.ok()
        .header(HttpHeaders.CONTENT_DISPOSITION, "inline; filename=\"" + name + ".pdf\"")
        .contentType(MediaType.APPLICATION_PDF)
        .body(sheet);
  }
}
