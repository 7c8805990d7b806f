package lanternshed.server.archive;

import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import lanternshed.core.measure.ShedException;
import lanternshed.server.errands.ErrandView;
import lanternshed.server.errands.Errands;
import lanternshed.server.shell.RawBody;
import lanternshed.server.shell.Shelf;
import lanternshed.server.shell.Transfers;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.StreamingResponseBody;

/** A whole job as one file, out and in. */
@RestController
@RequestMapping("/api/jobs")
class ArchiveController {
  private final ArchiveOut archive;
  private final ArchiveIn taking;
  private final Errands errands;
  private final Shelf shelf;

  ArchiveController(ArchiveOut archive, ArchiveIn taking, Errands errands, Shelf shelf) {
    this.archive = archive;
    this.taking = taking;
    this.errands = errands;
    this.shelf = shelf;
  }

  @GetMapping("/{id}/archive/parts")
  ArchiveView parts(@PathVariable long id) {
    return archive.view(id);
  }

  /**
   * @param images whose bytes come along
   */
  @GetMapping("/{id}/archive")
  ResponseEntity<StreamingResponseBody> out(
      @PathVariable long id, @RequestParam(defaultValue = "") List<Long> images) {
    archive.view(id);
    return Transfers.attachment("job-" + id + ".zip")
        .body(Transfers.whole(out -> archive.write(id, Set.copyOf(images), out)));
  }

  /** The body is the archive itself; it is received first, and then looked through. */
  @RawBody
  @PostMapping(path = "/archive", consumes = MediaType.APPLICATION_OCTET_STREAM_VALUE)
  @ResponseStatus(HttpStatus.ACCEPTED)
  ErrandView in(HttpServletRequest request) throws IOException {
    long length = request.getContentLengthLong();
    if (length < 0) {
      throw new ShedException("An archive comes with its length, so that room is known for it.");
    }
    shelf.needRoom(length);
    Path half = shelf.freshHalf();
    try {
      shelf.receive(request.getInputStream(), half, length, "archive");
    } catch (IOException | RuntimeException e) {
      shelf.remove(half);
      throw e;
    }
    return errands.begin(
        "archive " + UUID.randomUUID(),
        progress -> {
          try {
            return taking.takeIn(half, progress);
          } finally {
            shelf.remove(half);
          }
        });
  }
}
