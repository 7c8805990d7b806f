package lanternshed.server.crossing;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.io.OutputStream;
import java.security.MessageDigest;
import java.time.LocalDateTime;
import java.util.HexFormat;
import java.util.List;
import lanternshed.core.measure.Sha256;
import lanternshed.core.measure.ShedException;
import lanternshed.core.work.Stamp;
import lanternshed.server.errands.ErrandView;
import lanternshed.server.errands.Errands;
import lanternshed.server.shell.CsvText;
import lanternshed.server.shell.RawBody;
import lanternshed.server.shell.Transfers;
import org.apache.commons.compress.archivers.zip.ZipArchiveEntry;
import org.apache.commons.compress.archivers.zip.ZipArchiveOutputStream;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.StreamingResponseBody;

/** Crossings: begun, filled, looked at, carried, and taken out again under the old names. */
@RestController
@RequestMapping("/api/crossings")
class CrossingController {
  private final CrossingService crossings;
  private final Errands errands;

  CrossingController(CrossingService crossings, Errands errands) {
    this.crossings = crossings;
    this.errands = errands;
  }

  record NewCrossing(long image, @Min(0) int volume, @NotNull @Size(max = 20) String disk) {}

  record BegunCrossing(long id) {}

  record CrossingChoice(
      long version,
      @NotNull @Size(max = 20) String disk,
      @NotNull @Valid CrossingView.ChosenText choices) {}

  /**
   * @param in the file of it that is an image itself, "1/DRIVE1.IMG"; "" for the image
   * @param volume of which files are brought, and {@code folder} of it
   */
  record FromImage(
      long image,
      @NotNull @Size(max = 4096) String in,
      @NotNull CrossingService.Brings brings,
      @Min(0) int volume,
      @NotNull @Size(max = 1000) String folder) {}

  @GetMapping
  List<CrossingService.CrossingLine> all() {
    return crossings.lines();
  }

  @PostMapping
  @ResponseStatus(HttpStatus.CREATED)
  BegunCrossing begin(@RequestBody @Valid NewCrossing n) {
    return new BegunCrossing(crossings.begin(n.image(), n.volume(), n.disk()));
  }

  @GetMapping("/{id}")
  CrossingView one(@PathVariable long id) {
    return crossings.view(id);
  }

  @PutMapping("/{id}")
  CrossingView choose(@PathVariable long id, @RequestBody @Valid CrossingChoice c) {
    crossings.choose(id, c.version(), c.disk(), c.choices());
    return crossings.view(id);
  }

  @GetMapping("/{id}/text")
  CrossingView.TextPreview text(
      @PathVariable long id, @RequestParam @NotBlank @Size(max = 1200) String path) {
    return crossings.preview(id, path);
  }

  @DeleteMapping("/{id}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void remove(@PathVariable long id) {
    crossings.remove(id, true);
  }

  @PostMapping("/{id}/back")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void back(@PathVariable long id) {
    crossings.remove(id, false);
  }

  /** One file as it streams. */
  @RawBody
  @PutMapping(path = "/{id}/files", consumes = MediaType.APPLICATION_OCTET_STREAM_VALUE)
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void take(
      @PathVariable long id,
      @RequestParam @NotBlank @Size(max = 1200) String path,
      @RequestParam(defaultValue = "") @Size(max = 30) String time,
      HttpServletRequest request)
      throws IOException {
    crossings.take(id, path, time, request.getInputStream(), request.getContentLengthLong());
  }

  /** Begins to bring the files of another image. */
  @PostMapping("/{id}/from-image")
  @ResponseStatus(HttpStatus.ACCEPTED)
  ErrandView fromImage(@PathVariable long id, @RequestBody @Valid FromImage f) {
    return errands.begin(
        "bring " + id + " " + f,
        progress ->
            switch (f.brings()) {
              case FILES -> crossings.bring(id, f, progress);
              case WHOLE -> crossings.bringWhole(id, f.image());
              case DISKS -> crossings.bringDisks(id, f.image(), progress);
            });
  }

