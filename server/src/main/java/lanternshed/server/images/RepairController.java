package lanternshed.server.images;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.survey.Survey;
import lanternshed.core.survey.Volumes;
import lanternshed.core.volume.fat.FatRepair;
import lanternshed.core.volume.fat.FatVolume;
import lanternshed.core.work.Digests;
import lanternshed.core.work.Progress;
import lanternshed.server.errands.ErrandView;
import lanternshed.server.errands.Errands;
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
  private static final int BLOCK = 2048;
  private final ImageService images;
  private final Shelf shelf;
  private final Errands errands;

  RepairController(ImageService images, Shelf shelf, Errands errands) {
    this.images = images;
    this.shelf = shelf;
    this.errands = errands;
  }

  @GetMapping
  List<Finding> plan(@PathVariable long id, @RequestParam int volume) {
    ImageEntity image = images.get(id);
    try (Medium m = images.open(image)) {
      return FatRepair.plan(FatVolume.open(slice(m, found(image, volume)))).changes();
    }
  }

  /** Begins to make the mended copy; the image itself stays as it is. */
  @PostMapping
  @ResponseStatus(HttpStatus.ACCEPTED)
  ErrandView mend(@PathVariable long id, @RequestParam int volume) {
    ImageEntity image = images.get(id);
    Survey.Found v = found(image, volume);
    if (plan(id, volume).isEmpty()) {
      throw new ShedException("There is nothing to mend on this volume.");
    }
    shelf.needRoom(image.sectors() * 512);
    return errands.begin(
        "mend " + image.sha256() + " " + volume, progress -> mended(image, v, progress));
  }

  private Errands.Made mended(ImageEntity image, Survey.Found v, Progress progress)
      throws IOException {
    Path half = shelf.freshHalf();
    try {
      Digests digests;
      int changes;
      try (Medium from = images.open(image);
          FileMedium to = FileMedium.create(half, image.sectors())) {
        FatRepair r = FatRepair.plan(FatVolume.open(slice(from, v)));
        changes = r.changes().size();
        copy(from, to, progress);
        r.apply(slice(to, v));
        to.flush();
        digests = Digests.of(to, progress, "digesting");
      }
      ImageEntity mended =
          images.keep(
              half,
              image.name() + ", mended copy",
              digests,
              image.sectors(),
              "a copy with " + Say.plural(changes, "change", "changes"),
              image.lost(),
              image.hits());
      return new Errands.Made(mended.id());
    } finally {
      Files.deleteIfExists(half);
    }
  }

  /** Zeros stay holes of the file. */
  private static void copy(Medium from, Medium to, Progress progress) {
    byte[] b = new byte[BLOCK * 512];
    for (long s = 0; s < from.sectors(); s += BLOCK) {
      int n = (int) Math.min(BLOCK, from.sectors() - s);
      from.read(s, n, b, 0);
      if (!Bytes.allZero(b, 0, n * 512)) to.write(s, n, b, 0);
      progress.at("copying", (s + n) * 512, from.bytes());
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
    return Volumes.slice(m, v.start(), v.length());
  }
}
