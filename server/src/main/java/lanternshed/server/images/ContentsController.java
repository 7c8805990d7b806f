package lanternshed.server.images;

import jakarta.persistence.EntityNotFoundException;
import jakarta.validation.constraints.Size;
import java.io.ByteArrayOutputStream;
import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.Charset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import lanternshed.core.kind.BasicLines;
import lanternshed.core.kind.Kind;
import lanternshed.core.kind.Kinds;
import lanternshed.core.kind.Known;
import lanternshed.core.kind.Sample;
import lanternshed.core.measure.Field;
import lanternshed.core.measure.Place;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.plan.Plan;
import lanternshed.core.plan.Slacks;
import lanternshed.core.survey.Holes;
import lanternshed.core.survey.PrivateThings;
import lanternshed.core.survey.Survey;
import lanternshed.core.survey.Whereabouts;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Volume;
import lanternshed.core.work.FilesOut;
import lanternshed.core.work.Twins;
import lanternshed.server.errands.ErrandView;
import lanternshed.server.errands.Errands;
import lanternshed.server.shell.Transfers;
import lanternshed.server.tokens.TokenTables;
import org.apache.commons.compress.archivers.zip.ZipArchiveEntry;
import org.apache.commons.compress.archivers.zip.ZipArchiveOutputStream;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.StreamingResponseBody;

/**
 * Looking into an image: sectors with the names of what they are, text, folders as zip, what stands
 * out.
 */
@RestController
@RequestMapping("/api/images")
class ContentsController {
  /** The kind whose cluster sizes the waste is shown for. */
  private static final String SLACK_OF = "FAT16";

  private static final int MOST_SECTORS = 32;
  private static final int MOST_TEXT = 64 << 10;
  private static final int MOST_TWINS = 8;
  private static final int MOST_PICTURE = 20 << 20;
  private static final Map<String, String> PICTURES =
      Map.of(
          "bmp",
          "image/bmp",
          "gif",
          "image/gif",
          "jpg",
          "image/jpeg",
          "jpeg",
          "image/jpeg",
          "png",
          "image/png");
  private static final Map<String, String> CODE_PAGES =
      Map.of(
          "437",
          "IBM437",
          "850",
          "IBM850",
          "1252",
          "windows-1252",
          "8859-1",
          "ISO-8859-1",
          "8859-15",
          "ISO-8859-15",
          "utf-8",
          "UTF-8");

  private final ImageService images;
  private final TokenTables tokenTables;
  private final Errands errands;

  ContentsController(ImageService images, TokenTables tokenTables, Errands errands) {
    this.images = images;
    this.tokenTables = tokenTables;
    this.errands = errands;
  }

  /**
   * One sector.
   *
   * @param hex 1 024 digits
   * @param place what lies there, "file WEAVE/HERON001.PAT"
   */
  record SectorRow(long lba, String hex, String place, List<Field> fields) {}

  /**
   * The beginning of a file as text.
   *
   * @param whole whether it is all of it
   * @param kind what the file is by its content, {@code about} what its structure says; "" where
   *     that is not known
   * @param fault what of that does not agree; "" for nothing
   * @param basic whether it is BASIC as tokens, which can be listed
   */
  record TextPart(
      String text,
      long bytes,
      boolean whole,
      String kind,
      String about,
      String fault,
      boolean basic) {}

  record FileNote(String path, long bytes, String size, String time) {}

  /**
   * What stands out.
   *
   * @param slack waste by cluster size; the volume's own is marked
   * @param deleted entries that were deleted; their first character is gone
   * @param personal files that look like somebody's private things; a reminder for the wipe
   * @param personalCount all of them
   */
  record Notable(
      List<FileNote> largest,
      List<FileNote> newest,
      List<FileNote> oldest,
      List<FileNote> deleted,
      long deletedCount,
      List<Plan.Slack> slack,
      List<String> personal,
      long personalCount) {}

  /**
   * Files of one content.
   *
   * @param count groups of them
   * @param spare what all copies past the first take, in words
   * @param first the most wasteful groups
   */
  record TwinList(int count, String spare, List<Twins> first) {}

  @GetMapping("/{id}/sectors")
  List<SectorRow> sectors(
      @PathVariable long id,
      @RequestParam long start,
      @RequestParam(defaultValue = "8") int count) {
    ImageEntity image = images.get(id);
    if (start < 0 || start >= image.sectors()) {
      throw new ShedException(
          "This image has the sectors 0 to " + Say.count(image.sectors() - 1) + ".");
    }
    int n = (int) Math.min(Math.max(1, Math.min(MOST_SECTORS, count)), image.sectors() - start);
    Whereabouts where = images.whereabouts(image);
    List<SectorRow> out = new ArrayList<>();
    try (Medium m = images.open(image)) {
      byte[] b = m.sectors(start, n);
      for (int i = 0; i < n; i++) {
        Optional<Place> p = where.at(start + i);
        long lba = start + i;
        out.add(
            new SectorRow(
                lba,
                HexFormat.of().formatHex(b, i * 512, (i + 1) * 512),
                p.map(x -> (x.kind() + " " + x.path()).strip()).orElse("nothing that is known"),
                p.map(x -> x.fields(lba)).orElse(List.of())));
      }
    }
    return out;
  }

