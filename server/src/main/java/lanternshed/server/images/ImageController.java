package lanternshed.server.images;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.List;
import lanternshed.core.boot.BootChain;
import lanternshed.core.container.Container;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.survey.Holes;
import lanternshed.core.survey.Survey;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Volume;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.StreamingResponseBody;

/** The shelf's images: what they are, what is on them, and handing them out. */
@RestController
@RequestMapping("/api/images")
class ImageController {
  private static final int MOST_ROWS = 2000;
  private final ImageService images;

  ImageController(ImageService images) {
    this.images = images;
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
          Say.mib(i.sectors() * 512),
          i.origin(),
          i.lost(),
          i.hits(),
          i.created());
    }
  }

  /**
   * @param marks attributes as letters: read-only, hidden, system, archive
   */
  record FileRow(String path, boolean folder, long bytes, String size, String time, String marks) {}

  record FileList(long total, List<FileRow> rows) {}

  @GetMapping
  List<ImageView> all() {
    return images.all().stream().map(ImageView::of).toList();
  }

  @GetMapping("/{id}")
  ImageView one(@PathVariable long id) {
    return ImageView.of(images.get(id));
  }

  @GetMapping("/{id}/survey")
  SurveyView survey(@PathVariable long id) {
    ImageEntity image = images.get(id);
    Survey s = images.survey(image);
    return SurveyView.of(s, image.hits(), boot(image, s));
  }

  /** The old chain under the old geometry, so that a clone's fault is known before. */
  private List<BootChain.Link> boot(ImageEntity image, Survey s) {
    if (s.table().isEmpty() || s.geometry().isEmpty()) return List.of();
    Survey.GeometrySource g = s.agreedGeometry().orElse(s.geometry().get(0));
    long cylinders = Math.max(1, s.sectors() / ((long) g.heads() * g.sectors()));
    Geometry geometry =
        new Geometry((int) Math.min(cylinders, Integer.MAX_VALUE), g.heads(), g.sectors());
    try (Medium m = images.open(image)) {
      return BootChain.walk(m, geometry, s.sectors()).links();
    }
  }

  @GetMapping("/{id}/files")
  FileList files(
      @PathVariable long id,
      @RequestParam int volume,
      @RequestParam(defaultValue = "") String find) {
    ImageEntity image = images.get(id);
    try (Medium m = images.open(image)) {
      List<Node> all =
          images.volume(m, image, volume).all().stream().filter(n -> n.hasLetters(find)).toList();
      return new FileList(
          all.size(), all.stream().limit(MOST_ROWS).map(ImageController::row).toList());
    }
  }

  private static FileRow row(Node n) {
    return new FileRow(
        n.path(),
        n.folder(),
        n.bytes(),
        n.folder() ? "" : Say.size(n.bytes()),
        time(n),
        marks(n.attributes()));
  }

  static String time(Node n) {
    int date = n.stamp() >>> 16;
    int time = n.stamp() & 0xFFFF;
    if (date == 0) return "";
    return String.format(
        "%04d-%02d-%02d %02d:%02d",
        1980 + (date >> 9), date >> 5 & 15, date & 31, time >> 11, time >> 5 & 63);
  }

  private static String marks(int a) {
    return ((a & 1) != 0 ? "r" : "")
        + ((a & 2) != 0 ? "h" : "")
        + ((a & 4) != 0 ? "s" : "")
        + ((a & 32) != 0 ? "a" : "");
  }

  @GetMapping("/{id}/file")
  ResponseEntity<StreamingResponseBody> file(
      @PathVariable long id, @RequestParam int volume, @RequestParam String path) {
    ImageEntity image = images.get(id);
    Node node;
    try (Medium m = images.open(image)) {
      node =
          images.volume(m, image, volume).all().stream()
              .filter(n -> !n.folder() && n.path().equals(path))
              .findFirst()
              .orElseThrow(() -> new ShedException("There is no file of that path in the image."));
    }
    return download(
        node.name(),
        out -> {
          try (Medium m = images.open(image)) {
            Volume v = images.volume(m, image, volume);
            v.read(
                node,
                (b, at, n) -> {
                  try {
                    out.write(b, at, n);
                  } catch (IOException e) {
                    throw new UncheckedIOException(e);
                  }
                });
          }
        });
  }

  @GetMapping("/{id}/download")
  ResponseEntity<StreamingResponseBody> download(
      @PathVariable long id, @RequestParam(defaultValue = "raw") String form) {
    ImageEntity image = images.get(id);
    Container c = Container.of(form);
    String name = image.name().replaceAll("[^A-Za-z0-9 ._-]", "-");
    byte[] identity = java.util.HexFormat.of().parseHex(image.sha256());
    return download(
        name + "." + c.extension(),
        out -> {
          try (Medium m = images.open(image)) {
            c.write(m, name, identity, out);
          }
        });
  }

  private static ResponseEntity<StreamingResponseBody> download(
      String name, StreamingResponseBody body) {
    return ResponseEntity.ok()
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            ContentDisposition.attachment()
                .filename(name, StandardCharsets.UTF_8)
                .build()
                .toString())
        .contentType(MediaType.APPLICATION_OCTET_STREAM)
        .body(body);
  }
}