  /** Begins to carry the files over, as they were seen. */
  @PostMapping("/{id}/carry")
  @ResponseStatus(HttpStatus.ACCEPTED)
  ErrandView carry(@PathVariable long id, @RequestParam @Size(max = 64) String seal) {
    return errands.begin("carry " + id, progress -> crossings.carry(id, seal, progress));
  }

  record IntoLibrary(@Min(0) long library) {}

  /** Begins to put the disks of a set into a library. */
  @PostMapping("/{id}/library")
  @ResponseStatus(HttpStatus.ACCEPTED)
  ErrandView intoLibrary(@PathVariable long id, @RequestBody @Valid IntoLibrary into) {
    return errands.begin(
        "library of crossing " + id + " " + into.library(),
        progress -> crossings.intoLibrary(id, into.library(), progress));
  }

  /** T-6: what was tried of it on the machine. */
  @PostMapping("/{id}/tried")
  CrossingView tried(@PathVariable long id, @RequestBody @Valid CrossingService.TriedText text) {
    crossings.tried(id, text);
    return crossings.view(id);
  }

  @DeleteMapping("/{id}/tried/{number}")
  CrossingView untried(@PathVariable long id, @PathVariable long number) {
    crossings.untried(id, number);
    return crossings.view(id);
  }

  /** T-7: what went over, read from where it lies now, under the names that it had. */
  @GetMapping("/{id}/zip")
  ResponseEntity<StreamingResponseBody> zip(@PathVariable long id) {
    if (!crossings.view(id).carried()) throw new ShedException("These files did not go over yet.");
    return Transfers.attachment("crossing-" + id + ".zip")
        .body(Transfers.whole(out -> zip(id, out)));
  }

  private void zip(long id, OutputStream to) throws IOException {
    try (ZipArchiveOutputStream zip = new ZipArchiveOutputStream(to)) {
      crossings.went(
          id,
          (row, v, n) -> {
            ZipArchiveEntry entry = new ZipArchiveEntry(row.from());
            String time = Stamp.text(n);
            if (!time.isEmpty()) entry.setTimeLocal(LocalDateTime.parse(time));
            zip.putArchiveEntry(entry);
            MessageDigest digest = Sha256.fresh();
            Transfers.read(
                sink ->
                    v.read(
                        n,
                        (b, at, length) -> {
                          digest.update(b, at, length);
                          sink.take(b, at, length);
                        }),
                zip);
            zip.closeArchiveEntry();
            if (!HexFormat.of().formatHex(digest.digest()).equals(row.sha256())) {
              throw new ShedException(row.to() + " is not what went over.");
            }
          });
    }
  }

  /** The list of names, with the digests of the bytes: the catalogue of a set. */
  @GetMapping(path = "/{id}/list", produces = "text/csv")
  ResponseEntity<String> list(@PathVariable long id) throws IOException {
    CrossingView view = crossings.view(id);
    StringBuilder out = new StringBuilder();
    try (CSVPrinter csv = new CSVPrinter(out, CSVFormat.RFC4180)) {
      csv.printRecord(
          "disk", "as it was", "as it lies", "bytes", "sha256", "sha256 before", "what changed");
      for (CrossingView.CrossingRow r : view.laid().rows()) {
        csv.printRecord(
            r.disk() < 0 ? "stays" : CsvText.safe(view.laid().disks().get(r.disk()).name()),
            CsvText.safe(r.from()),
            CsvText.safe(r.to()),
            r.bytes(),
            r.sha256(),
            r.was(),
            CsvText.safe(r.says()));
      }
    }
    return Transfers.attachment("crossing-" + id + ".csv")
        .contentType(MediaType.parseMediaType("text/csv"))
        .body(out.toString());
  }
}
