package lanternshed.server.crossing;

import java.util.List;
import java.util.Set;
import java.util.stream.Stream;
import lanternshed.server.images.ImageEntity;
import lanternshed.server.images.ImageUse;
import org.springframework.stereotype.Component;

/** A crossing needs the image that it goes onto, and those that wait in it, until it went over. */
@Component
class CrossingImages implements ImageUse {
  private final CrossingRepository crossings;

  CrossingImages(CrossingRepository crossings) {
    this.crossings = crossings;
  }

  @Override
  public Set<Long> kept() {
    return crossings.imagesOfWaiting();
  }

  @Override
  public Set<String> keptContents() {
    return crossings.contentsOfWaiting();
  }

  @Override
  public List<String> keeping(ImageEntity image) {
    return Stream.concat(
            crossings.waitingFor(image.id()).stream(),
            crossings.waitingWith(image.sha256()).stream())
        .distinct()
        .map(c -> "crossing " + c + ", which waits")
        .toList();
  }
}
