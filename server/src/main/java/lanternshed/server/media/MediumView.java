package lanternshed.server.media;

import java.util.Optional;
import lanternshed.core.machine.Card;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.work.TrueSize;

/**
 * A medium as the screens show it.
 *
 * @param standIn whether it is no real medium but a stand-in whose bytes lie on the shelf
 * @param card whether new images go on it
 * @param node the device node of a real medium; "" for what lies on the shelf
 * @param remark what was noticed when it was brought in; "" for nothing
 * @param joint the connector that it is made for, by its key; "" where nobody said
 * @param trueSize what a look at it found (W-6); empty where nobody looked
 * @param overwritten whether it was wiped, wholly or in part, and holds nothing since
 * @param holdsImage the image that it holds by its last read-back; 0 for none
 */
public record MediumView(
    long id,
    String name,
    String kind,
    String serial,
    long sectors,
    boolean measured,
    String size,
    String label,
    Sum sizeBecause,
    boolean standIn,
    boolean card,
    String node,
    String remark,
    boolean overwritten,
    long holdsImage,
    String own,
    String joint,
    Optional<TrueLook> trueSize) {

  /** What a look at its true size found. */
  public record TrueLook(TrueSize.Kind kind, String sentence, Sum because) {
    static TrueLook of(TrueSize.Report r) {
      return new TrueLook(r.kind(), r.sentence(), r.because());
    }
  }

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
        card.sum(),
        m.kind() == MediumEntity.Kind.CARD || m.kind() == MediumEntity.Kind.DRIVE,
        m.isCard(),
        m.node(),
        m.remark(),
        m.overwritten().isPresent(),
        m.holdsImage().orElse(0L),
        m.own().map(g -> g.cylinders() + " · " + g.heads() + " · " + g.sectors()).orElse(""),
        m.joint(),
        m.trueSize().map(TrueLook::of));
  }
}
