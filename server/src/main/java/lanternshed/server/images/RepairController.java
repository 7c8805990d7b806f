package lanternshed.server.images;

import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import java.util.List;
import java.util.function.BiConsumer;
import lanternshed.core.boot.pc.PcBoot;
import lanternshed.core.catalogue.Opener;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.Mending;
import lanternshed.core.survey.Survey;
import lanternshed.core.survey.Volumes;
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
  private static final int TABLE = -1;
  private final ImageService images;
  private final Copies copies;
  private final Errands errands;

  RepairController(ImageService images, Copies copies, Errands errands) {
    this.images = images;
    this.copies = copies;
    this.errands = errands;
  }

  /**
   * What would be changed.
   *
   * @param volume its number, 0 where there is no table; −1 for the table itself
   */
  @GetMapping
  List<Finding> plan(@PathVariable long id, @RequestParam int volume) {
    ImageEntity image = images.get(id);
    try (Medium m = images.open(image)) {
      return volume == TABLE ? table(m).changes() : mending(m, found(image, volume)).changes();
    }
  }

  /** Begins to make the mended copy; the image itself stays as it is. */
  @PostMapping
  @ResponseStatus(HttpStatus.ACCEPTED)
  ErrandView mend(@PathVariable long id, @RequestParam int volume) {
    ImageEntity image = images.get(id);
    BiConsumer<Medium, Medium> change;
    if (volume == TABLE) {
      change = (from, to) -> table(from).apply(to);
    } else {
      Survey.Found v = found(image, volume);
      change = (from, to) -> mending(from, v).apply(slice(to, v));
    }
    int changes = plan(id, volume).size();
    if (changes == 0) throw new ShedException("There is nothing to mend here.");
    String origin = "a copy with " + Say.plural(changes, "change", "changes");
    return errands.begin(
        "mend " + image.sha256() + " " + volume,
        progress -> copies.make(image, "mended copy", origin, change, progress));
  }

  /** What would be changed so that it starts under so many heads and sectors a track. */
  @GetMapping("/start")
  List<Finding> start(
      @PathVariable long id,
      @RequestParam @Min(1) @Max(256) int heads,
      @RequestParam @Min(1) @Max(63) int sectors) {
    ImageEntity image = images.get(id);
    try (Medium m = images.open(image)) {
      return start(m, heads, sectors).changes();
    }
  }

  @PostMapping("/start")
  @ResponseStatus(HttpStatus.ACCEPTED)
  ErrandView mendStart(
      @PathVariable long id,
      @RequestParam @Min(1) @Max(256) int heads,
      @RequestParam @Min(1) @Max(63) int sectors) {
    ImageEntity image = images.get(id);
    int changes = start(id, heads, sectors).size();
    if (changes == 0) throw new ShedException("There is nothing to mend here.");
    String origin =
        "a copy for " + heads + " × " + sectors + ", " + Say.plural(changes, "change", "changes");
    return errands.begin(
        "start " + image.sha256() + " " + heads + " " + sectors,
        progress ->
            copies.make(
                image,
                "start mended",
                origin,
                (from, to) -> start(from, heads, sectors).apply(to),
                progress));
  }

  private static Mending start(Medium m, int heads, int sectors) {
    long cylinders = m.sectors() / ((long) heads * sectors);
    int most = (int) Math.max(1, Math.min(1024, cylinders));
    return new PcBoot().mending(m, new Geometry(most, heads, sectors)).orElseThrow();
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

  private static Mending table(Medium m) {
    return Opener.open(m, e -> false)
        .table()
        .flatMap(t -> t.scheme().mending(m))
        .orElseThrow(() -> new ShedException("The table of this image is not mended here."));
  }

  private static Medium slice(Medium m, Survey.Found v) {
    return Volumes.slice(m, v.start(), v.length());
  }
}
