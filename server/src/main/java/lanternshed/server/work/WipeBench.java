package lanternshed.server.work;

import java.time.Clock;
import java.util.List;
import lanternshed.core.measure.Say;
import lanternshed.core.medium.Medium;
import lanternshed.core.work.Progress;
import lanternshed.core.work.Wipe;
import lanternshed.server.certificates.Certificate;
import lanternshed.server.certificates.CertificateService;
import lanternshed.server.images.ImageEntity;
import lanternshed.server.images.ImageService;
import lanternshed.server.jobs.JobEntity;
import lanternshed.server.jobs.JobService;
import lanternshed.server.logbook.LogService;
import lanternshed.server.media.MediaService;
import lanternshed.server.media.MediumEntity;
import lanternshed.server.media.MediumView;
import lanternshed.server.shell.Json;
import lanternshed.server.stations.Station;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Component;

/** Z-3: wipes a medium, reads it back and gives out the certificate. */
@Component
class WipeBench implements Bench {
  private final MediaService media;
  private final WipeGuard guard;
  private final CardBench card;
  private final JobService jobs;
  private final ImageService images;
  private final CertificateService certificates;
  private final LogService log;
  private final Clock clock;
  private final ObjectProvider<WorkService> work;

  WipeBench(
      MediaService media,
      WipeGuard guard,
      CardBench card,
      JobService jobs,
      ImageService images,
      CertificateService certificates,
      LogService log,
      Clock clock,
      ObjectProvider<WorkService> work) {
    this.media = media;
    this.guard = guard;
    this.card = card;
    this.jobs = jobs;
    this.images = images;
    this.certificates = certificates;
    this.log = log;
    this.clock = clock;
    this.work = work;
  }

  /**
   * What was asked for, as it is kept with the work.
   *
   * @param by who wipes it, as they call themselves
   * @param nothingNeeded whether they said that nobody needs what was on it; absent for no
   */
  record Wish(Wipe.Order order, String by, Boolean nothingNeeded) {
    Wish at(Wipe.Order now) {
      return new Wish(now, by, nothingNeeded);
    }
  }

  @Override
  public WorkEntity.Kind kind() {
    return WorkEntity.Kind.WIPE;
  }

  @Override
  public void run(WorkEntity w, Progress progress) {
    MediumEntity m = media.get(w.mediumId().orElseThrow());
    Wish wish = Json.read(w.wish(), Wish.class);
    // From the first byte on it is only half what it was: then it is wiped to the end.
    if (m.overwritten().isEmpty())
      guard.stillPass(m, Boolean.TRUE.equals(wish.nothingNeeded()), progress);
    card.overwritten(null, m, "wiping");
    media.overwritten(m.id());
    Wipe.Report report;
    try (Medium to =
        media.openToWipe(m, media.pace(), c -> new Wipe(c, wish.order()).begun(w.place()))) {
      Wipe wipe = new Wipe(to, wish.order());
      wipe.overwrite(
          w.place(),
          (place, so) -> work.getObject().place(w.id(), place, Json.write(wish.at(so))),
          progress);
      report = wipe.look(progress);
    }
    long number = certificates.issue(m.id(), certificate(w, m, wish, report));
    for (JobEntity j : jobs.fromMedium(m.id())) {
      log.shed(
          j.id(),
          Station.CLOSE.number(),
          m.name() + ": " + report.sentence() + " Certificate " + number + ".");
    }
  }

  private Certificate certificate(WorkEntity w, MediumEntity m, Wish wish, Wipe.Report r) {
    List<Certificate.Kept> kept =
        jobs.fromMedium(m.id()).stream()
            .flatMap(j -> j.rescuedId().flatMap(images::known).stream().map(i -> kept(j, i)))
            .toList();
    return new Certificate(
        Certificate.FORM,
        new Certificate.Medium(
            m.name(),
            MediaService.inWords(m),
            media.printed(m),
            MediumView.of(m).standIn(),
            r.sectors(),
            Say.mib(r.sectors() * 512)),
        r.school().words(),
        r.looked() == r.sectors()
            ? "whole, " + Say.sectors(r.looked())
            : "a sample of "
                + Say.sectors(r.looked())
                + ": had one in 1 000 kept its content, it would have been met in 999 of 1 000 cases",
        r.looked(),
        r.wiped(),
        r.sentence(),
        r.unwritten(),
        r.unread(),
        r.otherwise(),
        r.sha256(),
        WipeGuard.outOfReach(m),
        kept,
        wish.by(),
        w.started(),
        clock.instant());
  }

  private static Certificate.Kept kept(JobEntity j, ImageEntity i) {
    return new Certificate.Kept(j.machine(), i.name(), i.sha256(), i.lost());
  }

  @Override
  public void failed(WorkEntity w, String sentence) {
    // The work itself says so; no station waits for it.
  }

  @Override
  public void cancelled(WorkEntity w) {
    // It is overwritten to where it came; no certificate says otherwise.
  }
}
