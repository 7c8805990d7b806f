package lanternshed.server.images;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.plan.Plan;
import lanternshed.core.plan.Slacks;
import lanternshed.core.survey.Fields;
import lanternshed.core.survey.Survey;
import lanternshed.core.survey.Whereabouts;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Volume;
import lanternshed.core.volume.fat.FatKind;
import lanternshed.core.volume.fat.FatVolume;
import org.apache.commons.compress.archivers.zip.ZipArchiveEntry;
import org.apache.commons.compress.archivers.zip.ZipArchiveOutputStream;
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

/**
 * Looking into an image: sectors with the names of what they are, text, folders as zip, two images.
 */
@RestController
@RequestMapping("/api/images")
class ContentsController {
  private static final int MOST_SECTORS = 32;
  private static final int MOST_TEXT = 64 << 10;
  private static final int MOST_RANGES = 200;
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

  /** Words in names and kinds of files that usually mean somebody's private things. */
  private static final Set<String> PRIVATE_KINDS =
      Set.of(
          "DOC", "WRI", "WPS", "TXT", "RTF", "MBX", "PST", "DBX", "EML", "ADR", "DBF", "XLS", "WK1",
          "QDF", "MNY");

  private static final List<String> PRIVATE_WORDS =
      List.of(
          "LETTER", "MAIL", "ADDRESS", "ADRESS", "DIARY", "TAX", "BANK", "PRIVAT", "PHOTO", "CV");

  private final ImageService images;

  ContentsController(ImageService images) {
    this.images = images;
  }

  /**
   * One sector.
   *
   * @param hex 1 024 digits
   * @param place what lies there, "file WEAVE/HERON001.PAT"
   */
  record SectorRow(long lba, String hex, String place, List<Fields.Field> fields) {}

  record TextPart(String text, long bytes, boolean whole) {}

  record FileNote(String path, long bytes, String size, String time) {}

