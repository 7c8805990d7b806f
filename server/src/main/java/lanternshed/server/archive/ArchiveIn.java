package lanternshed.server.archive;

import jakarta.persistence.PersistenceException;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.DateTimeException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import lanternshed.core.machine.ProfileFile;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sha256;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.work.Progress;
import lanternshed.core.work.StoppedException;
import lanternshed.server.archive.JobRows.Numbers;
import lanternshed.server.archive.JobRows.Table;
import lanternshed.server.errands.Errands;
import lanternshed.server.files.BroughtService;
import lanternshed.server.files.DesktopFiles;
import lanternshed.server.images.ImageEntity;
import lanternshed.server.images.ImageService;
import lanternshed.server.logbook.LogService;
import lanternshed.server.machines.MachineService;
import lanternshed.server.pictures.PictureService;
import lanternshed.server.shell.Database;
import lanternshed.server.shell.Json;
import lanternshed.server.shell.Shelf;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataAccessException;
import org.springframework.stereotype.Service;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/**
 * Takes in the archive of a job, which anybody may have written: it is tried in a transaction that
 * is undone before anything of it is kept.
 */
@Service
class ArchiveIn {
  private static final Logger LOG = LoggerFactory.getLogger(ArchiveIn.class);
  private static final int MOST_ROWS = 32 << 20;

  /** A few letters of JSON can be a great many values in memory. */
  private static final int MOST_VALUES = 1_500_000;

  private static final long MOST_SECTORS = 1L << 33;

  private final JobRows rows;
  private final ImageService images;
  private final MachineService machines;
  private final PictureService pictures;
  private final DesktopFiles desktop;
  private final ReadThrough reads;
  private final LogService log;
  private final Shelf shelf;
  private final TransactionTemplate transaction;

  ArchiveIn(
      JobRows rows,
      ImageService images,
      MachineService machines,
      PictureService pictures,
      DesktopFiles desktop,
      ReadThrough reads,
      LogService log,
      Shelf shelf,
      TransactionTemplate transaction) {
    this.rows = rows;
    this.images = images;
    this.machines = machines;
    this.pictures = pictures;
    this.desktop = desktop;
    this.reads = reads;
    this.log = log;
    this.shelf = shelf;
    this.transaction = transaction;
  }

  /**
   * Takes in what another shed wrote, as a job of this one.
   *
   * @throws ShedException with the first thing that is wrong; of a job that does not hold together
   *     nothing is kept
   */
  Errands.Made takeIn(Path file, Progress progress) {
    try (BagReader bag = new BagReader(file, progress)) {
      return holdsTogether(() -> taken(bag, progress));
    }
  }

  private Errands.Made taken(BagReader bag, Progress progress) {
    String text = bag.text(Inside.ROWS, MOST_ROWS);
    // Images are read once, as they come to the shelf; all else is held against its digest first.
    for (String path : bag.paths()) {
      progress.at("looking at " + path, 0, 0);
      if (!Inside.isImage(path)) bag.read(path, DesktopFiles.MOST_BYTES, in -> {});
    }
    tried(bag, text);
    Map<String, List<ObjectNode>> all = all(text);
    Numbers numbers = new Numbers();
    try {
      int came = images(bag, all.get(JobRows.IMAGE.name()), numbers, progress);
      files(bag, all.get(JobRows.BROUGHT.name()), progress);
      files(bag, drivers(all), progress);
      return kept(bag, all, numbers, came);
    } catch (StoppedException e) {
      throw e;
    } catch (ShedException e) {
      int whole = numbers.count(JobRows.IMAGE.name());
      if (whole == 0) throw e;
      throw new ShedException(
          e.getMessage()
              + " The job was not taken in; "
              + Say.plural(
                  whole, "image of it that is whole lies", "images of it that are whole lie")
              + " on the shelf.",
          e);
    }
  }

  private interface Step<T> {
    T take();
  }