  /**
   * The beginning of a file, with what it is.
   *
   * @param tokens the table by which BASIC is listed, 0 to list it by numbers; below that it is
   *     shown as it lies, like every other file
   */
  @GetMapping("/{id}/text")
  TextPart text(
      @PathVariable long id,
      @RequestParam int volume,
      @RequestParam String path,
      @RequestParam(defaultValue = "437") String page,
      @RequestParam(defaultValue = "-1") long tokens,
      @RequestParam(defaultValue = "") @Size(max = 4096) String in) {
    String charset = CODE_PAGES.get(page);
    if (charset == null) throw new ShedException("There is no code page " + page + " here.");
    ImageEntity image = images.get(id);
    try (Medium m = images.open(image, in)) {
      Volume v = images.volume(m, image, in, volume);
      Node n = file(v, path);
      byte[] head = head(v, n, Math.max(MOST_TEXT, Sample.wanted(n.bytes())));
      Sample sample =
          new Sample(
              Arrays.copyOf(head, Math.min(head.length, Sample.wanted(n.bytes()))), n.bytes());
      Known known = Kinds.of(sample);
      Optional<BasicLines> basic =
          known.kind() == Kind.BASIC ? BasicLines.of(sample) : Optional.empty();
      String text =
          basic
              .filter(b -> tokens >= 0)
              .map(b -> tokenTables.find(tokens).listing(b))
              .orElseGet(() -> asText(head, charset));
      return new TextPart(
          text.substring(0, Math.min(text.length(), MOST_TEXT)),
          n.bytes(),
          basic.isPresent() && tokens >= 0 ? text.length() <= MOST_TEXT : n.bytes() <= MOST_TEXT,
          known.kind() == Kind.OTHER ? "" : known.kind().words(),
          known.says(),
          known.fault(),
          basic.isPresent());
    }
  }

