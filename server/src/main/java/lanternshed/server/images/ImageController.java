package lanternshed.server.images;

import io.swagger.v3.oas.annotations.Parameter;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.format.DateTimeFormatter;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import lanternshed.core.catalogue.BlankDisk;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.catalogue.Opener;
import lanternshed.core.container.Packer;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.survey.Holes;
import lanternshed.core.survey.Inside;
import lanternshed.core.survey.Survey;
import lanternshed.core.survey.Volumes;
import lanternshed.core.table.DiskRow;
import lanternshed.core.table.TableReading;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Volume;
import lanternshed.core.volume.VolumeException;
import lanternshed.core.work.FilesOut;
import lanternshed.core.work.Marks;
import lanternshed.core.work.Stamp;
import lanternshed.server.errands.ErrandView;
import lanternshed.server.errands.Errands;
import lanternshed.server.shell.MediumResource;
import lanternshed.server.shell.Transfers;
import org.springframework.core.io.Resource;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.StreamingResponseBody;

/** The shelf's images: what they are, what is on them, and handing them out. */
@RestController
@RequestMapping("/api/images")
class ImageController {
  private static final int MOST_ROWS = 2000;

  /** Files of a folder that are looked at for an image of a drive. */
  private static final int MOST_DRIVES = 40;

  /** 64 GiB: what is not the size of a drive of these machines is a slip. */
  private static final long MOST_EMPTY = 134_217_728;

  private static final int MOST_AT_A_GLANCE = 4;
  private final ImageService images;
  private final Errands errands;

  ImageController(ImageService images, Errands errands) {
    this.images = images;
    this.errands = errands;
  }

  record ImageView(
      long id,
      String name,
      String sha256,
      String crc32,
      long sectors,
      String size,
      String origin,
      long lost,
      List<Holes.Hit> hits,
      Instant created) {
    static ImageView of(ImageEntity i) {
      return new ImageView(
          i.id(),
          i.name(),
          i.sha256(),
          i.crc32(),
          i.sectors(),
          Say.size(i.sectors() * 512),
          i.origin(),
          i.lost(),
          i.hits(),
          i.created());
    }
  }

  /**
   * @param name without the folders before it
   * @param marks attributes as letters: read-only, hidden, system, archive
   * @param notWhole why it does not come whole; "" for what does
   * @param drive whether it is the image of a drive itself
   */
  record FileRow(
      String path,
      String name,
      boolean folder,
      long bytes,
      String size,
      String time,
      String marks,
      String notWhole,
      boolean drive) {}

  /** In which order files are listed; folders come first except by disk. */
  enum Order {
    DISK(null),
    NAME(Comparator.comparing((Node n) -> n.path().toLowerCase(Locale.ROOT))),
    SIZE(Comparator.comparingLong(Node::bytes).reversed()),
    TIME(BY_TIME.reversed());

    private final Comparator<Node> by;

    Order(Comparator<Node> by) {
      this.by = by;
    }

    Stream<Node> sort(Stream<Node> nodes) {
      return by == null
          ? nodes
          : nodes.sorted(Comparator.comparing((Node n) -> !n.folder()).thenComparing(by));
    }
  }

  record FileList(long total, List<FileRow> rows) {}

  @GetMapping
  List<ImageView> all() {
    return images.all().stream().map(ImageView::of).toList();
  }

  /**
   * @param disk key of a floppy or small disk that is formatted; "" for a drive of so many sectors
   */
  record EmptyImage(
      @NotBlank @Size(max = 160) String name,
      @Min(1) @Max(MOST_EMPTY) long sectors,
      @Size(max = 20) String disk) {}

  /**
   * @param library whether a library takes such disks
   */
  record DiskKind(String key, String title, long sectors, boolean library) {
    static DiskKind of(BlankDisk d) {
      DiskRow row = Catalogue.newRow();
      boolean fits = d.kind().equals(row.holds()) && d.sectors() <= row.diskSectors();
      return new DiskKind(d.key(), d.title(), d.sectors(), fits);
    }
  }

  /** Floppies and small disks that are made formatted. */
  @GetMapping("/disks")
  List<DiskKind> disks() {
    return BlankDisk.ALL.stream().map(DiskKind::of).toList();
  }

