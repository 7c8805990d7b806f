package lanternshed.server.files;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.util.List;
import lanternshed.core.measure.Say;
import lanternshed.server.jobs.JobService;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/**
 * Files from a desktop, one at a time: what has come is known by path, length and time, so that a
 * folder dropped a second time goes on where it was cut off.
 */
@RestController
@RequestMapping("/api/jobs/{job}/files")
class BroughtController {
  private final BroughtService files;
  private final JobService jobs;

  BroughtController(BroughtService files, JobService jobs) {
    this.files = files;
    this.jobs = jobs;
  }

  record FileView(String path, long bytes, String time) {}

  /**
   * @param sum how many and how much, in words
   */
  record Brought(long count, long bytes, String sum, List<FileView> rows) {}

  record Counted(int files) {}

  @GetMapping
  Brought all(@PathVariable long job) {
    jobs.get(job);
    List<FileView> rows = files.of(job).stream().map(BroughtController::view).toList();
    long bytes = rows.stream().mapToLong(FileView::bytes).sum();
    return new Brought(
        rows.size(),
        bytes,
        Say.plural(rows.size(), "file", "files") + ", " + Say.size(bytes),
        rows);
  }

  private static FileView view(BroughtEntity f) {
    return new FileView(f.path(), f.bytes(), f.time());
  }

  @PutMapping(consumes = MediaType.APPLICATION_OCTET_STREAM_VALUE)
  FileView take(
      @PathVariable long job,
      @RequestParam @NotBlank @Size(max = 1200) String path,
      @RequestParam(defaultValue = "") @Size(max = 30) String time,
      HttpServletRequest request)
      throws IOException {
    return view(
        files.take(job, path, time, request.getInputStream(), request.getContentLengthLong()));
  }

  /** A file or a folder goes out of the job; it can come back. */
  @DeleteMapping
  Counted remove(@PathVariable long job, @RequestParam @NotBlank @Size(max = 1200) String path) {
    return new Counted(files.remove(job, path, true));
  }

  @PostMapping("/back")
  Counted back(@PathVariable long job, @RequestParam @NotBlank @Size(max = 1200) String path) {
    return new Counted(files.remove(job, path, false));
  }
}
