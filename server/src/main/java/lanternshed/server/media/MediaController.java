package lanternshed.server.media;

import io.swagger.v3.oas.annotations.Parameter;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Geometry;
import lanternshed.core.work.Progress;
import lanternshed.server.errands.ErrandView;
import lanternshed.server.errands.Errands;
import lanternshed.server.shell.Shelf;
import lanternshed.server.shell.Transfers;
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

/** Media, and bringing one's own in. */
@RestController
@RequestMapping("/api/media")
class MediaController {
  private final MediaService media;
  private final Shelf shelf;
  private final Errands errands;
  private final Readers readers;

  MediaController(MediaService media, Shelf shelf, Errands errands, Readers readers) {
    this.readers = readers;
    this.media = media;
    this.shelf = shelf;
    this.errands = errands;
  }

  record Incoming(String folder, List<String> names) {}

  record IncomingChoice(@NotBlank @Size(max = 255) String name) {}

  /**
   * @param card whether new images go on it; else it is an original and only read
   */
  record DeviceChoice(
      @NotBlank @Size(max = 255) String node,
      @NotBlank @Size(max = 120) String name,
      Boolean card) {}

  /**
   * A card for the drawer: a stand-in whose file lies on the shelf.
   *
   * @param labelMegabytes what stands on it, in decimal megabytes
   * @param sectors its true count where it was measured; 0 where only the label is known
   * @param joint the connector that it is made for, by its key; absent or "" where it is not known
   * @param cylinders with heads and sectors a track what it answers by itself; 0 where not known
   */
  record NewCard(
      @NotBlank @Size(max = 120) String name,
      @NotNull @Pattern(regexp = "[A-Za-z0-9-]{4,40}") String serial,
      @Min(1) @Max(2_000_000) long labelMegabytes,
      @Min(0) @Max(1L << 32) long sectors,
      @Size(max = 40) String joint,
      @Min(0) @Max(16_383) Integer cylinders,
      @Min(0) @Max(255) Integer heads,
      @Min(0) @Max(63) Integer perTrack) {

    /** Known only where all three are. */
    Optional<Geometry> own() {
      boolean known = positive(cylinders) && positive(heads) && positive(perTrack);
      return known ? Optional.of(new Geometry(cylinders, heads, perTrack)) : Optional.empty();
    }

    private static boolean positive(Integer n) {
      return n != null && n > 0;
    }
  }

  record NewName(@NotBlank @Size(max = 120) String name) {}

  @PutMapping("/{id}")
  MediumView rename(@PathVariable long id, @RequestBody @Valid NewName n) {
    return MediumView.of(media.rename(id, n.name()));
  }

  /** A connector by its key; "" for not known. */
  record NewJoint(@NotNull @Size(max = 40) String joint) {}

  @PutMapping("/{id}/joint")
  MediumView joint(@PathVariable long id, @RequestBody @Valid NewJoint n) {
    return MediumView.of(media.joint(id, n.joint()));
  }

  @DeleteMapping("/{id}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void remove(@PathVariable long id) {
    media.remove(id, true);
  }

  @PostMapping("/{id}/back")
  MediumView back(@PathVariable long id) {
    return MediumView.of(media.remove(id, false));
  }

  @GetMapping
  List<MediumView> all() {
    return media.all().stream().map(MediumView::of).toList();
  }

  /** The body is the image itself, so that it streams to disk whatever its size. */
  @PostMapping("/upload")
  @ResponseStatus(HttpStatus.CREATED)
  MediumView upload(@RequestParam String name, @Parameter(hidden = true) HttpServletRequest request)
      throws IOException {
    return MediumView.of(
        media.takeIn(
            name, request.getInputStream(), request.getContentLengthLong(), Progress.NONE));
  }

  @PostMapping("/cards")
  @ResponseStatus(HttpStatus.CREATED)
  MediumView card(@RequestBody @Valid NewCard c) {
    return MediumView.of(
        media.addCard(
            c.name().strip(),
            c.serial(),
            c.labelMegabytes() * 1_000_000,
            c.sectors(),
            Optional.ofNullable(c.joint()).orElse(""),
            c.own()));
  }

  /** What is on a card now, packed: W-3's backup before it is overwritten. */
  @GetMapping("/{id}")
  MediumView one(@PathVariable long id) {
    return MediumView.of(media.get(id));
  }

  @GetMapping("/{id}/download")
  ResponseEntity<StreamingResponseBody> backup(@PathVariable long id) {
    MediumEntity m = media.get(id);
    return ResponseEntity.ok()
        .header("Content-Disposition", "attachment; filename=\"" + m.serial() + ".img.gz\"")
        .contentType(MediaType.APPLICATION_OCTET_STREAM)
        .body(Transfers.whole(out -> media.pack(m, out)));
  }

  @GetMapping("/devices")
  List<Readers.ReaderView> devices() {
    return readers.all();
  }

  record OnIt(String text) {}

  @GetMapping("/devices/look")
  OnIt look(@RequestParam @Size(max = 255) String node) {
    return new OnIt(readers.on(node));
  }

  @PostMapping("/devices")
  @ResponseStatus(HttpStatus.CREATED)
  MediumView device(@RequestBody @Valid DeviceChoice c) {
    return MediumView.of(media.addDevice(c.node(), c.name(), Boolean.TRUE.equals(c.card())));
  }

  @GetMapping("/incoming")
  Incoming incoming() {
    return new Incoming(shelf.incomingFolder().toString(), shelf.incoming());
  }

  @PostMapping("/incoming")
  @ResponseStatus(HttpStatus.ACCEPTED)
  ErrandView take(@RequestBody @Valid IncomingChoice choice) {
    shelf.incoming(choice.name());
    return errands.begin(
        "incoming " + choice.name(),
        progress -> new Errands.Made(media.takeIncoming(choice.name(), progress).id()));
  }
}
