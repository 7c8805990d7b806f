package lanternshed.server.media;

import java.util.List;
import java.util.Set;
import lanternshed.server.images.ImageEntity;
import lanternshed.server.images.ImageUse;
import org.springframework.stereotype.Component;

/**
 * What a card holds is kept, also of a card that is out of the drawer: it is written again from it,
 * and only what differs; and the card is no only copy while it is kept.
 */
@Component
class MediaImages implements ImageUse {
  private final MediumRepository media;

  MediaImages(MediumRepository media) {
    this.media = media;
  }

  @Override
  public Set<Long> kept() {
    return media.held();
  }

  @Override
  public List<String> keeping(ImageEntity image) {
    return media.findByHoldsImage(image.id()).stream()
        .map(m -> "the card " + m.name() + ", which holds it")
        .toList();
  }
}