  /** What somebody else wrote may be anything; whatever comes of it is one sentence. */
  private static <T> T holdsTogether(Step<T> step) {
    try {
      return step.take();
    } catch (PersistenceException
        | DataAccessException
        | JacksonException
        | DateTimeException
        | IllegalArgumentException
        | IllegalStateException
        | NullPointerException
        | ClassCastException e) {
      // Of an archive that may be good nothing is said.
      if (Database.isAway(e) || Database.isBusy(e)) throw e;
      LOG.warn("an archive was refused", e);
      Throwable last = e;
      while (last.getCause() != null && last.getCause() != last) last = last.getCause();
      String why = String.valueOf(last.getMessage()).lines().findFirst().orElse("");
      throw new ShedException(
          "What this archive says of its job does not hold together: "
              + why
              + ". It was changed, or is damaged.",
          e);
    }
  }

  /** A profile that does not ship; one of that key that is here stays as it is. */
  private void machine(BagReader bag) {
    if (!bag.paths().contains(Inside.MACHINE)) return;
    String text = bag.text(Inside.MACHINE, ProfileFile.MOST_BYTES);
    String key = ProfileFile.read(text).key();
    if (machines.find(key).isEmpty()) machines.add(text);
  }

  private static Map<String, List<ObjectNode>> all(String text) {
    long values = text.chars().filter(c -> c == ',' || c == '{' || c == '[').count();
    if (values > MOST_VALUES) {
      throw new ShedException("This archive says more of its job than any shed keeps of one.");
    }
    ObjectNode read;
    try {
      read = Json.read(text, ObjectNode.class);
    } catch (JacksonException e) {
      throw new ShedException(
          Inside.ROWS + " of this archive is no JSON: it is damaged. Nothing of it was taken in.",
          e);
    }
    Map<String, List<ObjectNode>> out = new LinkedHashMap<>();
    for (Table t : JobRows.ALL) {
      List<ObjectNode> rows = new ArrayList<>();
      for (JsonNode row : read.path(t.name())) {
        if (row instanceof ObjectNode o) rows.add(o);
        else throw new ShedException(Inside.ROWS + " of this archive holds a row that is none.");
      }
      read.remove(t.name());
      out.put(t.name(), rows);
    }
    if (!read.isEmpty()) {
      throw new ShedException(
          "This archive keeps something that is not known here: a newer shed wrote it. Bring this"
              + " one up to date first.");
    }
    if (out.get(JobRows.JOB.name()).size() != 1) {
      throw new ShedException("This archive does not hold one job; nothing of it was taken in.");
    }
    return out;
  }

  /** The whole of it in a transaction that is undone, read as the screens will read it. */
  private void tried(BagReader bag, String text) {
    Map<String, List<ObjectNode>> all = all(text);
    for (ObjectNode p : all.get(JobRows.PICTURE.name())) {
      needs(bag, Inside.picture(p.path("id").asLong(0)));
    }
    for (ObjectNode f : all.get(JobRows.BROUGHT.name())) {
      BroughtService.plain(f.path("path").asString());
      needs(bag, Inside.file(f.path("sha256").asString()));
    }
    for (ObjectNode d : drivers(all)) {
      needs(bag, Inside.file(d.path("sha256").asString()));
    }
    for (ObjectNode r : all.get(JobRows.ROM.name())) rom(r);
    for (ObjectNode i : all.get(JobRows.IMAGE.name())) {
      long sectors = i.path("sectors").asLong(0);
      boolean sound = i.path("sha256").asString().matches("[0-9a-f]{64}");
      if (!sound || sectors <= 0 || sectors > MOST_SECTORS) {
        throw new ShedException(
            "An image of this archive has no length or no digest that one has.");
      }
      ImageEntity.hits(i.path("hits").asString());
    }
    transaction.executeWithoutResult(
        t -> {
          t.setRollbackOnly();
          machine(bag);
          Numbers numbers = new Numbers();
          for (Table table : JobRows.ALL) {
            for (ObjectNode row : all.get(table.name())) insert(table, row, numbers);
          }
          rows.settle();
          reads.through(numbers.of("job", old(all)).orElseThrow());
        });
  }