  /** An image of a size and nothing on it, or a formatted disk without a file. */
  @PostMapping("/empty")
  @ResponseStatus(HttpStatus.ACCEPTED)
  ErrandView empty(@RequestBody @Valid EmptyImage e) {
    String name = e.name().strip();
    if (e.disk() == null || e.disk().isEmpty()) {
      return errands.begin(
          "empty image " + e.sectors() + " " + name,
          progress -> new Errands.Made(images.empty(name, e.sectors(), progress).id()));
    }
    BlankDisk disk = BlankDisk.of(e.disk());
    ImageService.Source source = ImageService.Source.of("nothing, formatted");
    return errands.begin(
        "disk " + disk.key() + " " + name,
        progress ->
            new Errands.Made(
                images
                    .make(
                        name,
                        disk.sectors(),
                        source,
                        m -> disk.format(m, name, Stamp.NONE),
                        progress)
                    .id()));
  }

  record NewImageName(@NotBlank @Size(max = 160) String name) {}

  @PutMapping("/{id}")
  ImageView rename(@PathVariable long id, @RequestBody @Valid NewImageName n) {
    return ImageView.of(images.rename(id, n.name().strip()));
  }

  /**
   * @param layout a filesystem that writes no mark of its own, and its figures; "" to leave it to
   *     what is found
   */
  record NewLayout(@NotNull @Size(max = 200) String layout) {}

  /** How an image lies where nothing on it says so; from then on it is no guess. */
  @PutMapping("/{id}/layout")
  ImageView lies(@PathVariable long id, @RequestBody @Valid NewLayout l) {
    return ImageView.of(images.lies(id, l.layout().strip()));
  }

  @DeleteMapping("/{id}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void remove(@PathVariable long id) {
    images.remove(id, true);
  }

  @PostMapping("/{id}/back")
  ImageView back(@PathVariable long id) {
    return ImageView.of(images.remove(id, false));
  }

  @GetMapping("/{id}")
  ImageView one(@PathVariable long id) {
    return ImageView.of(images.get(id));
  }

  @GetMapping("/{id}/survey")
  SurveyView survey(
      @PathVariable long id, @RequestParam(defaultValue = "") @Size(max = 4096) String in) {
    ImageEntity image = images.get(id);
    Survey s = images.survey(image, in);
    return in.isEmpty()
        ? SurveyView.of(s, image.hits(), image.layout())
        : SurveyView.of(s, List.of(), "");
  }

  /**
   * What is on an image, in a line.
   *
   * @param table name of its scheme; "" where there is none
   * @param volumes each by kind and label, the first few
   * @param more volumes that are not named
   * @param wrong findings that are no notes
   */
  record Glance(String table, List<String> volumes, int more, long wrong) {}

  @GetMapping("/{id}/glance")
  Glance glance(@PathVariable long id) {
    Survey s = images.survey(images.get(id));
    List<String> volumes =
        s.volumes().stream()
            .limit(MOST_AT_A_GLANCE)
            .map(v -> v.label().isEmpty() ? v.kind() : v.kind() + " “" + v.label() + "”")
            .toList();
    // Where nothing is known there is nothing to be wrong.
    long wrong =
        volumes.isEmpty()
            ? 0
            : s.allFindings().stream().filter(f -> f.weight() != Finding.Weight.NOTE).count();
    String table = s.table().map(TableReading::scheme).orElse("");
    return new Glance(table, volumes, s.volumes().size() - volumes.size(), wrong);
  }

  /**
   * What is in a folder, or what has some letters in its path below it.
   *
   * @param folder path of it; "" for the root
   */
  @GetMapping("/{id}/files")
  FileList files(
      @PathVariable long id,
      @RequestParam int volume,
      @RequestParam(defaultValue = "") @Size(max = 4096) String find,
      @RequestParam(defaultValue = "") @Size(max = 4096) String folder,
      @RequestParam(defaultValue = "DISK") Order order,
      @RequestParam(defaultValue = "") @Size(max = 4096) String in) {
    ImageEntity image = images.get(id);
    try (Medium m = images.open(image, in)) {
      Volume v = images.volume(m, image, in, volume);
      Predicate<Node> wanted =
          find.isEmpty()
              ? n -> n.parent().equals(folder)
              : FilesOut.under(folder).and(n -> n.hasLetters(find));
      List<Node> all = v.all().stream().filter(wanted).toList();
      Set<Node> drives = drives(m, v, images.survey(image, in), volume, all);
      return new FileList(
          all.size(),
          order
              .sort(all.stream())
              .limit(MOST_ROWS)
              .map(n -> row(v, n, drives.contains(n)))
              .toList());
    }
  }

