package lanternshed.server.images;

import jakarta.persistence.EntityNotFoundException;
import java.nio.file.Files;
import java.util.ArrayList;
import java.util.List;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.work.Digests;
import lanternshed.core.work.Progress;
import lanternshed.server.errands.ErrandView;
import lanternshed.server.errands.Errands;
import lanternshed.server.shell.Shelf;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Reads every image of the shelf and holds it against its digest. */
@RestController
@RequestMapping("/api/shelf/check")
class ShelfCheckController {
  private static final String KEY = "shelf check";
  private final ImageService images;
  private final Shelf shelf;
  private final Errands errands;

  ShelfCheckController(ImageService images, Shelf shelf, Errands errands) {
    this.images = images;
    this.shelf = shelf;
    this.errands = errands;
  }

  /** An image that is not what was kept, and why. */
  record Spoiled(long image, String name, String why) {}

  /**
   * @param sentence what was found
   */
  record ShelfReport(long images, List<Spoiled> spoiled, String sentence) {}

  @PostMapping
  @ResponseStatus(HttpStatus.ACCEPTED)
  ErrandView begin() {
    return errands.beginAnew(KEY, this::check);
  }

  @GetMapping
  ShelfReport found() {
    return errands
        .found(KEY, ShelfReport.class)
        .orElseThrow(() -> new EntityNotFoundException("The shelf was not looked at yet."));
  }

  private ShelfReport check(Progress progress) {
    List<Spoiled> spoiled = new ArrayList<>();
    List<ImageEntity> all = images.everything();
    for (ImageEntity i : all) {
      String why = fault(i, progress);
      if (!why.isEmpty()) spoiled.add(new Spoiled(i.id(), i.name(), why));
    }
    return new ShelfReport(
        all.size(),
        spoiled,
        spoiled.isEmpty()
            ? "All " + Say.plural(all.size(), "image is", "images are") + " what was kept."
            : Say.plural(spoiled.size(), "image is", "images are")
                + " not what was kept any more. Bring a good copy in again; it takes its place.");
  }

  private String fault(ImageEntity i, Progress progress) {
    if (!Files.exists(shelf.image(i.sha256()))) return "its file is gone";
    try (Medium m = FileMedium.open(shelf.image(i.sha256()))) {
      if (m.sectors() != i.sectors()) {
        return "it has " + Say.sectors(m.sectors()) + " instead of " + Say.count(i.sectors());
      }
      Digests now = Digests.of(m, progress, "reading " + i.name());
      if (now.sha256().equals(i.sha256())) return "";
      int chunk = 0;
      while (chunk < i.chunks().size() && i.chunks().get(chunk).equals(now.chunks().get(chunk)))
        chunk++;
      return "it differs from its digest, first within the 16 MiB from "
          + Say.sectors((long) chunk * Digests.CHUNK_BYTES / 512)
          + " on";
    } catch (ShedException e) {
      return e.getMessage();
    }
  }
}
