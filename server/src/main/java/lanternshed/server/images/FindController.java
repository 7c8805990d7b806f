package lanternshed.server.images;

import jakarta.validation.constraints.Size;
import java.util.ArrayList;
import java.util.List;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.survey.Inside;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Finds the disk that somebody looks for by a file that is on it. */
@RestController
@RequestMapping("/api/images")
class FindController {
  private static final int MOST = 100;

  /** Of one volume: who looks for a disk needs to know that it is on it, and one or two names. */
  private static final int MOST_OF_ONE = 5;

  /** A whole shelf is looked through as far as its disks are small, 64 MiB; larger ones by name. */
  private static final long SMALL_SECTORS = 131_072;

  private static final int MOST_IMAGES = 500;
  private final ImageService images;

  FindController(ImageService images) {
    this.images = images;
  }

  /**
   * A file.
   *
   * @param name of the image on the shelf
   * @param in steps down to the image that it lies in, each behind a {@code |}; "" for the image
   * @param path "volume/path"
   */
  record FoundFile(long image, String name, String in, String path, String size) {}

  /**
   * @param whole whether there is no more
   * @param left images that were too large to be looked through here
   * @param unread images that do not read, by their names
   */
  record FoundFiles(List<FoundFile> hits, boolean whole, long left, List<String> unread) {}

  @GetMapping("/find")
  FoundFiles onTheShelf(@RequestParam @Size(min = 1, max = 200) String letters) {
    List<ImageEntity> all = images.all();
    List<ImageEntity> small =
        all.stream().filter(i -> i.sectors() <= SMALL_SECTORS).limit(MOST_IMAGES).toList();
    List<FoundFile> hits = new ArrayList<>();
    List<String> unread = new ArrayList<>();
    boolean whole = true;
    for (ImageEntity i : small) {
      if (hits.size() == MOST) {
        whole = false;
        break;
      }
      try {
        whole &= in(i, letters, MOST - hits.size(), hits);
      } catch (ShedException e) {
        // One that is spoiled hides no other.
        unread.add(i.name());
      }
    }
    return new FoundFiles(hits, whole, all.size() - small.size(), unread);
  }

  @GetMapping("/{id}/find")
  FoundFiles onOne(@PathVariable long id, @RequestParam @Size(min = 1, max = 200) String letters) {
    List<FoundFile> hits = new ArrayList<>();
    return new FoundFiles(hits, in(images.get(id), letters, MOST, hits), 0, List.of());
  }

  private boolean in(ImageEntity image, String letters, int most, List<FoundFile> hits) {
    try (Medium m = images.open(image)) {
      Inside.Hits found = Inside.find(m, letters, most, MOST_OF_ONE);
      for (Inside.Hit h : found.hits()) {
        hits.add(
            new FoundFile(
                image.id(),
                image.name(),
                String.join("|", h.way()),
                h.path(),
                Say.size(h.bytes())));
      }
      return found.whole();
    }
  }
}