  /** Those of some files that are images of drives, the largest looked at first. */
  private static Set<Node> drives(Medium m, Volume v, Survey s, int number, List<Node> files) {
    Survey.Found f =
        s.volumes().stream().filter(x -> x.number() == number).findFirst().orElseThrow();
    Medium slice = Volumes.slice(m, f.start(), f.length());
    return files.stream()
        .filter(n -> !n.folder() && n.bytes() % 512 == 0)
        .sorted(Comparator.comparingLong(Node::bytes).reversed())
        .limit(MOST_DRIVES)
        .filter(n -> Inside.imageIn(slice, v, n).isPresent())
        .collect(Collectors.toSet());
  }

  private static FileRow row(Volume v, Node n, boolean drive) {
    return new FileRow(
        n.path(),
        n.path().substring(n.parent().isEmpty() ? 0 : n.parent().length() + 1),
        n.folder(),
        n.bytes(),
        n.folder() ? "" : Say.size(n.bytes()),
        time(n),
        Marks.letters(n.attributes()),
        v.notWhole(n).orElse(""),
        drive);
  }

  private static final DateTimeFormatter WHEN = DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm");

  /** Before all others stands what has no time. */
  static final Comparator<Node> BY_TIME =
      Comparator.comparing(n -> n.time().orElse(LocalDateTime.MIN));

  static String time(Node n) {
    return n.time().map(WHEN::format).orElse("");
  }

  @GetMapping("/{id}/file")
  ResponseEntity<StreamingResponseBody> file(
      @PathVariable long id,
      @RequestParam int volume,
      @RequestParam String path,
      @RequestParam(defaultValue = "") @Size(max = 4096) String in) {
    ImageEntity image = images.get(id);
    Node node;
    boolean whole;
    try (Medium m = images.open(image, in)) {
      Volume v = images.volume(m, image, in, volume);
      node =
          v.all().stream()
              .filter(n -> !n.folder() && n.path().equals(path))
              .findFirst()
              .orElseThrow(() -> new ShedException("There is no file of that path in the image."));
      whole = v.notWhole(node).isEmpty();
    }
    Transfers.Body body =
        out -> {
          try (Medium m = images.open(image, in)) {
            Volume v = images.volume(m, image, in, volume);
            Transfers.read(sink -> v.read(node, sink), out);
          } catch (VolumeException e) {
            // What there is of it was asked for by that name.
            if (whole) throw e;
          }
        };
    ResponseEntity.BodyBuilder answer =
        Transfers.attachment(whole ? node.name() : node.name() + " NOT WHOLE");
    if (whole) answer.contentLength(node.bytes());
    return answer.body(Transfers.whole(body));
  }

  @GetMapping(path = "/{id}/download", params = "form=raw")
  ResponseEntity<Resource> raw(
      @PathVariable long id, @Parameter(hidden = true) @RequestHeader HttpHeaders asked) {
    ImageEntity image = images.get(id);
    // Opened once before anything is sent: a file that was cut is said so, not sent short.
    long bytes;
    try (Medium m = images.open(image)) {
      bytes = Opener.bytes(m);
    }
    String name = plain(image) + ".img";
    return Transfers.parts(
        asked, image.sha256(), new MediumResource(name, bytes, () -> images.open(image)));
  }

  @GetMapping("/{id}/download")
  ResponseEntity<StreamingResponseBody> download(
      @PathVariable long id, @RequestParam(defaultValue = "gz") @Size(max = 20) String form) {
    ImageEntity image = images.get(id);
    Packer packer = Catalogue.packer(form);
    images.open(image).close();
    byte[] identity = java.util.HexFormat.of().parseHex(image.sha256());
    return Transfers.attachment(plain(image) + "." + packer.extension())
        .body(
            Transfers.whole(
                out -> {
                  try (Medium m = images.open(image)) {
                    packer.pack(new Packer.Parcel(m, Opener.bytes(m), plain(image), identity), out);
                  }
                }));
  }

  private static String plain(ImageEntity image) {
    return image.name().replaceAll("[^A-Za-z0-9 ._-]", "-");
  }
}
