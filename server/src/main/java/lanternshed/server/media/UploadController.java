package lanternshed.server.media;

import io.swagger.v3.oas.annotations.Hidden;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.io.InputStream;
import java.time.Duration;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.work.Progress;
import lanternshed.server.errands.ErrandView;
import lanternshed.server.errands.Errands;
import lanternshed.server.shell.Settings;
import lanternshed.server.shell.Shelf;
import me.desair.tus.server.TusFileUploadService;
import me.desair.tus.server.exception.TusException;
import me.desair.tus.server.exception.UploadAlreadyLockedException;
import me.desair.tus.server.upload.UploadInfo;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.server.ResponseStatusException;

/**
 * Uploads that may be cut off and go on, by the open tus protocol 1.0: what has come stays on the
 * shelf, over a restart too, until it is whole and taken in.
 */
@RestController
class UploadController {
  private static final long A_WEEK = 7L * 24 * 3600 * 1000;
  private static final Duration SWEEP_EVERY = Duration.ofMinutes(10);
  private final TusFileUploadService uploads;
  private final MediaService media;
  private final Errands errands;
  private final Shelf shelf;
  private final long most;
  private volatile long swept;

  UploadController(Settings settings, Shelf shelf, MediaService media, Errands errands) {
    this.errands = errands;
    this.media = media;
    this.shelf = shelf;
    this.most = settings.mostUploadBytes();
    this.uploads =
        new TusFileUploadService()
            .withStoragePath(shelf.uploads().toString())
            .withUploadUri("/api/uploads")
            .withMaxUploadSize(settings.mostUploadBytes())
            .withUploadExpirationPeriod(A_WEEK);
  }

  record Whole(@NotBlank @Size(max = 400) String upload) {}

  @Hidden
  @RequestMapping({"/api/uploads", "/api/uploads/**"})
  void piece(HttpServletRequest request, HttpServletResponse response) throws IOException {
    boolean begins = request.getMethod().equals("POST");
    if (begins) announced(request.getHeader("Upload-Length"));
    uploads.process(request, response);
    // Afterwards: the first upload of all makes the folder that is swept.
    if (begins) sweep();
  }

  /** The length that a new upload announces must be one that can be kept, before a byte comes. */
  private void announced(String header) {
    long length;
    try {
      length = header == null ? 0 : Long.parseLong(header);
    } catch (NumberFormatException e) {
      length = Long.MAX_VALUE;
    }
    if (length < 1) {
      throw new ShedException("This file is empty; an image has at least one sector of 512 B.");
    }
    if (length > most) {
      throw new ShedException(
          "The file is larger than " + Say.size(most) + ", the bound that is set.");
    }
    shelf.needRoom(length);
  }

  /** What was begun and left lies for a week, then it is nobody's. */
  private void sweep() throws IOException {
    long now = System.nanoTime();
    if (swept != 0 && now - swept < SWEEP_EVERY.toNanos()) return;
    swept = now;
    uploads.cleanup();
  }

  /** Begins to take in an upload that is whole; until that is done, what came stays. */
  @PostMapping("/api/media/uploaded")
  @ResponseStatus(HttpStatus.ACCEPTED)
  ErrandView take(@RequestBody @Valid Whole whole) throws IOException {
    try {
      UploadInfo info = uploads.getUploadInfo(whole.upload());
      if (info == null) throw new ShedException("There is no such upload; send the file again.");
      if (info.isUploadInProgress()) {
        throw new ShedException(
            "This upload is not whole yet: "
                + info.getOffset()
                + " of "
                + info.getLength()
                + " bytes came. Let it go on.");
      }
      return errands.begin("upload " + whole.upload(), progress -> taken(whole, info, progress));
    } catch (TusException e) {
      throw unusable(e);
    }
  }

  private Errands.Made taken(Whole whole, UploadInfo info, Progress progress) throws IOException {
    try {
      MediumEntity m;
      try (InputStream in = uploads.getUploadedBytes(whole.upload())) {
        m = media.takeIn(info.getFileName(), in, info.getLength(), progress);
      }
      uploads.deleteUpload(whole.upload());
      return new Errands.Made(m.id());
    } catch (TusException e) {
      throw unusable(e);
    }
  }

  private static RuntimeException unusable(TusException e) {
    if (e instanceof UploadAlreadyLockedException) {
      return new ResponseStatusException(
          HttpStatus.LOCKED, "This upload is still being received; wait until it has come.", e);
    }
    return new ShedException("This upload cannot be taken in: " + e.getMessage() + ".", e);
  }
}