  record Twin(String sha256, long bytes, List<String> paths) {}

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
      List<Twin> twins,
      List<FileNote> deleted,
      long deletedCount,
      List<Plan.Slack> slack,
      List<String> personal,
      long personalCount) {}

  record DifferenceRange(long start, long length, String place) {}

  /**
   * Two images against each other.
   *
   * @param chunks pieces of 16 MiB that differ, of all
   */
  record Difference(
      boolean identical,
      String sentence,
      int chunks,
      int allChunks,
      long sectors,
      List<DifferenceRange> ranges,
      List<String> files) {}

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
        Optional<Whereabouts.Place> p = where.at(start + i);
        long lba = start + i;
        out.add(
            new SectorRow(
                lba,
                HexFormat.of().formatHex(b, i * 512, (i + 1) * 512),
                p.map(x -> (x.kind() + " " + x.path()).strip()).orElse("nothing that is known"),
                p.map(x -> Fields.of(x.kind(), lba == x.start())).orElse(List.of())));
      }
    }
    return out;
  }

  @GetMapping("/{id}/text")
  TextPart text(
      @PathVariable long id,
      @RequestParam int volume,
      @RequestParam String path,
      @RequestParam(defaultValue = "437") String page) {
    String charset = CODE_PAGES.get(page);
    if (charset == null) throw new ShedException("There is no code page " + page + " here.");
    ImageEntity image = images.get(id);
    try (Medium m = images.open(image)) {
      Volume v = images.volume(m, image, volume);
      Node n = file(v, path);
      ByteArrayOutputStream out = new ByteArrayOutputStream();
      try {
        v.read(
            n,
            (b, at, length) -> {
              out.write(b, at, Math.min(length, MOST_TEXT - out.size()));
              if (out.size() >= MOST_TEXT) throw new Enough();
            });
      } catch (Enough e) {
        // The rest is not shown.
      }
      String text = new String(out.toByteArray(), Charset.forName(charset));
      int end = text.indexOf('\u001A');
      return new TextPart(
          (end >= 0 ? text.substring(0, end) : text).replace("\r\n", "\n").replace('\0', '\u00B7'),
          n.bytes(),
          out.size() == n.bytes());
    }
  }

  /**
   * A picture of a common old kind, for a browser to show; everything else is handed out as a file.
   */
  @GetMapping("/{id}/picture")
  ResponseEntity<byte[]> picture(
      @PathVariable long id, @RequestParam int volume, @RequestParam String path) {
    String kind = path.substring(path.lastIndexOf('.') + 1).toLowerCase(Locale.ROOT);
    String type = PICTURES.get(kind);
    if (type == null)
      throw new ShedException("A browser shows BMP, GIF, JPEG and PNG; this is none of them.");
    ImageEntity image = images.get(id);
    try (Medium m = images.open(image)) {
      Volume v = images.volume(m, image, volume);
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

  /** A folder, or everything, as a zip with the list of digests. */
  @GetMapping("/{id}/zip")
  ResponseEntity<StreamingResponseBody> zip(
      @PathVariable long id,
      @RequestParam int volume,
      @RequestParam(defaultValue = "") String folder) {
    ImageEntity image = images.get(id);
    String under = folder.isEmpty() ? "" : folder + "/";
    try (Medium m = images.open(image)) {
      boolean some =
          images.volume(m, image, volume).all().stream().anyMatch(n -> n.path().startsWith(under));
      if (!some) throw new ShedException("There is no folder of that path in the image.");
    }
    String name =
        (folder.isEmpty() ? image.name() : folder).replaceAll("[^A-Za-z0-9 ._-]", "-") + ".zip";
    return ResponseEntity.ok()
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            ContentDisposition.attachment()
                .filename(name, StandardCharsets.UTF_8)
                .build()
                .toString())
        .contentType(MediaType.APPLICATION_OCTET_STREAM)
        .body(out -> zip(image, volume, under, out));
  }

  private void zip(ImageEntity image, int volume, String under, OutputStream to)
      throws IOException {
    StringBuilder digests = new StringBuilder();
    try (Medium m = images.open(image);
        ZipArchiveOutputStream zip = new ZipArchiveOutputStream(to)) {
      Volume v = images.volume(m, image, volume);
      for (Node n : v.all()) {
        if (!n.path().startsWith(under)) continue;
        // A name on disk may hold anything; in the zip it stays below its folder.
        String path = n.path().replaceAll("(^|/)\\.+(?=/|$)", "$1_").replaceAll("[\\\\:]", "_");
        ZipArchiveEntry e = new ZipArchiveEntry(path + (n.folder() ? "/" : ""));
        e.setTime(millis(n.stamp()));
        zip.putArchiveEntry(e);
        if (!n.folder()) {
          MessageDigest d = sha256();
          v.read(
              n,
              (b, at, length) -> {
                d.update(b, at, length);
                try {
                  zip.write(b, at, length);
                } catch (IOException x) {
                  throw new UncheckedIOException(x);
                }
              });
          digests
              .append(HexFormat.of().formatHex(d.digest()))
              .append("  ")
              .append(path)
              .append('\n');
        }
        zip.closeArchiveEntry();
      }
      zip.putArchiveEntry(new ZipArchiveEntry("SHA256SUMS"));
      zip.write(digests.toString().getBytes(StandardCharsets.UTF_8));
      zip.closeArchiveEntry();
    }
  }

  /** Packed date and time as the time of a zip, which has no zone either. */
  private static long millis(int stamp) {
    int date = stamp >>> 16;
    int time = stamp & 0xFFFF;
    int month = Math.max(1, Math.min(12, date >> 5 & 15));
    int day = Math.max(1, Math.min(28, date & 31));
    return java.time.LocalDateTime.of(
            1980 + (date >> 9), month, day, Math.min(23, time >> 11), Math.min(59, time >> 5 & 63))
        .atZone(java.time.ZoneId.systemDefault())
        .toInstant()
        .toEpochMilli();
  }

  private static MessageDigest sha256() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (java.security.NoSuchAlgorithmException e) {
      throw new IllegalStateException(e);
    }
  }

  @GetMapping("/{id}/notable")
  Notable notable(@PathVariable long id, @RequestParam int volume) {
    ImageEntity image = images.get(id);
    try (Medium m = images.open(image)) {
      Volume v = images.volume(m, image, volume);
      List<Node> files = v.all().stream().filter(n -> !n.folder()).toList();
      List<Node> deleted = v instanceof FatVolume fat ? fat.deleted() : List.of();
      List<String> personal =
          files.stream().map(Node::path).filter(ContentsController::personal).toList();
      Comparator<Node> byTime = Comparator.comparingLong(n -> n.stamp() & 0xFFFF_FFFFL);
      return new Notable(
          notes(files, Comparator.comparingLong(Node::bytes).reversed()),
          notes(files, byTime.reversed()),
          notes(files.stream().filter(n -> n.stamp() != 0).toList(), byTime),
          twins(v, files),
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
        .map(v -> Slacks.of(v.sizes(), v.folders(), FatKind.FAT16, (int) v.use().clusterBytes()))
        .orElse(List.of());
  }

  private static boolean personal(String path) {
    String p = path.toUpperCase(Locale.ROOT);
    String kind = p.substring(p.lastIndexOf('.') + 1);
    return PRIVATE_KINDS.contains(kind) || PRIVATE_WORDS.stream().anyMatch(p::contains);
  }

  private static List<FileNote> notes(List<Node> files, Comparator<Node> order) {
    return files.stream()
        .sorted(order)
        .limit(5)
        .map(n -> new FileNote(n.path(), n.bytes(), Say.size(n.bytes()), ImageController.time(n)))
        .toList();
  }

  /** Files of one content: only those of equal length are read. */
  private static List<Twin> twins(Volume v, List<Node> files) {
    Map<Long, List<Node>> byLength = new HashMap<>();
    for (Node n : files)
      if (n.bytes() > 0) byLength.computeIfAbsent(n.bytes(), x -> new ArrayList<>()).add(n);
    long budget = 512L << 20;
    Map<String, List<Node>> byDigest = new HashMap<>();
    for (List<Node> same : byLength.values()) {
      if (same.size() < 2 || budget < 0) continue;
      for (Node n : same) {
        MessageDigest d = sha256();
        try {
          v.read(n, d::update);
        } catch (ShedException e) {
          continue;
        }
        budget -= n.bytes();
        byDigest
            .computeIfAbsent(HexFormat.of().formatHex(d.digest()), x -> new ArrayList<>())
            .add(n);
      }
    }
    return byDigest.entrySet().stream()
        .filter(e -> e.getValue().size() > 1)
        .map(
            e ->
                new Twin(
                    e.getKey(),
                    e.getValue().get(0).bytes(),
                    e.getValue().stream().map(Node::path).toList()))
        .sorted(Comparator.comparingLong((Twin t) -> t.bytes() * (t.paths().size() - 1)).reversed())
        .limit(8)
        .toList();
  }

  /** Compares by chunk digest, then by sector, then by file. */
  @GetMapping("/{id}/against/{other}")
  Difference against(@PathVariable long id, @PathVariable long other) {
    ImageEntity a = images.get(id);
    ImageEntity b = images.get(other);
    List<String> x = a.chunks();
    List<String> y = b.chunks();
    int all = Math.max(x.size(), y.size());
    if (a.sha256().equals(b.sha256())) {
      return new Difference(
          true, "The two are identical to the byte.", 0, all, 0, List.of(), List.of());
    }
    Whereabouts where = images.whereabouts(a);
    List<DifferenceRange> ranges = new ArrayList<>();
    Set<String> files = new TreeSet<>();
    int chunks = 0;
    long sectors = 0;
    try (Medium m = images.open(a);
        Medium n = images.open(b)) {
      for (int c = 0; c < Math.min(x.size(), y.size()); c++) {
        if (x.get(c).equals(y.get(c))) continue;
        chunks++;
        sectors += chunk(m, n, c, where, ranges, files);
      }
    }
    chunks += Math.abs(x.size() - y.size());
    String longer =
        a.sectors() == b.sectors()
            ? ""
            : " One is longer by " + Say.sectors(Math.abs(a.sectors() - b.sectors())) + ".";
    return new Difference(
        false,
        Say.sectors(sectors)
            + " differ, in "
            + chunks
            + " of "
            + Say.plural(all, "chunk", "chunks")
            + " of 16 MiB; "
            + Say.plural(files.size(), "file is", "files are")
            + " touched."
            + longer,
        chunks,
        all,
        sectors,
        ranges,
        List.copyOf(files));
  }

  private static long chunk(
      Medium m,
      Medium n,
      int chunk,
      Whereabouts where,
      List<DifferenceRange> ranges,
      Set<String> files) {
    long from = chunk * 32_768L;
    long to = Math.min(from + 32_768, Math.min(m.sectors(), n.sectors()));
    byte[] p = new byte[2048 * 512];
    byte[] q = new byte[2048 * 512];
    long sectors = 0;
    for (long lba = from; lba < to; lba += 2048) {
      int count = (int) Math.min(2048, to - lba);
      m.read(lba, count, p, 0);
      n.read(lba, count, q, 0);
      for (int s = 0; s < count; s++) {
        if (java.util.Arrays.equals(p, s * 512, s * 512 + 512, q, s * 512, s * 512 + 512)) continue;
        sectors++;
        long at = lba + s;
        DifferenceRange last = ranges.isEmpty() ? null : ranges.get(ranges.size() - 1);
        if (last != null && last.start() + last.length() == at) {
          ranges.set(
              ranges.size() - 1,
              new DifferenceRange(last.start(), last.length() + 1, last.place()));
          continue;
        }
        Optional<Whereabouts.Place> place = where.at(at);
        place.filter(x -> x.kind().equals("file")).ifPresent(x -> files.add(x.path()));
        if (ranges.size() < MOST_RANGES) {
          ranges.add(
              new DifferenceRange(
                  at, 1, place.map(x -> (x.kind() + " " + x.path()).strip()).orElse("")));
        }
      }
    }
    return sectors;
  }
}
