package lanternshed.server.work;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.security.SecureRandom;
import lanternshed.core.work.Wipe;
import lanternshed.server.media.MediaService;
import lanternshed.server.media.MediumEntity;
import lanternshed.server.shell.Json;
import lanternshed.server.shell.Shelf;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Z-3: whether a medium may be wiped, and the order to do it. */
@RestController
@RequestMapping("/api/media/{id}/wipe")
class WipeController {
  private static final int KEY = 16;
  private final WorkService work;
  private final MediaService media;
  private final WipeGuard guard;
  private final Shelf shelf;
  private final SecureRandom random = new SecureRandom();

  WipeController(WorkService work, MediaService media, WipeGuard guard, Shelf shelf) {
    this.shelf = shelf;
    this.work = work;
    this.media = media;
    this.guard = guard;
  }

  /**
   * @param whole every sector is read back; else a sample
   * @param by who does it, for the certificate; may be empty
   * @param nothingNeeded whether they looked at what is on it and nobody needs that; absent for no
   */
  record WipeOrder(
      @NotNull @Size(max = 40) String confirm,
      @NotNull Wipe.School school,
      boolean whole,
      @NotNull @Size(max = 80) String by,
      Boolean nothingNeeded) {}

  @GetMapping
  WipeGuard.WipeCheck check(@PathVariable long id) {
    return guard.check(media.get(id));
  }

  @PostMapping
  @ResponseStatus(HttpStatus.ACCEPTED)
  WorkView wipe(@PathVariable long id, @RequestBody @Valid WipeOrder order) {
    MediumEntity m = media.get(id);
    boolean nothingNeeded = Boolean.TRUE.equals(order.nothingNeeded());
    guard.pass(m, order.confirm(), nothingNeeded);
    // A stand-in is a file with holes: noise fills them.
    if (!m.real()) shelf.needRoom(m.sectors() * 512);
    byte[] key = new byte[KEY];
    random.nextBytes(key);
    String by = order.by().replaceAll("\\p{Cntrl}", " ").strip();
    WipeBench.Wish wish =
        new WipeBench.Wish(Wipe.Order.of(order.school(), order.whole(), key), by, nothingNeeded);
    return work.view(
        work.begin(WorkEntity.Kind.WIPE, null, id, m.sectors() * 512, Json.write(wish)).id());
  }
}
