package lanternshed.server.images;

import jakarta.persistence.EntityNotFoundException;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.work.LostVolumes;
import lanternshed.core.work.Progress;
import lanternshed.server.errands.ErrandView;
import lanternshed.server.errands.Errands;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Looks for volumes without a table, and makes a copy on which a table names them. */
@RestController
@RequestMapping("/api/images/{id}/lost-volumes")
class LostVolumesController {
  private final ImageService images;
  private final Copies copies;
  private final Errands errands;

  LostVolumesController(ImageService images, Copies copies, Errands errands) {
    this.images = images;
    this.copies = copies;
    this.errands = errands;
  }

  /** What was found; most useful first is the order on the medium. */
  record LostList(List<LostVolumes.Found> found) {}

  /**
   * @param starts first sectors of those that go into the table
   */
  record Chosen(@NotNull @Size(min = 1, max = 4) List<Long> starts) {}

  @PostMapping
  @ResponseStatus(HttpStatus.ACCEPTED)
  ErrandView look(@PathVariable long id) {
    ImageEntity image = images.get(id);
    return errands.begin(
        key(image),
        progress -> {
          try (Medium m = images.open(image)) {
            return new LostList(LostVolumes.find(m, progress));
          }
        });
  }

  @GetMapping
  LostList found(@PathVariable long id) {
    return errands
        .found(key(images.get(id)), LostList.class)
        .orElseThrow(() -> new EntityNotFoundException("Nobody looked for volumes here yet."));
  }

  @PostMapping("/table")
  @ResponseStatus(HttpStatus.ACCEPTED)
  ErrandView table(@PathVariable long id, @RequestBody @Valid Chosen chosen) {
    ImageEntity image = images.get(id);
    List<LostVolumes.Found> picked =
        found(id).found().stream().filter(f -> chosen.starts().contains(f.start())).toList();
    if (picked.size() != chosen.starts().stream().distinct().count()) {
      throw new ShedException("One of these is no volume that was found; look again and choose.");
    }
    return errands.begin(
        "table " + image.sha256() + " " + chosen.starts(),
        progress -> tabled(image, picked, progress));
  }

  private Errands.Made tabled(
      ImageEntity image, List<LostVolumes.Found> picked, Progress progress) {
    return copies.make(
        image,
        "with a table",
        "a copy with a table of " + Say.plural(picked.size(), "volume", "volumes"),
        (from, to) -> LostVolumes.restore(to, picked),
        progress);
  }

  private static String key(ImageEntity image) {
    return "lost volumes " + image.sha256();
  }
}
