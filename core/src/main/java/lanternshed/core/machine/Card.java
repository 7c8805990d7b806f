package lanternshed.core.machine;

import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;

/**
 * A card as it is known: by its label only, or measured.
 *
 * @param labelBytes decimal bytes of the label; 0 where only the measure is known
 * @param measured true sectors; 0 while it is not measured
 * @param own the C/H/S that it answers by itself, which firmware without translation uses (G-19)
 */
public record Card(String name, long labelBytes, long measured, Optional<Geometry> own) {

  /** A card whose own geometry is not known. */
  public Card(String name, long labelBytes, long measured) {
    this(name, labelBytes, measured, Optional.empty());
  }

  /** Below this label whole steps of 16 MiB would leave nothing of a small card. */
  private static final long SMALL = 256_000_000;

  /** Sectors to plan with: the true count, or U-3's share of the label. */
  public long planSectors() {
    return measured > 0 ? measured : labelBytes / 100 * 93 / step() * step() / 512;
  }

  private long step() {
    return labelBytes < SMALL ? Say.MIB : 16 * Say.MIB;
  }

  public Sum sum() {
    if (measured > 0) {
      return Sum.of("U-3", "Card as measured")
          .note("card", name)
          .sectorsAsSize(measured)
          .because("Its true sector count is known, so it counts and not the label.")
          .lift("a larger card")
          .done();
    }
    return Sum.of("U-3", "Card by its label")
        .note("card", name)
        .bytes("", "label, decimal", labelBytes)
        .line("×", "share to count on", 93, "93 %")
        .bytes("=", "at least", labelBytes / 100 * 93)
        .bytes("÷", "whole steps of", step())
        .sectorsAsSize(planSectors())
        .because(
            "Makers count 1 MB as 1 000 000 bytes and may leave out up to 7 %. Until the card is measured,"
                + " this is what every card of the label holds.")
        .lift("measure the card")
        .done();
  }

  /** All cards of a board as one (V-5): by their labels unless every one is measured. */
  public static Card together(List<Card> cards) {
    boolean known = cards.stream().allMatch(c -> c.measured() > 0);
    if (cards.size() == 1) return cards.get(0);
    return new Card(
        Say.plural(cards.size(), "card", "cards") + " together",
        cards.stream().mapToLong(Card::labelBytes).sum(),
        known ? cards.stream().mapToLong(Card::measured).sum() : 0);
  }

  /** The smallest of the drawer (G-18): an image for several cards must fit it. */
  public static Card smallest(List<Card> drawer) {
    return drawer.stream().min(Comparator.comparingLong(Card::planSectors)).orElseThrow();
  }
}
