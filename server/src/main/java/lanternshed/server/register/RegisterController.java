package lanternshed.server.register;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import lanternshed.core.measure.Say;
import lanternshed.server.images.ImageEntity;
import lanternshed.server.images.ImageService;
import lanternshed.server.jobs.JobEntity;
import lanternshed.server.jobs.JobService;
import lanternshed.server.media.MediaService;
import lanternshed.server.media.MediumEntity;
import lanternshed.server.plans.PlanService;
import lanternshed.server.shell.CsvText;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** The cards of the shed and what is on each by its last read-back (Z-5). */
@RestController
class RegisterController {
  private final MediaService media;
  private final ImageService images;
  private final JobService jobs;
  private final PlanService plans;

  RegisterController(MediaService media, ImageService images, JobService jobs, PlanService plans) {
    this.media = media;
    this.images = images;
    this.jobs = jobs;
    this.plans = plans;
  }

  /**
   * One card.
   *
   * @param serial its serial, or the device node of a card that tells none
   * @param image 0 where nothing is known to be on it
   * @param sha256 of that image
   * @param job that made the image; 0 where none did
   * @param since when it read back as that image; absent where that was not kept
   * @param lies where the card itself lies, as somebody wrote it
   */
  record RegisterRow(
      long card,
      String name,
      String serial,
      String size,
      long image,
      String imageName,
      String sha256,
      long job,
      String machine,
      String system,
      Optional<Instant> since,
      String lies) {}

  record NewPlace(@NotNull @Size(max = 200) String lies) {}

  @GetMapping("/api/register")
  List<RegisterRow> all() {
    return rows(media.all().stream().filter(MediumEntity::isCard).toList()).stream()
        .sorted(
            Comparator.comparing((RegisterRow r) -> r.image() == 0)
                .thenComparing(RegisterRow::name))
        .toList();
  }

  @PutMapping("/api/register/{card}")
  RegisterRow lies(@PathVariable long card, @RequestBody @Valid NewPlace place) {
    return rows(List.of(media.lies(card, place.lies().strip()))).get(0);
  }

  @GetMapping("/api/register.csv")
  ResponseEntity<String> csv() {
    StringWriter out = new StringWriter();
    CSVFormat format =
        CSVFormat.RFC4180
            .builder()
            .setHeader(
                "card", "serial", "size", "image", "sha256", "machine", "system", "since", "lies")
            .get();
    try (CSVPrinter p = new CSVPrinter(out, format)) {
      for (RegisterRow r : all()) {
        p.printRecord(
            CsvText.safe(r.name()),
            CsvText.safe(r.serial()),
            r.size(),
            CsvText.safe(r.imageName()),
            r.sha256(),
            CsvText.safe(r.machine()),
            CsvText.safe(r.system()),
            r.since().map(Instant::toString).orElse(""),
            CsvText.safe(r.lies()));
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return ResponseEntity.ok()
        .header(HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"register.csv\"")
        .contentType(new MediaType("text", "csv", StandardCharsets.UTF_8))
        .body(out.toString());
  }

  private List<RegisterRow> rows(List<MediumEntity> cards) {
    Set<Long> held = new HashSet<>();
    cards.forEach(m -> m.holdsImage().ifPresent(held::add));
    Map<Long, ImageEntity> there = images.known(held);
    // By the image and not by the card: of several cards of one job only the last stands there.
    Map<Long, JobEntity> makers = jobs.made(there.keySet());
    return cards.stream()
        .map(
            m -> {
              Optional<Long> image = m.holdsImage().filter(there::containsKey);
              return row(m, image.map(there::get), image.map(makers::get));
            })
        .toList();
  }

  private RegisterRow row(MediumEntity m, Optional<ImageEntity> image, Optional<JobEntity> job) {
    return new RegisterRow(
        m.id(),
        m.name(),
        m.serial().isEmpty() ? m.node() : m.serial(),
        Say.mib(m.card().planSectors() * 512),
        image.map(ImageEntity::id).orElse(0L),
        image.map(ImageEntity::name).orElse(""),
        image.map(ImageEntity::sha256).orElse(""),
        job.map(JobEntity::id).orElse(0L),
        job.map(JobEntity::machine).orElse(""),
        job.flatMap(plans::system).orElse(""),
        image.flatMap(i -> m.heldSince()),
        m.lies());
  }
}
