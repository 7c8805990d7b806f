package lanternshed.server.work;

import java.util.ArrayList;
import java.util.List;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.measure.Sum;
import lanternshed.core.work.CardWriter;
import lanternshed.server.images.ImageEntity;
import lanternshed.server.images.ImageService;
import lanternshed.server.media.MediaService;
import lanternshed.server.media.MediumEntity;
import lanternshed.server.shell.Settings;
import org.springframework.stereotype.Component;

/** W-3 and W-4 before a card is written, whoever asks for it. */
@Component
class WriteGuard {
  private final Settings settings;
  private final ImageService images;
  private final MediaService media;

  WriteGuard(Settings settings, ImageService images, MediaService media) {
    this.media = media;
    this.settings = settings;
    this.images = images;
  }

  /**
   * @param letters how many characters confirm it; 0 where any number may
   * @param holds the image that the card holds by its last read-back, by its name; "" for none
   */
  record WriteCheck(
      long mediumId,
      String description,
      String confirmHint,
      int letters,
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
        hint(m),
        letters(m),
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
    return new WriteCheck(
        m.id(), described(m), hint(m), letters(m), refusals(m, false, 0), m.card().sum(), "");
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

  private static final int LAST = 4;

  int letters(MediumEntity m) {
    return media.printed(m).length() < LAST ? 0 : LAST;
  }

  String hint(MediumEntity m) {
    return letters(m) == 0
        ? "what is on it now, as it is named above"
        : "the last four of its serial, as it is printed on the " + (m.isCard() ? "card" : "drive");
  }

  /** Whether it is a real card, and which; of a card without a serial what it holds now. */
  String described(MediumEntity m) {
    String what = m.name() + ", " + Say.sectors(m.sectors());
    String serial = media.printed(m);
    if (!serial.isEmpty()) what += ", serial " + serial;
    if (!m.real()) return what;
    String now = letters(m) == 0 && media.refusals(m).isEmpty() ? media.word(m) : "";
    return what
        + (m.isCard() ? ", a real card in " : ", a real drive at ")
        + m.node()
        + (now.isEmpty() ? "" : "; on it now: " + now);
  }

  /**
   * @throws ShedException with the first reason not to write
   */
  void pass(ImageEntity image, MediumEntity m, boolean origin, String confirm) {
    pass(image.sectors(), m, origin, confirm);
  }

  private void pass(long sectors, MediumEntity m, boolean origin, String confirm) {
    List<String> refusals = refusals(m, origin, sectors);
    if (!refusals.isEmpty()) throw new ShedException(refusals.get(0));
    typed(m, target(m, media.word(m), origin), confirm);
  }

  /** That this very medium is meant is typed by whoever has it in their hands. */
  void typed(MediumEntity m, String confirm) {
    typed(m, target(m, media.word(m), false), confirm);
  }

  private void typed(MediumEntity m, CardWriter.Target t, String confirm) {
    if (!CardWriter.confirmed(t, confirm)) {
      throw new ShedException(
          "\""
              + confirm
              + (letters(m) == 0
                  ? "\" is not what is on "
                  : "\" are not the last four characters of the serial of ")
              + m.name()
              + ". Read it from the "
              + (m.isCard() ? "card" : "drive")
              + " and type it again; nothing was written.");
    }
    media.confirmed(m.id());
  }

  private List<String> refusals(MediumEntity m, boolean origin, long sectors) {
    List<String> out = new ArrayList<>();
    // A look that would tell whether it is still so is no use of it.
    if (sectors > 0) {
      if (m.bad()) out.add(m.name() + ": " + m.trueSize().orElseThrow().sentence());
    }
    out.addAll(media.refusals(m));
    out.addAll(CardWriter.refusals(target(m, "", origin), sectors, settings.mostCardSectors()));
    return out;
  }

  /** What stands for a removable mark at a node the list of readers says. */
  private static CardWriter.Target target(MediumEntity m, String word, boolean origin) {
    return new CardWriter.Target(m.name(), word, m.sectors(), m.removable(), m.mounted(), origin);
  }
}