  private static byte[] head(Volume v, Node n, int most) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    try {
      v.read(
          n,
          (b, at, length) -> {
            out.write(b, at, Math.min(length, most - out.size()));
            if (out.size() >= most) throw new Enough();
          });
    } catch (Enough e) {
      // The rest is not looked at.
    }
    return out.toByteArray();
  }

  /** Up to the mark that ends a text on many systems. */
  private static String asText(byte[] b, String charset) {
    String text = new String(b, 0, Math.min(b.length, MOST_TEXT), Charset.forName(charset));
    int end = text.indexOf('\u001A');
    return (end >= 0 ? text.substring(0, end) : text).replace("\r\n", "\n").replace('\0', '\u00B7');
  }

  /**
   * A picture of a common old kind, for a browser to show; everything else is handed out as a file.
   */
  @GetMapping("/{id}/picture")
  ResponseEntity<byte[]> picture(
      @PathVariable long id,
      @RequestParam int volume,
      @RequestParam String path,
      @RequestParam(defaultValue = "") @Size(max = 4096) String in) {
    String kind = path.substring(path.lastIndexOf('.') + 1).toLowerCase(Locale.ROOT);
    String type = PICTURES.get(kind);
    if (type == null)
      throw new ShedException("A browser shows BMP, GIF, JPEG and PNG; this is none of them.");
    ImageEntity image = images.get(id);
    try (Medium m = images.open(image, in)) {
      Volume v = images.volume(m, image, in, volume);
      Node n = file(v, path);
      if (n.bytes() > MOST_PICTURE) {
        throw new ShedException("This picture has " + Say.size(n.bytes()) + "; get it as a file.");
      }
      ByteArrayOutputStream out = new ByteArrayOutputStream();
      v.read(n, out::write);
      return ResponseEntity.ok()
          .contentType(MediaType.parseMediaType(type))
          .body(out.toByteArray());
    }
  }

  /** Enough was read. */
  private static final class Enough extends RuntimeException {
    private static final long serialVersionUID = 1;

    Enough() {
      super(null, null, false, false);
    }
  }

  private static Node file(Volume v, String path) {
    return v.all().stream()
        .filter(n -> !n.folder() && n.path().equals(path))
        .findFirst()
        .orElseThrow(() -> new ShedException("There is no file of that path in the image."));
  }

  /** A folder, what has some letters in its path, or everything, as a zip with digests. */
  @GetMapping("/{id}/zip")
  ResponseEntity<StreamingResponseBody> zip(
      @PathVariable long id,
      @RequestParam int volume,
      @RequestParam(defaultValue = "") String folder,
      @RequestParam(defaultValue = "") String find,
      @RequestParam(defaultValue = "") @Size(max = 4096) String in) {
    ImageEntity image = images.get(id);
    Predicate<Node> wanted = FilesOut.under(folder).and(n -> n.hasLetters(find));
    try (Medium m = images.open(image, in)) {
      if (images.volume(m, image, in, volume).all().stream().noneMatch(wanted)) {
        throw new ShedException("There is no folder and no file of that path in the image.");
      }
    }
    String name =
        (folder.isEmpty() ? image.name() : folder).replaceAll("[^A-Za-z0-9 ._-]", "-") + ".zip";
    return Transfers.attachment(name)
        .body(Transfers.whole(out -> zip(image, in, volume, wanted, out)));
  }

  private void zip(
      ImageEntity image, String in, int volume, Predicate<Node> wanted, OutputStream to)
      throws IOException {
    Map<String, String> hit =
        image.hits().stream()
            .filter(h -> h.kind().equals("file"))
            .collect(
                Collectors.toMap(
                    Holes.Hit::path,
                    h -> Say.sectors(h.sectors()) + " of it did not come back",
                    (x, y) -> x));
    try (Medium m = images.open(image, in);
        ZipArchiveOutputStream zip = new ZipArchiveOutputStream(to)) {
      FilesOut.copy(images.volume(m, image, in, volume), wanted, into(zip), hit);
    }
  }

  private static FilesOut.Target into(ZipArchiveOutputStream zip) {
    return new FilesOut.Target() {
      @Override
      public void folder(String path, long millis) throws IOException {
        begin(path + "/", millis);
        zip.closeArchiveEntry();
      }

      @Override
      public OutputStream file(String path, long millis) throws IOException {
        begin(path, millis);
        return new FilterOutputStream(zip) {
          @Override
          public void write(byte[] b, int at, int length) throws IOException {
            zip.write(b, at, length);
          }

          @Override
          public void close() throws IOException {
            zip.closeArchiveEntry();
          }
        };
      }

      private void begin(String path, long millis) throws IOException {
        ZipArchiveEntry e = new ZipArchiveEntry(path);
        e.setTime(millis);
        zip.putArchiveEntry(e);
      }
    };
  }

  @GetMapping("/{id}/notable")
  Notable notable(@PathVariable long id, @RequestParam int volume) {
    ImageEntity image = images.get(id);
    try (Medium m = images.open(image)) {
      Volume v = images.volume(m, image, volume);
      List<Node> files = v.all().stream().filter(n -> !n.folder()).toList();
      List<Node> deleted = v.deleted();
      List<String> personal =
          files.stream().map(Node::path).filter(PrivateThings::isLikely).toList();
      Comparator<Node> byTime = ImageController.BY_TIME;
      return new Notable(
          notes(files, Comparator.comparingLong(Node::bytes).reversed()),
          notes(files, byTime.reversed()),
          notes(files.stream().filter(n -> n.time().isPresent()).toList(), byTime),
          notes(deleted.stream().limit(8).toList(), byTime.reversed()),
          deleted.size(),
          slack(images.survey(image), volume),
          personal.stream().limit(8).toList(),
          personal.size());
    }
  }

  /**
   * Waste by cluster size from these files (F-3); FAT16's sizes are the ones that are chosen among.
   */
  private static List<Plan.Slack> slack(Survey s, int volume) {
    return s.volumes().stream()
        .filter(v -> v.number() == volume)
        .findFirst()
        .map(v -> Slacks.of(v.sizes(), v.folders(), SLACK_OF, (int) v.use().clusterBytes()))
        .orElse(List.of());
  }

  private static List<FileNote> notes(List<Node> files, Comparator<Node> order) {
    return files.stream()
        .sorted(order)
        .limit(5)
        .map(n -> new FileNote(n.path(), n.bytes(), Say.size(n.bytes()), ImageController.time(n)))
        .toList();
  }

  /** Begins to look for files of one content; all that may be twins are read. */
  @PostMapping("/{id}/twins")
  @ResponseStatus(HttpStatus.ACCEPTED)
  ErrandView findTwins(@PathVariable long id, @RequestParam int volume) {
    ImageEntity image = images.get(id);
    return errands.begin(
        twinsKey(image, volume),
        progress -> {
          try (Medium m = images.open(image)) {
            List<Twins> all = Twins.of(images.volume(m, image, volume), progress);
            long spare = all.stream().mapToLong(Twins::spare).sum();
            return new TwinList(
                all.size(), Say.size(spare), all.stream().limit(MOST_TWINS).toList());
          }
        });
  }

  /** Files of one content, once they were looked for. */
  @GetMapping("/{id}/twins")
  TwinList twins(@PathVariable long id, @RequestParam int volume) {
    return errands
        .found(twinsKey(images.get(id), volume), TwinList.class)
        .orElseThrow(() -> new EntityNotFoundException("Nobody looked for twins here yet."));
  }

  private static String twinsKey(ImageEntity image, int volume) {
    return "twins " + image.sha256() + " " + volume;
  }
}
