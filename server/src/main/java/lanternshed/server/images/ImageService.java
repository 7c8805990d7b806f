package lanternshed.server.images;

import jakarta.persistence.EntityNotFoundException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Collection;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import lanternshed.core.catalogue.LaidOutMedium;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.ReadOnlyMedium;
import lanternshed.core.survey.Holes;
import lanternshed.core.survey.Inside;
import lanternshed.core.survey.StartFiles;
import lanternshed.core.survey.Survey;
import lanternshed.core.survey.Surveyor;
import lanternshed.core.survey.Volumes;
import lanternshed.core.survey.Whereabouts;
import lanternshed.core.volume.Volume;
import lanternshed.core.work.Digests;
import lanternshed.core.work.Progress;
import lanternshed.core.work.VerifiedMedium;
import lanternshed.server.shell.ConflictException;
import lanternshed.server.shell.Rows;
import lanternshed.server.shell.Shelf;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Keeps finished images and reads them. */
@Service
public class ImageService {
  private static final String MISSING = "There is no such image on the shelf.";
  private static final int KEPT_SURVEYS = 12;
  private static final int KEPT_PLACES = 3;
  private final ImageRepository images;
  private final Shelf shelf;
  private final Clock clock;

  /** Surveys by digest: an image never changes, so its survey does not either. */
  private final Map<String, Survey> surveys = lastUsed(KEPT_SURVEYS);

  private final Map<String, Whereabouts> places = lastUsed(KEPT_PLACES);

  private final Map<String, Map<String, Set<Integer>>> lying = lastUsed(KEPT_SURVEYS);

  private static <T> Map<String, T> lastUsed(int most) {
    return Collections.synchronizedMap(
        new LinkedHashMap<>(16, 0.75f, true) {
          @Override
          protected boolean removeEldestEntry(Map.Entry<String, T> e) {
            return size() > most;
          }
        });
  }

  private static final int MOST_LAYOUT = 200;
  private final ObjectProvider<ImageUse> users;
  private final Rows rows;

  ImageService(
      ImageRepository images, Shelf shelf, Clock clock, ObjectProvider<ImageUse> users, Rows rows) {
    this.rows = rows;
    this.users = users;
    this.images = images;
    this.shelf = shelf;
    this.clock = clock;
  }

  public List<ImageEntity> all() {
    return images.findByRemovedFalseOrderByCreatedDesc();
  }

  /** All that the shelf keeps, what was taken out of sight too. */
  List<ImageEntity> everything() {
    return images.findByHereTrueOrderByRemovedDescNameAsc();
  }

  /** Why the bytes on the shelf are not those that were kept; empty where they are. */
  public Optional<String> spoiled(ImageEntity i, Progress progress) {
    if (!Files.exists(shelf.image(i.sha256()))) return Optional.of("its file is gone");
    try (Medium m = FileMedium.open(shelf.image(i.sha256()))) {
      if (m.sectors() != i.sectors()) {
        return Optional.of(
            "it has " + Say.sectors(m.sectors()) + " instead of " + Say.count(i.sectors()));
      }
      Digests now = Digests.of(m, progress, "reading " + i.name());
      if (now.sha256().equals(i.sha256())) return Optional.empty();
      int chunk = 0;
      while (chunk < i.chunks().size() && i.chunks().get(chunk).equals(now.chunks().get(chunk)))
        chunk++;
      return Optional.of(
          "it differs from its digest, first within the 16 MiB from sector "
              + Say.count((long) chunk * Digests.CHUNK_BYTES / 512)
              + " on");
    } catch (ShedException e) {
      return Optional.of(e.getMessage());
    }
  }

  ImageEntity rename(long id, String name) {
    return change(id, i -> i.setName(name));
  }

  /**
   * Takes an image out of sight, or brings it back; its bytes stay on the shelf.
   *
   * @throws ConflictException where a job needs it
   */
  ImageEntity remove(long id, boolean removed) {
    return change(
        id,
        i -> {
          if (removed) needless(i);
          else if (!i.here()) throw gone(i);
          i.setRemoved(removed);
        });
  }

