package lanternshed.server.sheets;

import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import lanternshed.server.images.ImageEntity;
import lanternshed.server.images.ImageService;
import lanternshed.server.jobs.JobView;
import lanternshed.server.media.MediaService;
import lanternshed.server.media.MediumEntity;
import lanternshed.server.paper.SheetPdf;
import org.springframework.stereotype.Component;

/**
 * A label for the card's box and for the machine: what it is, and the code that leads back here.
 */
@Component
class LabelSheet {
  /** What the usual label printers and the sheets of small labels both take. */
  static final float WIDE = 89;

  static final float HIGH = 36;
  static final float CODE = 28;

  /** Enough of a digest to tell images apart by eye; the code has all of it. */
  static final int DIGITS = 16;

  /** Of a line: two lines of the label at most. */
  private static final int LETTERS = 48;

  private final ImageService images;
  private final MediaService media;

  LabelSheet(ImageService images, MediaService media) {
    this.images = images;
    this.media = media;
  }

  byte[] of(JobView job) {
    Optional<ImageEntity> image =
        Stream.of(job.goldenId(), job.builtId(), job.rescuedId())
            .filter(i -> i > 0)
            .findFirst()
            .flatMap(images::known);
    List<String> lines = new ArrayList<>();
    lines.add(clipped(job.machine()));
    if (job.cardId() > 0) {
      MediumEntity card = media.get(job.cardId());
      lines.add(clipped(card.name()));
      if (!card.serial().isEmpty()) lines.add(clipped("serial " + card.serial()));
    }
    image.ifPresent(
        i -> {
          lines.add("SHA-256 " + i.sha256().substring(0, DIGITS) + "…");
          lines.add("image of " + LocalDate.ofInstant(i.created(), ZoneOffset.UTC));
        });
    lines.add("job " + job.id() + (job.closed() ? "" : ", not closed yet"));
    String code = "job " + job.id() + image.map(i -> "; sha256 " + i.sha256()).orElse("; no image");
    return SheetPdf.label(WIDE, HIGH, "Label of job " + job.id()).code(code, CODE, lines).done();
  }

  /** What has no room on a label is in the record of the job. */
  static String clipped(String text) {
    return text.length() <= LETTERS ? text : text.substring(0, LETTERS - 1) + "…";
  }
}
