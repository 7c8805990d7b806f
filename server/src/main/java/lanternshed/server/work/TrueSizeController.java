package lanternshed.server.work;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import lanternshed.server.media.MediaService;
import lanternshed.server.media.MediumEntity;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** W-6: how large a card really is; it is written over, so the guard stands before it. */
@RestController
@RequestMapping("/api/media/{id}/true-size")
class TrueSizeController {
  private final WorkService work;
  private final MediaService media;
  private final WriteGuard guard;

  TrueSizeController(WorkService work, MediaService media, WriteGuard guard) {
    this.work = work;
    this.media = media;
    this.guard = guard;
  }

  /**
   * @param full every sector; else a run at the start and one sector in each stride
   */
  record LookOrder(@NotNull @Size(max = 40) String confirm, boolean full) {}

  @GetMapping
  WriteGuard.WriteCheck check(@PathVariable long id) {
    return guard.check(media.get(id));
  }

  @PostMapping
  @ResponseStatus(HttpStatus.ACCEPTED)
  WorkView look(@PathVariable long id, @RequestBody @Valid LookOrder order) {
    MediumEntity m = media.get(id);
    guard.pass(m, order.confirm());
    String wish = order.full() ? TrueSizeBench.FULL : "";
    return work.view(work.begin(WorkEntity.Kind.TRUE_SIZE, null, id, 0, wish).id());
  }
}
