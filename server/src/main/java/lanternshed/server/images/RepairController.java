package lanternshed.server.images;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.survey.Survey;
import lanternshed.core.volume.fat.FatRepair;
import lanternshed.core.volume.fat.FatVolume;
import lanternshed.core.work.Digests;
import lanternshed.core.work.Progress;
import lanternshed.server.shell.Shelf;
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
  private final Shelf shelf;

  RepairController(ImageService images, Shelf shelf) {
    this.images = images;
    this.shelf = shelf;
  }

  record Mended(long image, List<Finding> changes) {}

  @GetMapping
  List<Finding> plan(@PathVariable long id, @RequestParam int volume) {
    ImageEntity image = images.get(id);
    try (Medium m = images.open(image)) {
      return FatRepair.plan(FatVolume.open(slice(m, found(image, volume)))).changes();
    }
  }

  @PostMapping
  @ResponseStatus(HttpStatus.CREATED)
  Mended mend(@PathVariable long id, @RequestParam int volume) throws IOException {
    ImageEntity image = images.get(id);
    Survey.Found v = found(image, volume);
    shelf.needRoom(image.sectors() * 512);
    Path half = shelf.freshHalf();
    try {
      Files.copy(shelf.image(image.sha256()), half);
      List<Finding> changes;
      Digests digests;
      try (Medium from = images.open(image);
          FileMedium to = FileMedium.openWritable(half)) {
        FatRepair r = FatRepair.plan(FatVolume.open(slice(from, v)));
        changes = r.changes();
        if (changes.isEmpty()) throw new ShedException("There is nothing to mend on this volume.");
        r.apply(slice(to, v));
        to.flush();
        digests = Digests.of(to, Progress.NONE, "digesting");
      }
      ImageEntity mended =
          images.keep(
              half,
              image.name() + ", mended copy",
              digests,
              image.sectors(),
              "a copy with " + Say.plural(changes.size(), "change", "changes"),
              image.lost(),
              image.hits());
      return new Mended(mended.id(), changes);
    } finally {
      Files.deleteIfExists(half);
    }
  }

  private Survey.Found found(ImageEntity image, int volume) {
    return images.survey(image).volumes().stream()
        .filter(v -> v.number() == volume && v.readable() && v.kind().startsWith("FAT"))
        .findFirst()
        .orElseThrow(
            () ->
                new ShedException("Only volumes of FAT are mended; this one is not of that kind."));
  }

  private static Medium slice(Medium m, Survey.Found v) {
    return new SliceMedium(m, v.start(), Math.min(v.length(), m.sectors() - v.start()));
  }
}
