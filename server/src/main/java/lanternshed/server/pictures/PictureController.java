package lanternshed.server.pictures;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.time.Duration;
import java.util.List;
import lanternshed.server.pictures.PictureService.Mark;
import lanternshed.server.pictures.PictureService.PictureView;
import lanternshed.server.shell.RawBody;
import org.springframework.core.io.FileSystemResource;
import org.springframework.core.io.Resource;
import org.springframework.http.CacheControl;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Pictures of a job; they come as a plain body, streamed. */
@RestController
class PictureController {
  private final PictureService pictures;

  PictureController(PictureService pictures) {
    this.pictures = pictures;
  }

  record Marks(@NotNull @Size(max = 99) List<@Valid Mark> fasteners) {}

  @GetMapping("/api/jobs/{job}/pictures")
  List<PictureView> all(@PathVariable long job) {
    return pictures.of(job);
  }

  @PostMapping(
      path = "/api/jobs/{job}/pictures",
      consumes = MediaType.APPLICATION_OCTET_STREAM_VALUE)
  @ResponseStatus(HttpStatus.CREATED)
  @RawBody
  PictureView add(
      @PathVariable long job,
      @RequestParam String place,
      @RequestParam String name,
      HttpServletRequest request)
      throws IOException {
    return pictures.add(job, place, name, request.getInputStream());
  }

  @GetMapping(path = "/api/pictures/{id}", produces = MediaType.IMAGE_JPEG_VALUE)
  ResponseEntity<Resource> picture(
      @PathVariable long id, @RequestParam(defaultValue = "false") boolean small) {
    return ResponseEntity.ok()
        .cacheControl(CacheControl.maxAge(Duration.ofDays(365)).cachePrivate().immutable())
        .body(new FileSystemResource(pictures.file(id, small)));
  }

  @PutMapping("/api/pictures/{id}/fasteners")
  PictureView mark(@PathVariable long id, @RequestBody @Valid Marks marks) {
    return pictures.mark(id, marks.fasteners());
  }

  @DeleteMapping("/api/pictures/{id}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void remove(@PathVariable long id, @RequestParam boolean undo) {
    pictures.remove(id, !undo);
  }
}
