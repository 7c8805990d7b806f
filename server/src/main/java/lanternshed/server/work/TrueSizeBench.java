package lanternshed.server.work;

import java.util.function.Predicate;
import lanternshed.core.medium.Medium;
import lanternshed.core.work.Progress;
import lanternshed.core.work.TrueSize;
import lanternshed.server.media.MediaService;
import lanternshed.server.media.MediumEntity;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Component;

/** W-6: writes over a card to see how many sectors it keeps, and notes them with the card. */
@Component
class TrueSizeBench implements Bench {
  /** Every sector; anything else is the quick look. */
  static final String FULL = "full";

  private final MediaService media;
  private final CardBench card;
  private final ObjectProvider<WorkService> work;

  TrueSizeBench(MediaService media, CardBench card, ObjectProvider<WorkService> work) {
    this.media = media;
    this.card = card;
    this.work = work;
  }

  @Override
  public WorkEntity.Kind kind() {
    return WorkEntity.Kind.TRUE_SIZE;
  }

  @Override
  public void run(WorkEntity w, Progress progress) {
    MediumEntity m = media.get(w.mediumId().orElseThrow());
    card.overwritten(null, m, "a look at its true size");
    // The number of the work tells its sectors from those of an earlier look.
    Predicate<Medium> begun = c -> TrueSize.begun(c, w.id(), w.place());
    try (Medium c = media.openCard(m, media.pace(), begun)) {
      media.sized(m.id(), look(w, c, progress));
    }
  }

  private TrueSize.Report look(WorkEntity w, Medium c, Progress progress) {
    long seed = w.id();
    if (!w.wish().equals(FULL)) return TrueSize.quick(c, seed, progress);
    TrueSize.fill(c, seed, w.place(), s -> work.getObject().place(w.id(), s), progress);
    return TrueSize.readAll(c, seed, progress);
  }

  @Override
  public void failed(WorkEntity w, String sentence) {
    // The work itself says so; no station waits for it.
  }

  @Override
  public void cancelled(WorkEntity w) {
    // The card holds patterns; media say so by holding no image.
  }
}
