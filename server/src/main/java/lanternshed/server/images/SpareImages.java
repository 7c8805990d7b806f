package lanternshed.server.images;

import java.time.Clock;
import java.time.Duration;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.server.shell.ConflictException;
import lanternshed.server.shell.Shelf;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Service;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Room is got back by a person's word alone: of images that were taken away before, that nothing
 * needs any more, one by one. Their rows stay, so that what was written about them still reads.
 */
@Service
public class SpareImages {
  /** What was put on the shelf just now may be about to be named; nobody is that quick. */
  private static final Duration SETTLED = Duration.ofMinutes(10);

  private final ImageRepository images;
  private final Shelf shelf;
  private final Clock clock;
  private final ObjectProvider<ImageUse> users;
  private final TransactionTemplate transaction;

  SpareImages(
      ImageRepository images,
      Shelf shelf,
      Clock clock,
      ObjectProvider<ImageUse> users,
      TransactionTemplate transaction) {
    this.transaction = transaction;
    this.images = images;
    this.shelf = shelf;
    this.clock = clock;
    this.users = users;
  }

  /**
   * An image that nothing needs.
   *
   * @param away whether it was taken away already, so that its room can be got back
   * @param bytes that it takes at most; its zeros take none
   */
  record SpareView(
      long id, String name, String origin, String sha256, boolean away, long bytes, String size) {}

  /** Those that were taken away first, each with the room that it takes. */
  List<SpareView> all() {
    Set<Long> kept = new HashSet<>();
    Set<String> contents = new HashSet<>();
    users.forEach(
        u -> {
          kept.addAll(u.kept());
          contents.addAll(u.keptContents());
        });
    return images.findAllByOrderByRemovedDescNameAsc().stream()
        .filter(i -> !kept.contains(i.id()) && !contents.contains(i.sha256()))
        .filter(this::lies)
        .map(this::view)
        .toList();
  }

  /**
   * Also one whose row says that it is gone: a program that was killed in between left its bytes.
   */
  private boolean lies(ImageEntity i) {
    return i.here() || shelf.atMost(i.sha256()) > 0;
  }

  private SpareView view(ImageEntity i) {
    long bytes = shelf.atMost(i.sha256());
    return new SpareView(
        i.id(), i.name(), i.origin(), i.sha256(), i.removed(), bytes, Say.size(bytes));
  }

  private Optional<String> keptFor(ImageEntity i) {
    return users.stream().flatMap(u -> u.keeping(i).stream()).findFirst();
  }

  /**
   * Deletes the bytes of one image for good.
   *
   * @return bytes that are free now, at most
   * @throws ConflictException where somebody needs it after all
   */
  long giveBack(long id) {
    // First the row, under a lock that everybody takes who names an image: whoever asks
    // meanwhile is told that it is gone, and not that a file is missing.
    ImageEntity i = transaction.execute(t -> givenUp(id));
    long bytes = shelf.atMost(i.sha256());
    if (shelf.giveBack(i.sha256(), clock.instant().minus(SETTLED))) return bytes;
    transaction.executeWithoutResult(
        t -> images.findById(id).ifPresent(again -> again.setHere(true)));
    throw new ConflictException(
        "“" + i.name() + "” was put on the shelf just now; try again in ten minutes.");
  }

  private ImageEntity givenUp(long id) {
    images.take(id);
    ImageEntity i =
        images
            .findById(id)
            .filter(this::lies)
            .orElseThrow(() -> new ShedException("There is no such image on the shelf any more."));
    if (!i.removed()) {
      throw new ConflictException("“" + i.name() + "” is in sight; take it away first.");
    }
    keptFor(i)
        .ifPresent(
            who -> {
              throw new ConflictException("“" + i.name() + "” is needed by " + who + "; it stays.");
            });
    i.setHere(false);
    return images.saveAndFlush(i);
  }
}
