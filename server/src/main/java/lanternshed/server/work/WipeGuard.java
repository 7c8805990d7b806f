package lanternshed.server.work;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.work.Progress;
import lanternshed.server.images.ImageEntity;
import lanternshed.server.images.ImageService;
import lanternshed.server.jobs.JobEntity;
import lanternshed.server.jobs.JobService;
import lanternshed.server.jobs.Lamp;
import lanternshed.server.media.MediaService;
import lanternshed.server.media.MediumEntity;
import lanternshed.server.shell.Settings;
import lanternshed.server.stations.Station;
import org.springframework.stereotype.Component;

/** Z-3: nothing is wiped that may be the only copy of anything. */
@Component
class WipeGuard {
  private final JobService jobs;
  private final MediaService media;
  private final ImageService images;
  private final WriteGuard guard;
  private final Settings settings;

  WipeGuard(
      JobService jobs,
      MediaService media,
      ImageService images,
      WriteGuard guard,
      Settings settings) {
    this.jobs = jobs;
    this.media = media;
    this.images = images;
    this.guard = guard;
    this.settings = settings;
  }

  /**
   * @param letters how many characters confirm it; 0 where any number may
   * @param refusals why it is not wiped; empty where it may be
   * @param unknown what lies on a card that the shed keeps no image of; whoever wipes it says that
   *     nothing of it is needed. "" where that is known
   * @param warnings what whoever wipes it should have thought of
   * @param kept images of the shelf of what was on it, by their names
   */
  record WipeCheck(
      long mediumId,
      String description,
      String confirmHint,
      int letters,
      List<String> refusals,
      String unknown,
      List<String> warnings,
      List<String> kept) {}

  WipeCheck check(MediumEntity m) {
    List<ImageEntity> kept = images(m);
    List<String> refusals = refusals(m);
    return new WipeCheck(
        m.id(),
        guard.described(m),
        guard.hint(m),
        guard.letters(m),
        refusals,
        refusals.isEmpty() ? unknown(m).orElse("") : "",
        warnings(m),
        kept.stream().map(ImageEntity::name).distinct().toList());
  }

  /**
   * @param nothingNeeded whether somebody looked at what is on it and said that nobody needs it
   * @throws ShedException with the first reason not to wipe it
   */
  void pass(MediumEntity m, String confirm, boolean nothingNeeded) {
    refuse(m, nothingNeeded);
    guard.typed(m, confirm);
    media.confirmed(m.id());
  }

  /**
   * Asked once more before the first byte, as the order may have waited: the images that stand for
   * it are read, and are what was kept.
   *
   * @throws ShedException with the first reason not to wipe it
   */
  void stillPass(MediumEntity m, boolean nothingNeeded, Progress progress) {
    refuse(m, nothingNeeded);
    for (ImageEntity i : images(m)) {
      images
          .spoiled(i, progress)
          .ifPresent(
              why -> {
                throw new ShedException(
                    "Nothing is wiped: of the image \""
                        + i.name()
                        + "\" on the shelf "
                        + why
                        + ". Rescue the medium again.");
              });
    }
  }

  private void refuse(MediumEntity m, boolean nothingNeeded) {
    List<String> refusals = refusals(m);
    if (!refusals.isEmpty()) throw new ShedException(refusals.get(0));
    if (nothingNeeded) return;
    unknown(m)
        .ifPresent(
            there -> {
              throw new ShedException(
                  "The shed keeps no image of what is on "
                      + m.name()
                      + " ("
                      + there
                      + "), so it may be the only copy. Look at it and say that nothing on it is"
                      + " needed; or keep what is on it, packed, and bring that in first.");
            });
  }

  private Optional<String> unknown(MediumEntity m) {
    return media.unknown(m, i -> images.known(i).isPresent());
  }

  /** The images that its jobs made of it. */
  List<ImageEntity> images(MediumEntity m) {
    return jobs.fromMedium(m.id()).stream()
        .flatMap(j -> j.rescuedId().flatMap(images::known).stream())
        .toList();
  }

  private List<String> refusals(MediumEntity m) {
    List<String> out = new ArrayList<>();
    if (m.kind() == MediumEntity.Kind.FILE) {
      return List.of(m.name() + " is an image that was brought in; take it away instead.");
    }
    List<JobEntity> from = jobs.fromMedium(m.id());
    for (JobEntity j : from) unproved(j).ifPresent(out::add);
    if (from.isEmpty() && !m.isCard()) {
      out.add(
          "No job has made an image of "
              + m.name()
              + ", so it may be the only copy. Open a job, rescue it and prove the image first.");
    }
    for (JobEntity j : jobs.onCard(m.id())) {
      if (j.closed()) continue;
      out.add(m.name() + " is the card of the open job " + j.machine() + "; close that one first.");
    }
    if (m.isCard() && m.sectors() > settings.mostCardSectors()) {
      out.add(
          m.name()
              + " has "
              + Say.mib(m.sectors() * 512)
              + "; media above "
              + Say.mib(settings.mostCardSectors() * 512)
              + " are not taken for cards.");
    }
    out.addAll(media.refusals(m));
    return out;
  }

  /** Why the image of a job does not stand for its old medium yet. */
  private Optional<String> unproved(JobEntity j) {
    if (j.rescuedId().flatMap(images::known).isEmpty()) {
      return Optional.of(
          "Of the old medium of "
              + j.machine()
              + " there is no image on the shelf; rescue it"
              + " first.");
    }
    boolean built = j.station(Station.BUILD).state() == Lamp.MOSS && j.builtId().isPresent();
    boolean backup = j.closed() && j.goldenId().equals(j.rescuedId());
    if (built || backup) return Optional.empty();
    return Optional.of(
        "The image of the old medium of "
            + j.machine()
            + " is not proved yet; until then the medium is the only sure copy. Go on with that job"
            + " to Build, or close it as a backup.");
  }

  private List<String> warnings(MediumEntity m) {
    List<String> out = new ArrayList<>();
    for (JobEntity j : jobs.fromMedium(m.id())) {
      if (!j.closed()) {
        out.add("The job " + j.machine() + " is still open; its card is not proved to the end.");
      }
      j.rescuedId()
          .flatMap(images::known)
          .filter(i -> i.lost() > 0)
          .ifPresent(
              i ->
                  out.add(
                      Say.sectors(i.lost())
                          + " of it never came; after this nobody can try again."));
    }
    if (m.holdsImage().isPresent()) {
      out.add("It holds an image by its last read-back; a machine may still be using it.");
    }
    return out;
  }

  /** What no writing comes to, by the kind of medium. */
  static String outOfReach(MediumEntity m) {
    return switch (m.kind()) {
      case CARD, DRIVE ->
          "This is a stand-in: its bytes lie in a file of the shelf, and the disk below may keep"
              + " older states of that file.";
      case READER ->
          "A card keeps worn and spare blocks to itself, and what was in them no writing reaches."
              + " Where that matters, destroy it.";
      default ->
          "A drive puts failing sectors aside and may keep an area out of its own size; no writing"
              + " reaches either. Where that matters, destroy it.";
    };
  }
}