  private static List<ObjectNode> drivers(Map<String, List<ObjectNode>> all) {
    return Inside.drivers(all.get(JobRows.JOB.name()).get(0).path("plan_choice").asString(""));
  }

  private static void needs(BagReader bag, String path) {
    if (bag.paths().contains(path)) return;
    throw new ShedException(path + " is not in this archive, and its job names it.");
  }

  private static long old(Map<String, List<ObjectNode>> all) {
    return all.get(JobRows.JOB.name()).get(0).path("id").asLong(0);
  }

  /** A chip's bytes are in its row; they are what the row says. */
  private static void rom(ObjectNode row) {
    byte[] b = HexFormat.of().parseHex(row.path("bytes").asString().replaceFirst("^\\\\x", ""));
    boolean same =
        b.length == row.path("size").asLong(-1)
            && Sha256.of(b).equals(row.path("sha256").asString());
    if (!same) throw new ShedException("A ROM of this archive is not what its digest says.");
  }

  private void insert(Table t, ObjectNode row, Numbers numbers) {
    rows.check(t, row);
    if (t == JobRows.IMAGE) {
      // Its bytes come by themselves, or not at all.
      row.put("here", false);
      if (images.ever(row.path("sha256").asString()).isPresent()) {
        numbers.put(
            t.name(),
            row.path("id").asLong(0),
            images.ever(row.path("sha256").asString()).get().id());
        return;
      }
    }
    if (t == JobRows.MEDIUM) {
      // The thing itself lies elsewhere: what is known of it comes, to be read and not opened.
      row.put("file", shelf.newMediumFile()).put("node", "").put("insertion", "");
      row.put("removed", true).put("mounted", false);
    }
    if (t == JobRows.JOB) {
      row.put("plan_choice", choiceHere(row.path("plan_choice").asString(), numbers));
      row.put("removed", false);
    }
    if (t == JobRows.TRIAL) {
      row.put(
          "parts",
          Arrays.stream(row.path("parts").asString().split(" "))
              .filter(p -> !p.isEmpty())
              .flatMap(p -> numbers.of(JobRows.PART.name(), Long.parseLong(p)).stream())
              .map(String::valueOf)
              .collect(Collectors.joining(" ")));
    }
    rows.insert(t, row, numbers);
  }

  /** Media and images of a plan under the numbers that they have here. */
  private static String choiceHere(String text, Numbers numbers) {
    if (text.isEmpty()) return "";
    ObjectNode was = Json.read(text, ObjectNode.class);
    ObjectNode choice = Json.read(text, ObjectNode.class);
    choice.put("cardId", numbers.of("medium", choice.path("cardId").asLong(0)).orElse(0L));
    ArrayNode drawer = choice.putArray("drawer");
    for (JsonNode d : was.path("drawer")) {
      numbers.of("medium", d.asLong(0)).ifPresent(drawer::add);
    }
    ArrayNode carried = choice.putArray("carried");
    for (JsonNode c : was.path("carried")) {
      numbers
          .of("image", c.path("imageId").asLong(0))
          .ifPresent(i -> carried.addObject().put("imageId", i).put("id", c.path("id").asInt(-1)));
    }
    return choice.toString();
  }

  /** Images whose bytes came; those that are on this shelf already are read, and not kept twice. */
  private int images(BagReader bag, List<ObjectNode> all, Numbers numbers, Progress progress) {
    int came = 0;
    for (ObjectNode row : all) {
      String sha256 = row.path("sha256").asString();
      if (!bag.paths().contains(Inside.image(sha256))) continue;
      Optional<ImageEntity> here = images.find(sha256);
      if (here.isPresent()) {
        bag.read(Inside.image(sha256), here.get().sectors() * 512, in -> {});
        if (here.get().sectors() != row.path("sectors").asLong(0)) {
          throw length(row.path("name").asString());
        }
      }
      ImageEntity image = here.orElseGet(() -> image(bag, row, sha256, progress));
      numbers.put("image", row.path("id").asLong(0), image.id());
      came++;
    }
    return came;
  }

