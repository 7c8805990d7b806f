package lanternshed.server.pictures;

import jakarta.persistence.EntityNotFoundException;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import lanternshed.core.measure.ShedException;
import lanternshed.server.jobs.JobService;
import lanternshed.server.shell.Events;
import lanternshed.server.shell.Shelf;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Takes in pictures, and keeps the map of fasteners on them. */
@Service
public class PictureService {
  private final PictureRepository pictures;
  private final FastenerRepository fasteners;
  private final JobService jobs;
  private final Shelf shelf;
  private final Events events;
  private final Clock clock;

  PictureService(
      PictureRepository pictures,
      FastenerRepository fasteners,
      JobService jobs,
      Shelf shelf,
      Events events,
      Clock clock) {
    this.pictures = pictures;
    this.fasteners = fasteners;
    this.jobs = jobs;
    this.shelf = shelf;
    this.events = events;
    this.clock = clock;
  }

  /** A fastener: number in the order of undoing, place in thousandths, and where it lies now. */
  public record Mark(
      @Min(1) @Max(99) int number,
      @Min(0) @Max(1000) int x,
      @Min(0) @Max(1000) int y,
      @NotNull @Size(max = 60) String kind,
      @NotNull @Size(max = 20) String length,
      @NotNull @Size(max = 80) String lies) {}

  /**
   * @param fasteners in the order of undoing; putting together is the reverse
   */
  public record PictureView(
      long id,
      String place,
      String name,
      int width,
      int height,
      Instant created,
      List<Mark> fasteners) {}

  public List<PictureView> of(long job) {
    jobs.get(job);
    return pictures.findByJobIdAndRemovedFalseOrderById(job).stream().map(this::view).toList();
  }

  PictureView view(PictureEntity p) {
    return new PictureView(
        p.id(),
        p.place(),
        p.name(),
        p.width(),
        p.height(),
        p.created(),
        fasteners.findByPictureIdOrderByNumber(p.id()).stream().map(FastenerEntity::view).toList());
  }

  /** Keeps a picture from a stream; what is refused leaves nothing behind. */
  @Transactional
  public PictureView add(long job, String place, String name, InputStream in) throws IOException {
    return keep(job, place, name, clock.instant(), in, PictureFile::keep);
  }

  /**
   * Keeps a picture that another shed kept before: as it is, byte by byte, where it is as one is
   * kept here.
   *
   * @param taken when it came there
   */
  @Transactional
  public PictureView again(long job, String place, String name, Instant taken, InputStream in)
      throws IOException {
    return keep(job, place, name, taken, in, PictureFile::again);
  }

  private PictureView keep(
      long job, String place, String name, Instant taken, InputStream in, PictureFile.Way way)
      throws IOException {
    jobs.get(job);
    if (!place.matches("(inspection|fit|prove):\\d{1,4}|map|log")) {
      throw new ShedException(
          "A picture belongs to a point of a list, to the map or to the logbook.");
    }
    Path half = shelf.freshHalf();
    try {
      shelf.receive(in, half, PictureFile.MOST_BYTES, "picture");
      Path picture = shelf.freshHalf();
      Path small = shelf.freshHalf();
      try {
        PictureFile.Kept kept = way.keep(half, picture, small);
        PictureEntity p =
            pictures.saveAndFlush(new PictureEntity(job, place, named(name), kept, taken));
        Files.move(picture, shelf.picture(p.id(), false));
        Files.move(small, shelf.picture(p.id(), true));
        events.tell("job", Map.of("id", job));
        return view(p);
      } finally {
        Files.deleteIfExists(picture);
        Files.deleteIfExists(small);
      }
    } finally {
      Files.deleteIfExists(half);
    }
  }

  private static String named(String name) {
    String last = name.replace('\\', '/');
    last = last.substring(last.lastIndexOf('/') + 1).replaceAll("\\p{Cntrl}", "").strip();
    return last.isEmpty() ? "picture" : last.substring(0, Math.min(100, last.length()));
  }

  public Path file(long id, boolean small) {
    get(id);
    return shelf.picture(id, small);
  }

  private PictureEntity get(long id) {
    return pictures
        .findById(id)
        .orElseThrow(() -> new EntityNotFoundException("There is no picture " + id + "."));
  }

  /** Takes a picture away, or puts it back. */
  @Transactional
  public void remove(long id, boolean removed) {
    PictureEntity p = get(id);
    p.setRemoved(removed);
    events.tell("job", Map.of("id", p.jobId()));
  }

  /** Keeps the fasteners of a picture; numbers are those of the order of undoing, each once. */
  @Transactional
  public PictureView mark(long id, List<Mark> marks) {
    PictureEntity p = get(id);
    if (marks.stream().map(Mark::number).distinct().count() != marks.size()) {
      throw new ShedException("Two fasteners have one number; each has its own.");
    }
    fasteners.deleteByPictureId(id);
    fasteners.flush();
    marks.forEach(f -> fasteners.save(new FastenerEntity(id, f)));
    fasteners.flush();
    return view(p);
  }
}
