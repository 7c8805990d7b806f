package lanternshed.server.media;

import io.swagger.v3.oas.annotations.Hidden;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.io.InputStream;
import lanternshed.core.measure.ShedException;
import lanternshed.core.work.Progress;
import lanternshed.server.errands.ErrandView;
import lanternshed.server.errands.Errands;
import lanternshed.server.shell.Settings;
import lanternshed.server.shell.Shelf;
import me.desair.tus.server.TusFileUploadService;
import me.desair.tus.server.exception.TusException;
import me.desair.tus.server.upload.UploadInfo;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/**
 * Uploads that may be cut off and go on, by the open tus protocol 1.0: what has come stays on the
 * shelf, over a restart too, until it is whole and taken in.
 */
@RestController
class UploadController {
  private static final long A_WEEK = 7L * 24 * 3600 * 1000;
  private final TusFileUploadService uploads;
  private final MediaService media;
  private final Errands errands;

  UploadController(Settings settings, Shelf shelf, MediaService media, Errands errands) {
    this.errands = errands;
    this.media = media;
    this.uploads =
        new TusFileUploadService()
            .withStoragePath(shelf.uploads().toString())
            .withUploadUri("/api/uploads")
            .withMaxUploadSize(settings.mostUploadBytes())
            .withUploadExpirationPeriod(A_WEEK);
  }

  record Whole(String upload) {}

  @Hidden
  @RequestMapping({"/api/uploads", "/api/uploads/**"})
  void piece(HttpServletRequest request, HttpServletResponse response) throws IOException {
    uploads.process(request, response);
  }

  /** Begins to take in an upload that is whole; until that is done, what came stays. */
  @PostMapping("/api/media/uploaded")
  @ResponseStatus(HttpStatus.ACCEPTED)
  ErrandView take(@RequestBody Whole whole) throws IOException {
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

  private static ShedException unusable(TusException e) {
    return new ShedException("This upload cannot be taken in: " + e.getMessage() + ".", e);
  }
}
