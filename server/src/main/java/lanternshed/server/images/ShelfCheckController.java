package lanternshed.server.images;

import jakarta.persistence.EntityNotFoundException;
import java.util.ArrayList;
import java.util.List;
import lanternshed.core.measure.Say;
import lanternshed.core.work.Progress;
import lanternshed.server.errands.ErrandView;
import lanternshed.server.errands.Errands;
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
  private final Errands errands;

  ShelfCheckController(ImageService images, Errands errands) {
    this.images = images;
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
      images.spoiled(i, progress).ifPresent(why -> spoiled.add(new Spoiled(i.id(), i.name(), why)));
    }
    return new ShelfReport(
        all.size(),
        spoiled,
        spoiled.isEmpty()
            ? "All " + Say.plural(all.size(), "image is", "images are") + " what was kept."
            : Say.plural(spoiled.size(), "image is", "images are")
                + " not what was kept any more. Bring a good copy in again; it takes its place.");
  }
}
