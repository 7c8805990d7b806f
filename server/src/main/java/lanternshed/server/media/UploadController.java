package lanternshed.server.media;

import io.swagger.v3.oas.annotations.Hidden;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.io.InputStream;
import lanternshed.core.measure.ShedException;
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

  UploadController(Settings settings, Shelf shelf, MediaService media) {
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

  /** Takes in an upload that is whole. */
  @PostMapping("/api/media/uploaded")
  @ResponseStatus(HttpStatus.CREATED)
  MediumView take(@RequestBody Whole whole) throws IOException {
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
      MediumView taken;
      try (InputStream in = uploads.getUploadedBytes(whole.upload())) {
        taken = MediumView.of(media.takeIn(info.getFileName(), in, info.getLength()));
      }
      uploads.deleteUpload(whole.upload());
      return taken;
    } catch (TusException e) {
      throw new ShedException("This upload cannot be taken in: " + e.getMessage() + ".", e);
    }
  }
}
