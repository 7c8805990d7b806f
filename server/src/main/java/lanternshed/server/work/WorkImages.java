package lanternshed.server.work;

import java.util.List;
import java.util.Set;
import lanternshed.server.images.ImageEntity;
import lanternshed.server.images.ImageUse;
import org.springframework.stereotype.Component;

/** What goes on a card as it is needs its image until the work is over. */
@Component
class WorkImages implements ImageUse {
  private final WorkRepository works;

  WorkImages(WorkRepository works) {
    this.works = works;
  }

  @Override
  public Set<Long> kept() {
    return works.images();
  }

  @Override
  public List<String> keeping(ImageEntity image) {
    return works.withImage(image.id()).stream().map(w -> "what is written on a card now").toList();
  }
}
