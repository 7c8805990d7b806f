package lanternshed.server.images;

import jakarta.persistence.EntityNotFoundException;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import lanternshed.core.measure.Say;
import lanternshed.core.medium.Medium;
import lanternshed.core.survey.Whereabouts;
import lanternshed.core.work.Comparison;
import lanternshed.core.work.Progress;
import lanternshed.server.errands.ErrandView;
import lanternshed.server.errands.Errands;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Two images against each other: by chunk digest, then by sector, then by file. */
@RestController
@RequestMapping("/api/images/{id}/against/{other}")
class ComparisonController {
  private static final int MOST_FILES = 200;
  private static final int MOST_PLACES = 3;
  private final ImageService images;
  private final Errands errands;

  ComparisonController(ImageService images, Errands errands) {
    this.images = images;
    this.errands = errands;
  }

  record DifferenceRange(long start, long length, String place) {}

  /**
   * What differs.
   *
   * @param ranges the first runs of sectors, with what lies there on the first image
   * @param files the first paths that are touched, of {@code fileCount}
   */
  record Difference(
      boolean identical,
      String sentence,
      List<DifferenceRange> ranges,
      List<String> files,
      int fileCount) {}

  /** Begins to compare; what the digests show to be equal is not read. */
  @PostMapping
  @ResponseStatus(HttpStatus.ACCEPTED)
  ErrandView begin(@PathVariable long id, @PathVariable long other) {
    ImageEntity a = images.get(id);
    ImageEntity b = images.get(other);
    return errands.begin(key(a, b), progress -> difference(a, b, progress));
  }

  @GetMapping
  Difference found(@PathVariable long id, @PathVariable long other) {
    return errands
        .found(key(images.get(id), images.get(other)), Difference.class)
        .orElseThrow(() -> new EntityNotFoundException("Nobody compared these two yet."));
  }

  private static String key(ImageEntity a, ImageEntity b) {
    return "compare " + a.sha256() + " " + b.sha256();
  }

  private Difference difference(ImageEntity a, ImageEntity b, Progress progress) {
    if (a.sha256().equals(b.sha256())) {
      return new Difference(true, "The two are identical to the byte.", List.of(), List.of(), 0);
    }
    Whereabouts where = images.whereabouts(a);
    Set<String> files = new LinkedHashSet<>();
    Comparison c;
    try (Medium m = images.open(a);
        Medium n = images.open(b)) {
      Comparison.Runs touched =
          (start, length) ->
              where.in(start, length).stream()
                  .filter(p -> p.kind().equals("file"))
                  .forEach(p -> files.add(p.path()));
      c = Comparison.byChunk(m, n, a.chunks(), b.chunks(), touched, progress);
    }
    List<DifferenceRange> ranges = new ArrayList<>();
    for (long[] r : c.ranges()) {
      ranges.add(new DifferenceRange(r[0], r[1], place(where.in(r[0], r[1]))));
    }
    return new Difference(
        false,
        sentence(a, c, files.size()),
        ranges,
        files.stream().limit(MOST_FILES).toList(),
        files.size());
  }

  private static String place(List<Whereabouts.Place> all) {
    String first =
        all.stream()
            .limit(MOST_PLACES)
            .map(p -> (p.kind() + " " + p.path()).strip())
            .collect(Collectors.joining(", "));
    return all.size() > MOST_PLACES ? first + " and more" : first;
  }

  private static String sentence(ImageEntity a, Comparison c, int files) {
    String longer =
        c.longer() == 0
            ? ""
            : " The "
                + (c.longer() > 0 ? "first" : "second")
                + " is longer by "
                + Say.sectors(Math.abs(c.longer()))
                + ".";
    if (c.differing() == 0) return "Where both have sectors, they are equal." + longer;
    return Say.sectors(c.differing())
        + (c.differing() == 1 ? " differs, in " : " differ, in ")
        + Say.count(c.chunks())
        + " of "
        + Say.plural(a.chunks().size(), "chunk", "chunks")
        + " of 16 MiB; "
        + Say.plural(files, "file is", "files are")
        + " touched."
        + longer;
  }
}
