package lanternshed.server.images;

import java.util.List;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.survey.Survey;
import lanternshed.core.survey.Volumes;
import lanternshed.core.volume.Mending;
import lanternshed.core.work.Progress;
import lanternshed.server.errands.ErrandView;
import lanternshed.server.errands.Errands;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Mends a copy of an image: first the list of changes, then the copy with exactly these. */
@RestController
@RequestMapping("/api/images/{id}/repair")
class RepairController {
  private final ImageService images;
  private final Copies copies;
  private final Errands errands;

  RepairController(ImageService images, Copies copies, Errands errands) {
    this.images = images;
    this.copies = copies;
    this.errands = errands;
  }

  @GetMapping
  List<Finding> plan(@PathVariable long id, @RequestParam int volume) {
    ImageEntity image = images.get(id);
    try (Medium m = images.open(image)) {
      return mending(m, found(image, volume)).changes();
    }
  }

  /** Begins to make the mended copy; the image itself stays as it is. */
  @PostMapping
  @ResponseStatus(HttpStatus.ACCEPTED)
  ErrandView mend(@PathVariable long id, @RequestParam int volume) {
    ImageEntity image = images.get(id);
    Survey.Found v = found(image, volume);
    int changes = plan(id, volume).size();
    if (changes == 0) throw new ShedException("There is nothing to mend on this volume.");
    return errands.begin(
        "mend " + image.sha256() + " " + volume, progress -> mended(image, v, changes, progress));
  }

  private Errands.Made mended(ImageEntity image, Survey.Found v, int changes, Progress progress) {
    return copies.make(
        image,
        "mended copy",
        "a copy with " + Say.plural(changes, "change", "changes"),
        (from, to) -> mending(from, v).apply(slice(to, v)),
        progress);
  }

  private Survey.Found found(ImageEntity image, int volume) {
    return images.survey(image).volumes().stream()
        .filter(v -> v.number() == volume && v.readable())
        .findFirst()
        .orElseThrow(() -> new ShedException("Volume " + volume + " is not there or not read."));
  }

  private static Mending mending(Medium m, Survey.Found v) {
    return Volumes.at(m, v.number())
        .volume()
        .mending()
        .orElseThrow(() -> new ShedException("Volumes of " + v.kind() + " are not mended here."));
  }

  private static Medium slice(Medium m, Survey.Found v) {
    return Volumes.slice(m, v.start(), v.length());
  }
}
