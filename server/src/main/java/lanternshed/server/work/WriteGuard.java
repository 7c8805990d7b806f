package lanternshed.server.work;

import java.util.List;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.measure.Sum;
import lanternshed.core.work.CardWriter;
import lanternshed.server.images.ImageEntity;
import lanternshed.server.media.MediumEntity;
import lanternshed.server.shell.Settings;
import org.springframework.stereotype.Component;

/** W-3 and W-4 before a card is written, whoever asks for it. */
@Component
class WriteGuard {
  private final Settings settings;

  WriteGuard(Settings settings) {
    this.settings = settings;
  }

  record WriteCheck(
      long mediumId, String description, String confirmHint, List<String> refusals, Sum because) {}

  /**
   * @param origin whether the image came from this very medium
   */
  WriteCheck check(ImageEntity image, MediumEntity m, boolean origin) {
    return new WriteCheck(
        m.id(),
        m.name() + ", " + Say.sectors(m.sectors()) + ", serial " + m.serial(),
        "the last four of its serial",
        CardWriter.refusals(target(m, origin), image.sectors(), settings.mostCardSectors()),
        Sum.of("W-4", "Image against card")
            .sectors("", "image", image.sectors())
            .sectors(image.sectors() <= m.sectors() ? "≤" : ">", "card", m.sectors())
            .sectors("=", "difference", m.sectors() - image.sectors())
            .because("The card must hold the whole image, to the sector.")
            .done());
  }

  /**
   * @throws ShedException with the first reason not to write
   */
  void pass(ImageEntity image, MediumEntity m, boolean origin, String confirm) {
    CardWriter.Target t = target(m, origin);
    List<String> refusals = CardWriter.refusals(t, image.sectors(), settings.mostCardSectors());
    if (!refusals.isEmpty()) throw new ShedException(refusals.get(0));
    if (!CardWriter.confirmed(t, confirm)) {
      throw new ShedException(
          "\""
              + confirm
              + "\" are not the last four characters of the serial of "
              + m.name()
              + ". Read them from the card and type them again; nothing was written.");
    }
  }

  private static CardWriter.Target target(MediumEntity m, boolean origin) {
    return new CardWriter.Target(
        m.name(), m.serial(), m.sectors(), m.removable(), m.mounted(), origin);
  }
}
