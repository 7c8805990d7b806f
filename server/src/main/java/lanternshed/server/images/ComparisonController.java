package lanternshed.server.images;

import jakarta.persistence.EntityNotFoundException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import lanternshed.core.measure.Place;
import lanternshed.core.measure.Say;
import lanternshed.core.medium.Medium;
import lanternshed.core.survey.Volumes;
import lanternshed.core.survey.Whereabouts;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.VolumeException;
import lanternshed.core.work.Comparison;
import lanternshed.core.work.FileComparison;
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
   * @param sentence of the sectors
   * @param ranges the first runs of sectors, with what lies there on the first image
   * @param volumes each pair of volumes that both have, file by file
   */
  record Difference(
      boolean identical,
      String sentence,
      List<DifferenceRange> ranges,
      List<VolumeDifference> volumes) {}

  /**
   * Two volumes file by file.
   *
   * @param same files of the same path and content
   * @param lists what is not the same, by what is the matter; only those that are not empty
   */
  record VolumeDifference(String name, String sentence, long same, List<PathList> lists) {}

  record PathList(String title, int count, List<String> first) {}

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
      return new Difference(true, "The two are identical to the byte.", List.of(), List.of());
    }
    Whereabouts where = images.whereabouts(a);
    Set<String> touchedFiles = new HashSet<>();
    Comparison c;
    List<VolumeDifference> volumes = new ArrayList<>();
    try (Medium m = images.open(a);
        Medium n = images.open(b)) {
      Comparison.Runs touched =
          (start, length) ->
              where.in(start, length).stream()
                  .filter(p -> p.kind().equals("file"))
                  .forEach(p -> touchedFiles.add(p.path()));
      c = Comparison.byChunk(m, n, a.chunks(), b.chunks(), touched, progress);
      List<Volumes.Opened> first = Volumes.all(m);
      List<Volumes.Opened> second = Volumes.all(n);
      for (int i = 0; i < Math.min(first.size(), second.size()); i++) {
        Volumes.Opened x = first.get(i);
        Predicate<Node> untouched =
            f ->
                !touchedFiles.contains(f.path())
                    && where.isOnly(f.path(), x.start(), x.volume().sectorsOf(f));
        volumes.add(files(x, second.get(i), untouched, progress));
      }
    }
    List<DifferenceRange> ranges = new ArrayList<>();
    for (long[] r : c.ranges()) {
      ranges.add(new DifferenceRange(r[0], r[1], place(where.in(r[0], r[1]))));
    }
    return new Difference(false, sentence(a, c), ranges, volumes);
  }

  private static VolumeDifference files(
      Volumes.Opened x, Volumes.Opened y, Predicate<Node> untouched, Progress progress) {
    String name = "volume " + x.number();
    FileComparison.Known known =
        x.start() == y.start()
            ? FileComparison.inPlace(x.volume(), y.volume(), untouched)
            : FileComparison.Known.NOTHING;
    FileComparison f;
    try {
      f = FileComparison.of(x.volume(), y.volume(), known, progress);
    } catch (VolumeException e) {
      return new VolumeDifference(name, e.getMessage(), 0, List.of());
    }
    List<PathList> lists =
        Stream.of(
                list("differ", f.differing()),
                list("only on the first", f.onlyFirst()),
                list("only on the second", f.onlySecond()))
            .filter(l -> l.count() > 0)
            .toList();
    String rest =
        lists.isEmpty()
            ? "; nothing else is on either."
            : lists.stream()
                    .map(l -> ", " + Say.count(l.count()) + " " + l.title())
                    .collect(Collectors.joining())
                + ".";
    return new VolumeDifference(
        name,
        Say.plural(f.same(), "file is", "files are") + " the same byte for byte" + rest,
        f.same(),
        lists);
  }

  private static PathList list(String title, List<String> all) {
    return new PathList(title, all.size(), all.stream().limit(MOST_FILES).toList());
  }

  private static String place(List<Place> all) {
    String first =
        all.stream()
            .limit(MOST_PLACES)
            .map(p -> (p.kind() + " " + p.path()).strip())
            .collect(Collectors.joining(", "));
    return all.size() > MOST_PLACES ? first + " and more" : first;
  }

  private static String sentence(ImageEntity a, Comparison c) {
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
        + " of 16 MiB."
        + longer;
  }
}
