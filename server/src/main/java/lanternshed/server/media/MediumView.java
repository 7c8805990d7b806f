package lanternshed.server.media;

import lanternshed.core.machine.Card;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;

/** A medium as the screens show it. */
public record MediumView(
    long id,
    String name,
    String kind,
    String serial,
    long sectors,
    boolean measured,
    String size,
    String label,
    Sum sizeBecause) {

  public static MediumView of(MediumEntity m) {
    Card card = m.card();
    return new MediumView(
        m.id(),
        m.name(),
        MediaService.inWords(m),
        m.serial(),
        m.sectors(),
        m.measured(),
        Say.mib(card.planSectors() * 512),
        m.labelBytes() == 0 ? "" : Say.mb(m.labelBytes()),
        card.sum());
  }
}
