package lanternshed.server.work;

import java.util.ArrayList;
import java.util.List;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.measure.Sum;
import lanternshed.core.work.CardWriter;
import lanternshed.server.images.ImageEntity;
import lanternshed.server.images.ImageService;
import lanternshed.server.media.MediumEntity;
import lanternshed.server.shell.Settings;
import org.springframework.stereotype.Component;

/** W-3 and W-4 before a card is written, whoever asks for it. */
@Component
class WriteGuard {
  private final Settings settings;
  private final ImageService images;

  WriteGuard(Settings settings, ImageService images) {
    this.settings = settings;
    this.images = images;
  }

  /**
   * @param holds the image that the card holds by its last read-back, by its name; "" for none
   */
  record WriteCheck(
      long mediumId,
      String description,
      String confirmHint,
      List<String> refusals,
      Sum because,
      String holds) {}

  /**
   * @param origin whether the image came from this very medium
   */
  WriteCheck check(ImageEntity image, MediumEntity m, boolean origin) {
    return new WriteCheck(
        m.id(),
        described(m),
        HINT,
        refusals(m, origin, image.sectors()),
        Sum.of("W-4", "Image against card")
            .sectors("", "image", image.sectors())
            .sectors(image.sectors() <= m.sectors() ? "≤" : ">", "card", m.sectors())
            .sectors("=", "difference", m.sectors() - image.sectors())
            .because("The card must hold the whole image, to the sector.")
            .done(),
        m.holdsImage().flatMap(images::known).map(ImageEntity::name).orElse(""));
  }

  /** Before a card is written over without an image. */
  WriteCheck check(MediumEntity m) {
    return new WriteCheck(m.id(), described(m), HINT, refusals(m, false, 0), m.card().sum(), "");
  }

  /**
   * @throws ShedException with the first reason not to write over it
   */
  void pass(MediumEntity m, String confirm) {
    pass(0, m, false, confirm);
  }

  /** The image that a card holds already, as the wish of a write; "" where all is to be written. */
  static String held(MediumEntity m, Boolean onlyChanges) {
    return Boolean.TRUE.equals(onlyChanges) ? m.holdsImage().map(String::valueOf).orElse("") : "";
  }

  private static final String HINT = "the last four of its serial";

  private static String described(MediumEntity m) {
    return m.name() + ", " + Say.sectors(m.sectors()) + ", serial " + m.serial();
  }

  /**
   * @throws ShedException with the first reason not to write
   */
  void pass(ImageEntity image, MediumEntity m, boolean origin, String confirm) {
    pass(image.sectors(), m, origin, confirm);
  }

  private void pass(long sectors, MediumEntity m, boolean origin, String confirm) {
    CardWriter.Target t = target(m, origin);
    List<String> refusals = refusals(m, origin, sectors);
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

  private List<String> refusals(MediumEntity m, boolean origin, long sectors) {
    List<String> out = new ArrayList<>();
    // A look that would tell whether it is still so is no use of it.
    if (sectors > 0) {
      if (m.bad()) out.add(m.name() + ": " + m.trueSize().orElseThrow().sentence());
    }
    out.addAll(CardWriter.refusals(target(m, origin), sectors, settings.mostCardSectors()));
    return out;
  }

  private static CardWriter.Target target(MediumEntity m, boolean origin) {
    return new CardWriter.Target(
        m.name(), m.serial(), m.sectors(), m.removable(), m.mounted(), origin);
  }
}
