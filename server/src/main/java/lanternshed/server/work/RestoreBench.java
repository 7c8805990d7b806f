package lanternshed.server.work;

import lanternshed.core.measure.ShedException;
import lanternshed.core.work.CardWriter;
import lanternshed.core.work.Progress;
import lanternshed.server.images.ImageEntity;
import lanternshed.server.images.ImageService;
import lanternshed.server.media.MediaService;
import lanternshed.server.media.MediumEntity;
import org.springframework.stereotype.Component;

/**
 * W-8: an image of the shelf goes on a card as it is. That every sector reads back is the whole
 * proof; what the image holds is nobody's concern here.
 */
@Component
class RestoreBench implements Bench {
  private final MediaService media;
  private final ImageService images;
  private final CardBench card;

  RestoreBench(MediaService media, ImageService images, CardBench card) {
    this.media = media;
    this.images = images;
    this.card = card;
  }

  @Override
  public WorkEntity.Kind kind() {
    return WorkEntity.Kind.RESTORE;
  }

  @Override
  public void run(WorkEntity w, Progress progress) {
    ImageEntity image = images.get(w.imageId().orElse(null));
    MediumEntity m = media.get(w.mediumId().orElseThrow());
    CardWriter.Report report = card.write(w, image, m, "\"" + image.name() + "\"", progress);
    if (!report.identical()) throw new ShedException(report.sum());
    media.holds(m.id(), image.id());
  }

  @Override
  public void failed(WorkEntity w, String sentence) {
    // The work itself says so; no station waits for it.
  }

  @Override
  public void cancelled(WorkEntity w) {
    // The card holds a part of the image; media say so by holding none.
  }
}