  private ImageEntity image(BagReader bag, ObjectNode row, String sha256, Progress progress) {
    long sectors = row.path("sectors").asLong(0);
    String name = row.path("name").asString();
    ImageService.Source source =
        new ImageService.Source(
            row.path("origin").asString(),
            row.path("lost").asLong(0),
            ImageEntity.hits(row.path("hits").asString()),
            "");
    String layout = row.path("layout").asString("");
    ImageEntity made =
        images.make(
            name,
            sectors,
            source,
            to ->
                bag.read(
                    Inside.image(sha256),
                    sectors * 512 + 1,
                    in -> fill(to, in, name, sha256, progress)),
            progress);
    // What somebody said of it is held against its bytes, as when it is said.
    return layout.isEmpty() ? made : images.lies(made.id(), layout);
  }

  private static void fill(Medium to, InputStream in, String name, String sha256, Progress progress)
      throws IOException {
    var digest = Sha256.fresh();
    byte[] b = new byte[1 << 20];
    byte[] zero = new byte[1 << 20];
    long at = 0;
    for (int n = in.readNBytes(b, 0, b.length); n > 0; n = in.readNBytes(b, 0, b.length)) {
      if (n % 512 != 0 || at + n / 512 > to.sectors()) {
        throw length(name);
      }
      digest.update(b, 0, n);
      if (!Arrays.equals(b, 0, n, zero, 0, n)) to.write(at, n / 512, b, 0);
      at += n / 512;
      progress.at("bringing " + name, at * 512, to.sectors() * 512);
    }
    boolean same = at == to.sectors() && HexFormat.of().formatHex(digest.digest()).equals(sha256);
    if (!same) {
      throw new ShedException(name + " of this archive is not what its digest says.");
    }
  }

  private static ShedException length(String name) {
    return new ShedException(name + " of this archive is not as long as it says.");
  }

  private void files(BagReader bag, List<ObjectNode> all, Progress progress) {
    int done = 0;
    for (ObjectNode row : all) {
      String path = row.path("path").asString();
      String sha256 = row.path("sha256").asString();
      progress.at("bringing " + path, done++, all.size());
      if (Files.exists(shelf.brought(sha256))) continue;
      bag.read(
          Inside.file(sha256),
          DesktopFiles.MOST_BYTES,
          in -> {
            DesktopFiles.Kept kept = desktop.keep(path, in, row.path("bytes").asLong(-1));
            if (!kept.sha256().equals(sha256)) {
              throw new ShedException(path + " of this archive is not what its digest says.");
            }
          });
    }
  }

  private Errands.Made kept(
      BagReader bag, Map<String, List<ObjectNode>> all, Numbers numbers, int came) {
    return transaction.execute(
        t -> {
          machine(bag);
          for (Table table : JobRows.ALL) {
            for (ObjectNode row : all.get(table.name())) {
              boolean there = numbers.of(table.name(), row.path("id").asLong(0)).isPresent();
              if (table.numbered() && there) continue;
              if (table == JobRows.PICTURE) picture(bag, row, numbers);
              else insert(table, row, numbers);
            }
          }
          rows.settle();
          long job = numbers.of("job", old(all)).orElseThrow();
          reads.through(job);
          int more = all.get(JobRows.IMAGE.name()).size() - came;
          log.shed(
              job,
              1,
              "Taken in from an archive, with "
                  + Say.plural(came, "image", "images")
                  + (more > 0 ? "; of " + more + " more only the names came" : "")
                  + ". Its media lie where it was written.");
          return new Errands.Made(job);
        });
  }

  private void picture(BagReader bag, ObjectNode row, Numbers numbers) {
    long old = row.path("id").asLong(0);
    long job = numbers.of("job", row.path("job_id").asLong(0)).orElseThrow();
    bag.read(
        Inside.picture(old),
        DesktopFiles.MOST_BYTES,
        in ->
            numbers.put(
                JobRows.PICTURE.name(),
                old,
                pictures
                    .again(
                        job,
                        row.path("place").asString(),
                        row.path("name").asString(),
                        Instant.parse(
                            row.path("created").asString().replaceFirst("\\+00:00$", "Z")),
                        in)
                    .id()));
  }
}
