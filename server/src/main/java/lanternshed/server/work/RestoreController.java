package lanternshed.server.work;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;
import lanternshed.server.images.ImageEntity;
import lanternshed.server.images.ImageService;
import lanternshed.server.media.MediaService;
import lanternshed.server.media.MediumEntity;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** W-8: any image of the shelf on any card, as it is, without a job or a profile. */
@RestController
class RestoreController {
  private final WorkService work;
  private final ImageService images;
  private final MediaService media;
  private final WriteGuard guard;

  RestoreController(WorkService work, ImageService images, MediaService media, WriteGuard guard) {
    this.work = work;
    this.images = images;
    this.media = media;
    this.guard = guard;
  }

  /**
   * @param onlyChanges whether what the card holds already is left as it is (W-7); no where absent
   */
  record RestoreOrder(
      long mediumId, @NotNull @Size(max = 40) String confirm, Boolean onlyChanges) {}

  @GetMapping("/api/images/{id}/restore-check")
  WriteGuard.WriteCheck check(@PathVariable long id, @RequestParam long mediumId) {
    ImageEntity image = images.get(id);
    MediumEntity m = media.get(mediumId);
    return guard.check(image, m, cameFrom(image, m));
  }

  @PostMapping("/api/images/{id}/restore")
  @ResponseStatus(HttpStatus.ACCEPTED)
  WorkView restore(@PathVariable long id, @RequestBody @Valid RestoreOrder order) {
    ImageEntity image = images.get(id);
    MediumEntity m = media.get(order.mediumId());
    guard.pass(image, m, cameFrom(image, m), order.confirm());
    String held = WriteGuard.held(m, order.onlyChanges());
    long bytes = image.sectors() * 512;
    return work.view(work.begin(WorkEntity.Kind.RESTORE, id, m.id(), bytes, held).id());
  }

  /** A card that was read back may be written again; a drive that was rescued never is. */
  private static boolean cameFrom(ImageEntity image, MediumEntity m) {
    return !m.isCard() && image.origin().equals(m.name());
  }

  /** The last restores, the newest first. */
  @GetMapping("/api/restores")
  List<WorkView> restores() {
    return work.ofNoJob();
  }
}