  private void needless(ImageEntity i) {
    users.stream()
        .flatMap(u -> u.needing(i.id()).stream())
        .findFirst()
        .ifPresent(
            job -> {
              throw new ConflictException(
                  "\"" + i.name() + "\" belongs to the job " + job + "; it stays with it.");
            });
  }

  private ImageEntity change(long id, Consumer<ImageEntity> how) {
    return rows.change(ImageEntity.class, id, MISSING, how);
  }

  private static ShedException gone(ImageEntity i) {
    return new ShedException(
        "The room of “" + i.name() + "” was got back: its bytes are gone. Bring it in again.");
  }

  public ImageEntity get(Long id) {
    return Optional.ofNullable(id)
        .flatMap(images::findById)
        .orElseThrow(() -> new EntityNotFoundException(MISSING));
  }

  /**
   * An image that the transaction is about to name: until it ends nobody gives its bytes back, and
   * whoever looks afterwards whether it is needed finds who named it.
   *
   * @throws ShedException where its bytes are gone
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public ImageEntity hold(long id) {
    boolean gone = images.hold(id).filter(here -> !here).isPresent();
    ImageEntity image = get(id);
    if (gone) throw gone(image);
    return image;
  }

  /** Those of some images whose bytes are still here, by id, in one statement. */
  public Map<Long, ImageEntity> known(Collection<Long> ids) {
    return images.findAllById(ids).stream()
        .filter(ImageEntity::here)
        .filter(i -> Files.exists(shelf.image(i.sha256())))
        .collect(Collectors.toMap(ImageEntity::id, i -> i));
  }

  /** An image by its id, where its bytes are still here. */
  public Optional<ImageEntity> known(long id) {
    return images
        .findById(id)
        .filter(ImageEntity::here)
        .filter(i -> Files.exists(shelf.image(i.sha256())));
  }

  /** The image of that digest, whether or not its bytes are still here. */
  public Optional<ImageEntity> ever(String sha256) {
    return images.findBySha256(sha256);
  }

  /** The image of that digest. */
  public Optional<ImageEntity> find(String sha256) {
    return images.findBySha256(sha256).filter(ImageEntity::here);
  }

  /**
   * Puts a finished image on the shelf; an identical one that is there already is the same image.
   */
  public ImageEntity keep(
      Path half,
      String name,
      Digests digests,
      long sectors,
      String origin,
      long lost,
      List<Holes.Hit> hits) {
    return keep(half, name, digests, sectors, new Source(origin, lost, hits, ""));
  }

  private ImageEntity keep(Path half, String name, Digests digests, long sectors, Source source) {
    shelf.keepImage(half, digests.sha256());
    Optional<ImageEntity> there = images.findBySha256(digests.sha256());
    if (there.isEmpty()) {
      return images.save(
          new ImageEntity(
              name,
              digests,
              sectors,
              source.origin(),
              source.lost(),
              source.hits(),
              source.layout(),
              clock.instant()));
    }
    return change(
        there.get().id(),
        i -> {
          i.setRemoved(false);
          i.setHere(true);
        });
  }

  /**
   * W-10: an image of a size and nothing on it, for a drive that a machine prepares itself.
   *
   * @param sectors of 512 bytes
   */
  public ImageEntity empty(String name, long sectors, Progress progress) {
    return make(name, sectors, Source.of("nothing"), m -> {}, progress);
  }

  /**
   * Where a new image comes from.
   *
   * @param origin in words
   * @param lost sectors that did not come back when its source was read
   * @param hits what they hit
   * @param layout how it lies, where nothing on it says so; "" where something does
   */
  public record Source(String origin, long lost, List<Holes.Hit> hits, String layout) {
    public static Source of(String origin) {
      return new Source(origin, 0, List.of(), "");
    }
  }

  /**
   * A new image.
   *
   * @param fill what is written on it; it is all zero before
   */
  public ImageEntity make(
      String name, long sectors, Source source, Consumer<Medium> fill, Progress progress) {
    shelf.needRoom(sectors * 512);
    Path half = shelf.freshHalf();
    try {
      Digests digests;
      try (FileMedium m = FileMedium.create(half, sectors)) {
        fill.accept(m);
        m.flush();
        digests = Digests.of(m, progress, "digesting");
      }
      return keep(half, name, digests, sectors, source);
    } finally {
      shelf.remove(half);
    }
  }

