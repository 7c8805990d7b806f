package lanternshed.server.work;

import java.util.Objects;
import java.util.Optional;
import lanternshed.core.measure.Say;
import lanternshed.core.medium.Medium;
import lanternshed.core.work.Begun;
import lanternshed.core.work.CardWriter;
import lanternshed.core.work.Progress;
import lanternshed.server.images.ImageEntity;
import lanternshed.server.images.ImageService;
import lanternshed.server.jobs.JobEntity;
import lanternshed.server.jobs.JobService;
import lanternshed.server.jobs.Lamp;
import lanternshed.server.logbook.LogService;
import lanternshed.server.media.MediaService;
import lanternshed.server.media.MediumEntity;
import lanternshed.server.stations.Station;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** Writes an image to a card, whoever asked, and reads it back. */
@Component
class CardBench {
  private final JobService jobs;
  private final MediaService media;
  private final ImageService images;
  private final LogService log;
  private final TransactionTemplate steps;
  private final ObjectProvider<WorkService> work;

  CardBench(
      JobService jobs,
      MediaService media,
      ImageService images,
      LogService log,
      TransactionTemplate steps,
      ObjectProvider<WorkService> work) {
    this.jobs = jobs;
    this.media = media;
    this.images = images;
    this.log = log;
    this.steps = steps;
    this.work = work;
  }

  /**
   * @param forWhom the machine or image for whose sake the card is written over
   */
  CardWriter.Report write(
      WorkEntity w, ImageEntity image, MediumEntity m, String forWhom, Progress progress) {
    overwritten(w.ofJob() ? w.jobId() : null, m, forWhom);
    Optional<ImageEntity> held =
        w.wish().isEmpty() ? Optional.empty() : images.known(Long.parseLong(w.wish()));
    long from = w.place();
    try (Medium wanted = images.open(image);
        Medium there = held.map(images::open).orElse(null);
        Medium card = media.openCard(m, media.pace(), c -> Begun.on(c, from, wanted::sector))) {
      long written =
          CardWriter.write(
              wanted,
              Optional.ofNullable(there),
              card,
              from,
              s -> work.getObject().place(w.id(), s),
              progress);
      CardWriter.Report r = CardWriter.readBack(wanted, card, progress);
      return held.isEmpty() ? r : told(r, written, image.sectors() - from, held.get());
    }
  }

  /** What was spared, or that the card did not hold what its record said. */
  private static CardWriter.Report told(
      CardWriter.Report r, long written, long all, ImageEntity held) {
    String spared =
        r.identical()
            ? " "
                + Say.mib(written * 512)
                + " of "
                + Say.mib(all * 512)
                + " were written; the rest was there from “"
                + held.name()
                + "”."
            : " It did not hold “" + held.name() + "” any more; write all of it.";
    return new CardWriter.Report(r.sectors(), r.firstDifference(), r.sum() + spared);
  }

  /**
   * Before the first byte: what the card held is gone, and every job that counted on it hears so.
   */
  void overwritten(Long job, MediumEntity m, String forWhom) {
    steps.executeWithoutResult(
        t -> {
          media.holds(m.id(), null);
          for (JobEntity other : jobs.onCard(m.id())) {
            if (Objects.equals(other.id(), job)) continue;
            toldTo(other, m, forWhom);
            if (job == null) continue;
            log.shed(
                job,
                Station.WRITE.number(),
                m.name() + " held the image of " + other.machine() + "; it is written over.");
          }
        });
  }

  /**
   * A closed job keeps its lamps: what was proved then was proved, and its image is on the shelf;
   * an open one writes again.
   */
  private void toldTo(JobEntity other, MediumEntity m, String forWhom) {
    String what = m.name() + " was written over for " + forWhom;
    jobs.change(
        other.id(),
        j -> {
          j.setCard(null);
          if (!other.closed()) j.redoAfter(Station.WRITE);
        });
    if (other.closed())
      log.shed(other.id(), Station.CLOSE.number(), what + "; this job's image stays on the shelf.");
    else jobs.set(other.id(), Station.WRITE, Lamp.LIT, what + "; write this image again.");
  }
}
