package lanternshed.server.crossing;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import lanternshed.core.catalogue.BlankDisk;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.survey.Survey;
import lanternshed.core.work.Edit;
import lanternshed.server.crossing.CrossingView.ChosenText;
import lanternshed.server.crossing.CrossingView.OtherVolume;
import lanternshed.server.images.ImageEntity;
import lanternshed.server.images.ImageService;
import org.springframework.stereotype.Component;

/** What files go to: new disks, or volumes of an image. */
@Component
class Targets {
  private final ImageService images;

  Targets(ImageService images) {
    this.images = images;
  }

  /**
   * @param says it in words
   * @param volumes numbers of those that take the files, in the order in which they are asked; none
   *     for new disks
   * @param names of them
   * @param others of the image, that take the same names and could take what stays
   */
  record Target(String says, List<Integer> volumes, List<String> names, List<OtherVolume> others) {}

  Target of(CrossingEntity c, ChosenText chosen) {
    if (c.imageId() == null) {
      String says = "new disks, " + BlankDisk.of(c.disk()).title();
      return new Target(says, List.of(), List.of(), List.of());
    }
    return of(c, chosen, images.get(c.imageId()));
  }

  /**
   * What some crossings go onto, in words, by crossing; where an image does not lie or read, why.
   */
  Map<Long, String> says(
      List<CrossingEntity> crossings, Function<CrossingEntity, ChosenText> chosen) {
    Set<Long> ids = new HashSet<>();
    crossings.forEach(c -> Optional.ofNullable(c.imageId()).ifPresent(ids::add));
    Map<Long, ImageEntity> there = images.known(ids);
    Map<Long, String> out = new HashMap<>();
    for (CrossingEntity c : crossings) out.put(c.id(), says(c, chosen.apply(c), there));
    return out;
  }

  private String says(CrossingEntity c, ChosenText chosen, Map<Long, ImageEntity> there) {
    if (c.imageId() == null) return of(c, chosen).says();
    ImageEntity image = there.get(c.imageId());
    if (image == null) return "an image whose bytes do not lie on the shelf";
    try {
      return of(c, chosen, image).says();
    } catch (ShedException e) {
      return "what does not read: " + e.getMessage();
    }
  }

  private Target of(CrossingEntity c, ChosenText chosen, ImageEntity image) {
    List<Survey.Found> all = images.survey(image).volumes();
    List<Integer> numbers = new ArrayList<>(List.of(c.volume()));
    numbers.addAll(chosen.further());
    List<String> names = numbers.stream().map(n -> name(all, n)).toList();
    String says = String.join(", ", names) + " of " + image.name();
    return new Target(says, numbers, names, others(all, c.volume()));
  }

  private static List<OtherVolume> others(List<Survey.Found> all, int number) {
    List<Survey.Found> first = all.stream().filter(v -> v.number() == number).toList();
    return all.stream()
        .filter(v -> v.number() != number && v.readable())
        .filter(v -> first.stream().anyMatch(f -> alike(f.kind(), v.kind())))
        .map(v -> new OtherVolume(v.number(), name(all, v.number()), Say.size(v.use().freeBytes())))
        .toList();
  }

  /** One list of names, and one word for what they are counted in. */
  private static boolean alike(String kind, String other) {
    return Stream.of(kind, other).allMatch(k -> Catalogue.filesystem(k).maker().isPresent())
        && Catalogue.filesystem(kind).names().equals(Catalogue.filesystem(other).names())
        && Catalogue.unit(kind).equals(Catalogue.unit(other));
  }

  /** Its label, or its kind; with its number where that tells it from no other. */
  private static String name(List<Survey.Found> all, int number) {
    List<String> names = all.stream().map(v -> v.label().isEmpty() ? v.kind() : v.label()).toList();
    for (int i = 0; i < all.size(); i++) {
      if (all.get(i).number() != number) continue;
      String name = names.get(i);
      boolean one = names.stream().filter(name::equals).count() == 1;
      return one ? name : name + ", volume " + number;
    }
    return "volume " + number;
  }

  /**
   * Refuses volumes that what stays cannot go to.
   *
   * @throws ShedException with the first and the reason
   */
  void check(CrossingEntity c, ChosenText chosen) {
    if (chosen.further().isEmpty()) return;
    List<Integer> could =
        of(c, ChosenText.OPEN).others().stream()
            .map(OtherVolume::number)
            .collect(Collectors.toList());
    for (int n : chosen.further()) {
      if (!could.contains(n)) {
        throw new ShedException(
            "Volume " + n + " is not there, or takes other names than the first; leave it out.");
      }
    }
    try (Medium m = images.open(images.get(c.imageId()))) {
      for (int n : chosen.further()) Edit.hold(m, n, List.of());
    }
  }
}