  /** Opens an image for reading, held against its digests while it is read; it is never written. */
  public Medium open(ImageEntity image) {
    return told(asItIs(image), image.layout());
  }

  private Medium asItIs(ImageEntity image) {
    return new ReadOnlyMedium(new VerifiedMedium(file(image), image.chunks(), image.sectors()));
  }

  private static Medium told(Medium m, String layout) {
    if (layout.isEmpty()) return m;
    try {
      return new LaidOutMedium(m, layout);
    } catch (RuntimeException e) {
      m.close();
      throw e;
    }
  }

  /**
   * Keeps how an image lies where nothing on it says so.
   *
   * @param layout as {@link LaidOutMedium} takes it; "" to leave it to what is found
   * @throws ShedException where there is no volume by it; nothing is kept then
   */
  public ImageEntity lies(long id, String layout) {
    if (layout.length() > MOST_LAYOUT) throw new ShedException("No layout has so many figures.");
    told(asItIs(get(id)), layout).close();
    return change(id, i -> i.setLayout(layout));
  }

  /** Its file as it lies there, for reading only; whoever takes it digests what came of it. */
  public FileMedium file(ImageEntity image) {
    if (!image.here()) throw gone(image);
    Path file = shelf.image(image.sha256());
    if (!Files.exists(file)) {
      throw new ShedException(
          "The bytes of “"
              + image.name()
              + "” are not on this shelf, although they should be: its folder was exchanged, or a file"
              + " was taken out of it. Put the shelf's folder back, or bring the image in again.");
    }
    return FileMedium.open(file);
  }

  /**
   * Opens a file of an image that is the image of a drive itself.
   *
   * @param in steps down, "1/DRIVE1.IMG", each behind a {@code |}; "" for the image itself
   */
  public Medium open(ImageEntity image, String in) {
    Medium outer = open(image);
    try {
      return in.isEmpty() ? outer : new Within(outer, Inside.open(outer, List.of(in.split("\\|"))));
    } catch (RuntimeException e) {
      outer.close();
      throw e;
    }
  }

  public Survey survey(ImageEntity image) {
    return survey(image, "");
  }

  /** The survey of an image in an image; steps as in {@link #open(ImageEntity, String)}. */
  Survey survey(ImageEntity image, String in) {
    String key = image.sha256() + image.layout() + in;
    Survey known = surveys.get(key);
    if (known != null) return known;
    try (Medium m = open(image, in)) {
      Survey s = Surveyor.survey(m);
      surveys.put(key, s);
      return s;
    }
  }

  /** On which of its volumes files lie, as {@link StartFiles#on} says it. */
  public Map<String, Set<Integer>> lying(ImageEntity image, List<String> paths) {
    String key = image.sha256() + image.layout() + paths;
    Map<String, Set<Integer>> known = lying.get(key);
    if (known != null) return known;
    try (Medium m = open(image)) {
      Map<String, Set<Integer>> found = StartFiles.on(m, paths);
      lying.put(key, found);
      return found;
    }
  }

  /** One volume of an image, by the number that its survey gave it. */
  Volume volume(Medium medium, ImageEntity image, int number) {
    return volume(medium, image, "", number);
  }

  Volume volume(Medium medium, ImageEntity image, String in, int number) {
    Survey.Found v =
        survey(image, in).volumes().stream()
            .filter(x -> x.number() == number && x.readable())
            .findFirst()
            .orElseThrow(
                () ->
                    new ShedException("This image has no volume " + number + " that can be read."));
    return Volumes.at(medium, v.number()).volume();
  }

  /** What lies where on an image; kept for the few that are looked at. */
  public Whereabouts whereabouts(ImageEntity image) {
    Whereabouts known = places.get(image.sha256());
    if (known != null) return known;
    try (Medium m = open(image)) {
      Whereabouts w = Whereabouts.of(m);
      places.put(image.sha256(), w);
      return w;
    }
  }

  public Path map(ImageEntity image) {
    return shelf.imageMap(image.sha256());
  }
}
