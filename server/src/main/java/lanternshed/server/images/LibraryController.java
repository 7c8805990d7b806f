package lanternshed.server.images;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Copy;
import lanternshed.core.medium.Medium;
import lanternshed.core.table.DiskRow;
import lanternshed.core.work.Progress;
import lanternshed.core.work.RowEdit;
import lanternshed.core.work.RowEdit.Change;
import lanternshed.server.errands.ErrandView;
import lanternshed.server.errands.Errands;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/**
 * Libraries of small disks (F-16): what is in one, a copy with changes, one disk by itself. A
 * library may lie on a card image; {@code in} says where, as it does for its contents.
 */
@RestController
@RequestMapping("/api/images")
class LibraryController {
  private static final int MOST_CHANGES = 2000;
  private final ImageService images;
  private final Errands errands;

  LibraryController(ImageService images, Errands errands) {
    this.images = images;
    this.errands = errands;
  }

  /** A place of the row, as the machine counts. */
  record DiskPlace(int number, String title, DiskRow.State state) {}

  /**
   * @param disk size of a disk in words
   * @param places all that lie in the file
   */
  record LibraryView(String disk, List<DiskPlace> places) {}

  /** What is done to a place. */
  enum Verb {
    PUT,
    REMOVE,
    MOVE,
    LOCK,
    OPEN,
    TITLE
  }

  /**
   * @param to where a disk is moved
   * @param title of a disk that is put in or gets another; "" for none
   * @param image on the shelf, for a disk that is put in; 0 else
   */
  record ChangeText(
      @NotNull Verb verb,
      @Min(0) @Max(100_000) int number,
      @Min(0) @Max(100_000) int to,
      @NotNull @Size(max = 80) String title,
      long image) {}

  record Changes(@NotNull @Size(min = 1, max = MOST_CHANGES) List<@Valid ChangeText> changes) {}

  record NewLibrary(@NotNull @Size(min = 1, max = 160) String name, @Min(1) int places) {}

  @GetMapping("/{id}/library")
  LibraryView library(
      @PathVariable long id, @RequestParam(defaultValue = "") @Size(max = 1000) String in) {
    try (Medium m = images.open(images.get(id), in)) {
      DiskRow row = RowEdit.row(m);
      List<DiskPlace> places =
          IntStream.range(0, row.count(m))
              .mapToObj(
                  i -> {
                    DiskRow.Slot s = row.slot(m, i);
                    return new DiskPlace(i, s.title(), s.state());
                  })
              .toList();
      return new LibraryView(Say.count(row.diskSectors() / 2) + " KiB", places);
    }
  }

  /** Begins to make a copy with the changes; the image itself stays as it is. */
  @PostMapping("/{id}/library")
  @ResponseStatus(HttpStatus.ACCEPTED)
  ErrandView change(
      @PathVariable long id,
      @RequestParam(defaultValue = "") @Size(max = 1000) String in,
      @RequestBody @Valid Changes asked) {
    ImageEntity image = images.get(id);
    return errands.begin(
        "library " + image.sha256() + in + asked.hashCode(),
        progress -> changed(image, in, asked.changes(), progress));
  }

  private Errands.Made changed(
      ImageEntity image, String in, List<ChangeText> asked, Progress progress) {
    Map<Long, Medium> disks = new HashMap<>();
    try (Medium from = images.open(image, in)) {
      List<Change> changes = asked.stream().map(c -> change(c, disks)).toList();
      String origin = "a copy with " + Say.plural(changes.size(), "change", "changes");
      String name = name(image, in) + ", changed";
      ImageService.Source source = new ImageService.Source(origin, image.lost(), List.of(), "");
      return new Errands.Made(
          images
              .make(
                  name,
                  from.sectors(),
                  source,
                  to -> RowEdit.make(from, changes, to, progress),
                  progress)
              .id());
    } finally {
      disks.values().forEach(Medium::close);
    }
  }

  /**
   * @param disks those that are open, by their image
   */
  private Change change(ChangeText c, Map<Long, Medium> disks) {
    return switch (c.verb()) {
      case PUT -> {
        ImageEntity disk = images.get(c.image());
        Medium m = disks.computeIfAbsent(disk.id(), id -> images.open(disk));
        yield new Change.Put(c.number(), c.title().isEmpty() ? disk.name() : c.title(), m);
      }
      case REMOVE -> new Change.Remove(c.number());
      case MOVE -> new Change.Move(c.number(), c.to());
      case LOCK -> new Change.Lock(c.number(), true);
      case OPEN -> new Change.Lock(c.number(), false);
      case TITLE -> new Change.Title(c.number(), c.title());
    };
  }

  /** Begins to copy one disk onto the shelf, as an image of its own. */
  @PostMapping("/{id}/library/{number}")
  @ResponseStatus(HttpStatus.ACCEPTED)
  ErrandView extract(
      @PathVariable long id,
      @PathVariable int number,
      @RequestParam(defaultValue = "") @Size(max = 1000) String in) {
    ImageEntity image = images.get(id);
    return errands.begin(
        "disk " + number + " " + image.sha256() + in,
        progress -> {
          try (Medium from = images.open(image, in)) {
            Medium disk = RowEdit.disk(from, number);
            String title = RowEdit.row(from).slot(from, number).title();
            var source = ImageService.Source.of("disk " + number + " of " + name(image, in));
            return new Errands.Made(
                images
                    .make(
                        title,
                        disk.sectors(),
                        source,
                        to -> Copy.all(disk, to, (n, all) -> {}),
                        progress)
                    .id());
          }
        });
  }

  /** Begins to make a library whose places hold no disk yet. */
  @PostMapping("/library")
  @ResponseStatus(HttpStatus.ACCEPTED)
  ErrandView begin(@RequestBody @Valid NewLibrary asked) {
    DiskRow row = Catalogue.newRow();
    if (asked.places() > row.most()) {
      throw new ShedException("A library has at most " + row.most() + " places.");
    }
    return errands.begin(
        "new library " + asked,
        progress ->
            new Errands.Made(
                images
                    .make(
                        asked.name(),
                        row.sectors(asked.places()),
                        ImageService.Source.of("nothing"),
                        to -> RowEdit.blank(row, to),
                        progress)
                    .id()));
  }

  private static String name(ImageEntity image, String in) {
    return in.isEmpty() ? image.name() : in.substring(in.lastIndexOf('/') + 1);
  }
}
