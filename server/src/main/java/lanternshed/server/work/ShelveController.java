package lanternshed.server.work;

import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Copy;
import lanternshed.core.medium.Medium;
import lanternshed.server.errands.ErrandView;
import lanternshed.server.errands.Errands;
import lanternshed.server.images.ImageService;
import lanternshed.server.media.MediaService;
import lanternshed.server.media.MediumEntity;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** An image that was brought in goes on the shelf as it is, without a job: there is no drive. */
@RestController
class ShelveController {
  private final MediaService media;
  private final ImageService images;
  private final Errands errands;

  ShelveController(MediaService media, ImageService images, Errands errands) {
    this.media = media;
    this.images = images;
    this.errands = errands;
  }

  @PostMapping("/api/media/{id}/image")
  @ResponseStatus(HttpStatus.ACCEPTED)
  ErrandView shelve(@PathVariable long id) {
    MediumEntity m = media.get(id);
    if (m.kind() != MediumEntity.Kind.FILE) {
      throw new ShedException(
          m.name() + " is no image that was brought in; a drive is rescued in a job.");
    }
    return errands.begin(
        "shelve " + m.id(),
        progress -> {
          try (Medium from = media.open(m)) {
            return new Errands.Made(
                images
                    .make(
                        m.name(),
                        from.sectors(),
                        ImageService.Source.of(m.name()),
                        to -> Copy.all(from, to, (n, all) -> progress.at("copying", n, all)),
                        progress)
                    .id());
          }
        });
  }
}
