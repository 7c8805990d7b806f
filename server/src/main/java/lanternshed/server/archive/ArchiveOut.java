package lanternshed.server.archive;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import lanternshed.core.machine.ProfileFile;
import lanternshed.core.measure.Say;
import lanternshed.core.medium.Medium;
import lanternshed.server.archive.ArchiveView.ArchiveImage;
import lanternshed.server.archive.JobRows.Table;
import lanternshed.server.images.ImageEntity;
import lanternshed.server.images.ImageService;
import lanternshed.server.jobs.JobEntity;
import lanternshed.server.jobs.JobService;
import lanternshed.server.machines.MachineService;
import lanternshed.server.pictures.PictureService;
import lanternshed.server.shell.Json;
import lanternshed.server.shell.Shelf;
import org.springframework.stereotype.Service;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/**
 * A whole job as one file: all that was written down, its pictures, the files that were brought to
 * it and the images that somebody chose.
 */
@Service
class ArchiveOut {
  /** Tables whose rows come along though somebody took them out of sight. */
  private static final Set<Table> WHOLE = Set.of(JobRows.JOB, JobRows.MEDIUM, JobRows.IMAGE);

  private final JobRows rows;
  private final JobService jobs;
  private final ImageService images;
  private final MachineService machines;
  private final PictureService pictures;
  private final Shelf shelf;

  ArchiveOut(
      JobRows rows,
      JobService jobs,
      ImageService images,
      MachineService machines,
      PictureService pictures,
      Shelf shelf) {
    this.rows = rows;
    this.jobs = jobs;
    this.images = images;
    this.machines = machines;
    this.pictures = pictures;
    this.shelf = shelf;
  }

  /** What would come along. */
  ArchiveView view(long id) {
    Map<Long, String> named = named(id);
    List<ArchiveImage> list = new ArrayList<>();
    named.forEach(
        (image, what) -> {
          ImageEntity i = images.get(image);
          boolean here = images.known(image).isPresent();
          list.add(new ArchiveImage(image, i.name(), what, Say.size(i.sectors() * 512), here));
        });
    long files =
        rows.rows(JobRows.BROUGHT, Set.of(id)).stream().filter(ArchiveOut::inSight).count();
    return new ArchiveView(list, pictures.of(id).size(), (int) files);
  }

  private static boolean inSight(ObjectNode row) {
    return !row.path("removed").asBoolean(false);
  }

  /** Images that the job names, by number what each is to it. */
  private Map<Long, String> named(long id) {
    JobEntity job = jobs.get(id);
    Map<Long, String> out = new LinkedHashMap<>();
    job.rescuedId().ifPresent(i -> out.putIfAbsent(i, "as rescued"));
    job.builtId().ifPresent(i -> out.putIfAbsent(i, "as built"));
    job.goldenId().ifPresent(i -> out.putIfAbsent(i, "as it came back from the machine"));
    for (ObjectNode m : rows.rows(JobRows.MEDIUM, media(job))) {
      long held = m.path("holds_image").asLong(0);
      if (held > 0) out.putIfAbsent(held, "as a card holds it");
    }
    for (JsonNode c : choice(job.planChoice()).path("carried")) {
      long carried = c.path("imageId").asLong(0);
      if (images.known(carried).isPresent()) out.putIfAbsent(carried, "as the card carries it");
    }
    return out;
  }

  private static Set<Long> media(JobEntity job) {
    Set<Long> out = new LinkedHashSet<>();
    job.mediumId().ifPresent(out::add);
    job.cardId().ifPresent(out::add);
    long planned = choice(job.planChoice()).path("cardId").asLong(0);
    if (planned > 0) out.add(planned);
    return out;
  }

  private static ObjectNode choice(String planChoice) {
    return Json.read(planChoice.isEmpty() ? "{}" : planChoice, ObjectNode.class);
  }

  /** All rows, by table. */
  private Map<String, List<ObjectNode>> all(long id) {
    JobEntity job = jobs.get(id);
    Map<String, Set<Long>> known = new HashMap<>();
    known.put("job", Set.of(id));
    known.put("medium", media(job));
    known.put("image", named(id).keySet());
    Map<String, List<ObjectNode>> out = new LinkedHashMap<>();
    for (Table t : JobRows.ALL) {
      List<ObjectNode> found =
          rows.rows(t, known.getOrDefault(t.of(), Set.of())).stream()
              .filter(r -> WHOLE.contains(t) || inSight(r))
              .toList();
      out.put(t.name(), found);
      if (t.numbered() && !known.containsKey(t.name())) {
        known.put(
            t.name(), found.stream().map(r -> r.path("id").asLong()).collect(Collectors.toSet()));
      }
    }
    return out;
  }

  /**
   * Writes the archive.
   *
   * @param chosen images whose bytes come along
   */
  void write(long id, Set<Long> chosen, OutputStream to) throws IOException {
    Map<String, List<ObjectNode>> all = all(id);
    JobEntity job = jobs.get(id);
    try (BagWriter bag = new BagWriter(to, "job-" + id)) {
      bag.put(Inside.ROWS, Json.written(all));
      Optional<MachineService.Known> own =
          machines.all().stream()
              .filter(k -> k.own() && k.profile().key().equals(job.profile()))
              .findFirst();
      if (own.isPresent()) bag.put(Inside.MACHINE, ProfileFile.write(own.get().profile()));
      if (!job.recipe().isEmpty()) bag.put("recipe.json", job.recipe());
      for (ObjectNode p : all.get(JobRows.PICTURE.name())) {
        Path file = pictures.file(p.path("id").asLong(), false);
        bag.put(
            Inside.picture(p.path("id").asLong()), Files.size(file), out -> Files.copy(file, out));
      }
      Set<String> files = new LinkedHashSet<>();
      for (ObjectNode f : all.get(JobRows.BROUGHT.name())) files.add(f.path("sha256").asString());
      for (ObjectNode d : Inside.drivers(job.planChoice())) files.add(d.path("sha256").asString());
      for (String sha256 : files) {
        Path file = shelf.brought(sha256);
        bag.put(Inside.file(sha256), Files.size(file), out -> Files.copy(file, out));
      }
      for (Long image : named(id).keySet()) {
        if (chosen.contains(image)) image(bag, images.get(image));
      }
    }
  }

  private void image(BagWriter bag, ImageEntity image) throws IOException {
    try (Medium m = images.open(image)) {
      bag.put(
          Inside.image(image.sha256()),
          m.bytes(),
          out -> {
            byte[] b = new byte[1 << 20];
            for (long s = 0; s < m.sectors(); s += b.length / 512) {
              int n = (int) Math.min(b.length / 512, m.sectors() - s);
              m.read(s, n, b, 0);
              out.write(b, 0, n * 512);
            }
          });
    }
  }
}
